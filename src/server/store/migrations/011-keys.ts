import { type Kysely, sql } from 'kysely';

/** Columns that rows are looked up by. */
const LOOKED_UP_BY = ['letter_items.commitment_id', 'find_changes.event_id', 'answers.event_id', 'replies.recipient_id', 'events.meeting_id', 'statement_events.statement_id'];

/**
 * What the checks in the code promise is held by the database too: one record a project however often it is brought in, one
 * round-up of a meeting in a language. Both hold from here on: what an older Ottik kept twice stays as it is.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(`CREATE TRIGGER records_once_a_project BEFORE INSERT ON records WHEN EXISTS (
      SELECT 1 FROM records r JOIN meetings m ON m.id = r.meeting_id
      WHERE r.sha256 = NEW.sha256 AND m.project_id = (SELECT project_id FROM meetings WHERE id = NEW.meeting_id))
      BEGIN SELECT RAISE(ABORT, 'this record is kept already'); END`)
    .execute(db);
  await sql.raw('CREATE INDEX records_by_content ON records (sha256)').execute(db);
  const { rows } = await sql<{ last: number }>`SELECT COALESCE(MAX(id), 0) AS last FROM letters`.execute(db);
  await sql.raw(`CREATE UNIQUE INDEX round_ups_once ON letters (meeting_id, language) WHERE kind = 'round-up' AND state <> 'withdrawn' AND id > ${Number(rows[0]!.last)}`).execute(db);
  for (const column of LOOKED_UP_BY) {
    const [table, name] = column.split('.') as [string, string];
    await sql.raw(`CREATE INDEX IF NOT EXISTS ${table}_by_${name} ON ${table} (${name})`).execute(db);
  }
}
