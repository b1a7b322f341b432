import { type Kysely, sql } from 'kysely';

/** Links by which issued minutes can be read by whoever has one, until they run out or are taken back. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql
    .raw(
      `CREATE TABLE shares (id INTEGER PRIMARY KEY, token_hash TEXT NOT NULL UNIQUE, meeting_id INTEGER NOT NULL REFERENCES meetings (id), version INTEGER NOT NULL,
      by_person TEXT NOT NULL REFERENCES people (id), at TEXT NOT NULL, expires_at TEXT NOT NULL, passcode TEXT, opened INTEGER NOT NULL DEFAULT 0, wrong INTEGER NOT NULL DEFAULT 0, revoked_at TEXT)`,
    )
    .execute(db);
  await sql.raw('CREATE INDEX shares_by_meeting ON shares (meeting_id)').execute(db);
}
