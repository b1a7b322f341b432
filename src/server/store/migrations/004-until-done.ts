import type { Kysely } from 'kysely';

/** Putting off and the backlog, waiting for another commitment, jottings, saved views of the Ledger, close-outs. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('commitments').addColumn('put_off', 'text').execute();
  await db.schema
    .alterTable('commitments')
    .addColumn('waits_for', 'integer', (c) => c.references('commitments.id'))
    .execute();
  await db.schema.alterTable('statement_events').addColumn('note', 'text').execute();
  await db.schema
    .createTable('jottings')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('text', 'text', (c) => c.notNull())
    .addColumn('on_day', 'text', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('about_kind', 'text')
    .addColumn('about_id', 'text')
    .addColumn('standing', 'integer', (c) => c.notNull().defaultTo(0))
    .addColumn('became', 'text')
    .addColumn('removed_at', 'text')
    .execute();
  await db.schema.createIndex('jottings_by_day').on('jottings').columns(['project_id', 'on_day']).execute();
  await db.schema
    .createTable('ledger_views')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('person_id', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('name', 'text', (c) => c.notNull())
    .addColumn('query', 'text', (c) => c.notNull())
    .addColumn('grouping', 'text', (c) => c.notNull())
    .addUniqueConstraint('ledger_views_once', ['project_id', 'person_id', 'name'])
    .execute();
  await db.schema
    .createTable('close_outs')
    .addColumn('project_id', 'text', (c) => c.notNull().references('projects.id'))
    .addColumn('person_id', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('day', 'text', (c) => c.notNull())
    .addColumn('first_thing', 'text', (c) => c.notNull())
    .addColumn('summary', 'text', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addPrimaryKeyConstraint('close_outs_key', ['project_id', 'person_id', 'day'])
    .execute();
}
