import { type Kysely, sql } from 'kysely';

/**
 * What the model reader needs: whether a project has it read, which records never go out, what it answered, so that the same
 * question is not asked twice, how its readings went, and what Sift's own reader found before the two were joined.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [
    'ALTER TABLE projects ADD COLUMN model_reader INTEGER NOT NULL DEFAULT 0 CHECK (model_reader IN (0, 1))',
    'ALTER TABLE records ADD COLUMN private INTEGER NOT NULL DEFAULT 0 CHECK (private IN (0, 1))',
    "CREATE TABLE own_finds (record_id INTEGER PRIMARY KEY REFERENCES records (id), reader TEXT NOT NULL CHECK (reader IN ('quick', 'close')), finds TEXT NOT NULL, at TEXT NOT NULL)",
    'CREATE TABLE model_answers (id INTEGER PRIMARY KEY, record_id INTEGER NOT NULL REFERENCES records (id), hash TEXT NOT NULL UNIQUE, answer TEXT NOT NULL, cut INTEGER NOT NULL, at TEXT NOT NULL)',
    'CREATE INDEX model_answers_by_record ON model_answers (record_id)',
    'CREATE TABLE model_gists (record_id INTEGER PRIMARY KEY REFERENCES records (id), model TEXT NOT NULL, gist TEXT NOT NULL, at TEXT NOT NULL)',
    `CREATE TABLE model_readings (record_id INTEGER PRIMARY KEY REFERENCES records (id), state TEXT NOT NULL CHECK (state IN ('waiting', 'reading', 'done', 'failed', 'cancelled')),
      hash TEXT NOT NULL, model TEXT NOT NULL, parts INTEGER NOT NULL, done INTEGER NOT NULL, words INTEGER NOT NULL, found INTEGER NOT NULL, both INTEGER NOT NULL, faults TEXT NOT NULL,
      why TEXT, milliseconds INTEGER NOT NULL, at TEXT NOT NULL, by_person TEXT NOT NULL REFERENCES people (id))`,
  ])
    await sql.raw(statement).execute(db);
}
