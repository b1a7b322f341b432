import { type Kysely, sql } from 'kysely';

/**
 * What came before a forgetting, and what after it, is told by running numbers and not by the clock: a judgement and a
 * forgetting can fall into one millisecond. A judgement gets a number that is never given twice.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .createTable('judgements_in_order')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('find_id', 'integer', (c) => c.notNull().references('finds.id'))
    .addColumn('by_person', 'text', (c) => c.notNull().references('people.id'))
    .addColumn('right', 'integer', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addUniqueConstraint('find_judgements_key', ['find_id', 'by_person'])
    .execute();
  await sql.raw(`INSERT INTO judgements_in_order (find_id, by_person, "right", at) SELECT find_id, by_person, "right", at FROM find_judgements ORDER BY at`).execute(db);
  await db.schema.dropTable('find_judgements').execute();
  await db.schema.alterTable('judgements_in_order').renameTo('find_judgements').execute();
  for (const column of ['after_change', 'after_judgement'])
    await db.schema
      .alterTable('learned_resets')
      .addColumn(column, 'integer', (c) => c.notNull().defaultTo(0))
      .execute();
  await sql
    .raw(`UPDATE learned_resets SET
      after_change = COALESCE((SELECT MAX(c.id) FROM find_changes c WHERE c.at <= learned_resets.at), 0),
      after_judgement = COALESCE((SELECT MAX(j.id) FROM find_judgements j WHERE j.at <= learned_resets.at), 0)`)
    .execute(db);
}
