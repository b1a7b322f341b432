import { type Kysely, sql } from 'kysely';

/** Votes in a meeting: ideas over which everybody spreads some votes; a vote that is closed does not change. */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [
    `CREATE TABLE votes (
      id INTEGER PRIMARY KEY,
      meeting_id INTEGER NOT NULL REFERENCES meetings (id),
      question TEXT NOT NULL,
      ideas TEXT NOT NULL,
      each INTEGER NOT NULL CHECK (each BETWEEN 1 AND 20),
      at TEXT NOT NULL,
      by_person TEXT NOT NULL REFERENCES people (id),
      revision INTEGER NOT NULL DEFAULT 1,
      closed_at TEXT
    )`,
    'CREATE INDEX votes_meeting ON votes (meeting_id)',
    `CREATE TABLE vote_marks (
      vote_id INTEGER NOT NULL REFERENCES votes (id),
      person_id TEXT NOT NULL REFERENCES people (id),
      marks TEXT NOT NULL,
      PRIMARY KEY (vote_id, person_id)
    )`,
    "CREATE TRIGGER votes_closed BEFORE UPDATE ON votes WHEN old.closed_at IS NOT NULL BEGIN SELECT RAISE(ABORT, 'a vote that is closed does not change'); END",
  ])
    await sql.raw(statement).execute(db);
}
