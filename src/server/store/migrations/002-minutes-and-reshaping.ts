import { type Kysely, sql } from 'kysely';

/** Minutes: one draft a meeting, versions that never change, and what a series wants in them. Finds that are reshaped keep what they were. A letter can have minutes with it. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('minutes_drafts')
    .addColumn('meeting_id', 'integer', (c) => c.primaryKey().references('meetings.id'))
    .addColumn('draft', 'text', (c) => c.notNull())
    .addColumn('revision', 'integer', (c) => c.notNull())
    .addColumn('changed_at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .execute();
  await db.schema
    .createTable('minutes_versions')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('meeting_id', 'integer', (c) => c.notNull().references('meetings.id'))
    .addColumn('version', 'integer', (c) => c.notNull())
    .addColumn('minutes', 'text', (c) => c.notNull())
    .addColumn('changes', 'text', (c) => c.notNull())
    .addColumn('issued_on', 'text', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addUniqueConstraint('minutes_version_numbers', ['meeting_id', 'version'])
    .execute();
  await db.schema
    .createTable('series_minutes')
    .addColumn('series_id', 'text', (c) => c.primaryKey().references('series.id'))
    .addColumn('parts', 'text', (c) => c.notNull())
    .execute();
  await db.schema.alterTable('letters').addColumn('minutes_version', 'integer').execute();
  await db.schema.alterTable('find_changes').addColumn('before', 'text').execute();
  await db.schema
    .alterTable('find_changes')
    .addColumn('swallowed', 'integer', (c) => c.references('finds.id'))
    .execute();
  for (const change of ['UPDATE', 'DELETE']) {
    await sql.raw(`CREATE TRIGGER minutes_versions_no_${change.toLowerCase()} BEFORE ${change} ON minutes_versions BEGIN SELECT RAISE(ABORT, 'issued minutes are never changed and never deleted'); END`).execute(db);
  }
}
