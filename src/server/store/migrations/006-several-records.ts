import { type Kysely, sql } from 'kysely';

/**
 * Several records of one meeting: what two of them say is one find; one can take the place of another; who speaks can
 * be put right. Then what a person says of a find (right, wrong), which finds to come are weighed by, the closing of a
 * meeting, which commitments look the same and are not, and how long a
 * project keeps its records.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .alterTable('finds')
    .addColumn('twin_of', 'integer', (c) => c.references('finds.id'))
    .execute();
  await db.schema.createIndex('finds_twin_of').on('finds').column('twin_of').execute();
  await db.schema
    .alterTable('records')
    .addColumn('replaced_by', 'integer', (c) => c.references('records.id'))
    .execute();
  for (const column of ['said_by', 'read_as', 'media']) await db.schema.alterTable('records').addColumn(column, 'text').execute();
  await db.schema
    .createTable('series_voices')
    .addColumn('series_id', 'text', (c) => c.notNull().references('series.id'))
    .addColumn('label', 'text', (c) => c.notNull())
    .addColumn('person_id', 'text', (c) => c.notNull().references('people.id'))
    .addPrimaryKeyConstraint('series_voices_key', ['series_id', 'label'])
    .execute();
  await db.schema
    .createTable('find_judgements')
    .addColumn('find_id', 'integer', (c) => c.notNull().references('finds.id'))
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('right', 'integer', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addPrimaryKeyConstraint('find_judgements_key', ['find_id', 'by_person'])
    .execute();
  await db.schema
    .createTable('learned_resets')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .execute();
  await db.schema
    .alterTable('commitments')
    .addColumn('undated', 'integer', (c) => c.notNull().defaultTo(0))
    .execute();
  await db.schema
    .createTable('differing')
    .addColumn('one', 'integer', (c) => c.notNull().references('commitments.id'))
    .addColumn('other', 'integer', (c) => c.notNull().references('commitments.id'))
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addPrimaryKeyConstraint('differing_key', ['one', 'other'])
    .execute();
  await db.schema.alterTable('projects').addColumn('keep_days', 'integer').execute();
  await db.schema.createIndex('commitments_meeting').on('commitments').column('meeting_id').execute();
  await db.schema.alterTable('meetings').addColumn('closed_at', 'text').execute();
  await sql.raw("CREATE TRIGGER records_replaced_once BEFORE UPDATE OF replaced_by ON records WHEN OLD.replaced_by IS NOT NULL AND NEW.replaced_by IS NOT NULL BEGIN SELECT RAISE(ABORT, 'a record is replaced once'); END").execute(db);
}
