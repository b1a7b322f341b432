import type { Kysely } from 'kysely';

/** Two entries that are one person are merged; what that changed is kept, so that it can be taken back. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('people_merges')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('gone', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('kept', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('changed', 'text', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('undone_at', 'text')
    .execute();
}
