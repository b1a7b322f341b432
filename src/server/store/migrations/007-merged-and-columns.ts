import { type Kysely, sql } from 'kysely';

/**
 * A commitment that was merged into another is no dropped one: it has a state of its own. A saved view of the Ledger
 * keeps its columns.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema.alterTable('ledger_views').addColumn('columns', 'text').execute();
  await sql
    .raw(`UPDATE commitments SET state = 'merged' WHERE state = 'dropped' AND EXISTS (
      SELECT 1 FROM events e WHERE e.commitment_id = commitments.id AND e.kind = 'merged' AND json_extract(e.data, '$.into') IS NOT NULL
      AND NOT EXISTS (SELECT 1 FROM events u WHERE u.commitment_id = e.commitment_id AND u.kind = 'undone' AND json_extract(u.data, '$.undoes') = e.id)
      AND NOT EXISTS (SELECT 1 FROM events d WHERE d.commitment_id = e.commitment_id AND d.kind = 'dropped' AND d.id > e.id))`)
    .execute(db);
}
