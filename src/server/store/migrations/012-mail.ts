import type { Kysely } from 'kysely';

/** The address a project's letters go out from, where it is not that of whoever writes them. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('projects').addColumn('sender', 'text').execute();
}
