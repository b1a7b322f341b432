import { type Kysely, sql } from 'kysely';

/** The end of a record's keeping: its words go, the quotes that things rest on stay; what was done about it is kept. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('records').addColumn('quotes', 'text').execute();
  await db.schema.alterTable('records').addColumn('gone_at', 'text').execute();
  await db.schema.alterTable('records').addColumn('told', 'text').execute();
  await db.schema
    .createTable('record_events')
    .addColumn('id', 'integer', (c) => c.primaryKey().autoIncrement())
    .addColumn('record_id', 'integer', (c) => c.notNull().references('records.id'))
    .addColumn('kind', 'text', (c) => c.notNull())
    .addColumn('note', 'text')
    .addColumn('on_day', 'text', (c) => c.notNull())
    .addColumn('at', 'text', (c) => c.notNull())
    .addColumn('by_person', 'text', (c) => c.references('people.id'))
    .execute();
  // bytes never change, but that they may be taken away once, for good
  await sql.raw('DROP TRIGGER records_as_they_came').execute(db);
  await sql.raw("CREATE TRIGGER records_as_they_came BEFORE UPDATE OF bytes, sha256, gone_at ON records WHEN NOT (NEW.sha256 = OLD.sha256 AND OLD.gone_at IS NULL AND NEW.gone_at IS NOT NULL AND length(NEW.bytes) = 0) BEGIN SELECT RAISE(ABORT, 'records are kept as they came'); END").execute(db);
  for (const change of ['UPDATE', 'DELETE']) await sql.raw(`CREATE TRIGGER record_events_no_${change.toLowerCase()} BEFORE ${change} ON record_events BEGIN SELECT RAISE(ABORT, 'record_events are never changed and never deleted'); END`).execute(db);
}
