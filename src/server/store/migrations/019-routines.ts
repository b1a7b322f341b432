import { type Kysely, sql } from 'kysely';

/**
 * Routines, their runs and the steps of each. A cause starts a routine once, and of the tries of a step one alone is done:
 * the database holds both.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [
    `CREATE TABLE routines (
      id INTEGER PRIMARY KEY,
      project_id TEXT NOT NULL REFERENCES projects (id),
      person_id TEXT NOT NULL REFERENCES people (id),
      routine TEXT NOT NULL,
      state TEXT NOT NULL DEFAULT 'off' CHECK (state IN ('on', 'off', 'paused')),
      since TEXT NOT NULL,
      after_record INTEGER NOT NULL DEFAULT 0,
      after_version INTEGER NOT NULL DEFAULT 0,
      after_reply INTEGER NOT NULL DEFAULT 0,
      next_at TEXT,
      failed INTEGER NOT NULL DEFAULT 0,
      paused_why TEXT,
      revision INTEGER NOT NULL DEFAULT 1,
      removed_at TEXT
    )`,
    'CREATE INDEX routines_project ON routines (project_id)',
    `CREATE TABLE routine_runs (
      id INTEGER PRIMARY KEY,
      routine_id INTEGER NOT NULL REFERENCES routines (id),
      cause TEXT NOT NULL,
      about TEXT NOT NULL,
      meeting_id INTEGER REFERENCES meetings (id) ON DELETE SET NULL,
      commitment_id INTEGER REFERENCES commitments (id),
      reply_id INTEGER REFERENCES replies (id),
      routine TEXT NOT NULL,
      state TEXT NOT NULL CHECK (state IN ('offered', 'running', 'waiting', 'failed', 'done', 'stopped', 'left')),
      step INTEGER NOT NULL DEFAULT 0,
      tries INTEGER NOT NULL DEFAULT 0,
      next_try TEXT,
      word INTEGER NOT NULL DEFAULT 0 CHECK (word IN (0, 1)),
      told TEXT NOT NULL DEFAULT '[]',
      began_at TEXT NOT NULL,
      ended_at TEXT,
      by_person TEXT REFERENCES people (id),
      UNIQUE (routine_id, cause)
    )`,
    "CREATE INDEX routine_runs_under_way ON routine_runs (state) WHERE state IN ('offered', 'running', 'waiting', 'failed')",
    'CREATE INDEX routine_runs_meeting ON routine_runs (meeting_id)',
    `CREATE TABLE routine_steps (
      id INTEGER PRIMARY KEY,
      run_id INTEGER NOT NULL REFERENCES routine_runs (id),
      position INTEGER NOT NULL,
      state TEXT NOT NULL CHECK (state IN ('running', 'waiting', 'done', 'failed')),
      began_at TEXT NOT NULL,
      ended_at TEXT,
      said TEXT NOT NULL DEFAULT '',
      details TEXT NOT NULL DEFAULT '[]',
      took TEXT NOT NULL DEFAULT '[]'
    )`,
    'CREATE INDEX routine_steps_run ON routine_steps (run_id, position)',
    "CREATE UNIQUE INDEX routine_steps_once ON routine_steps (run_id, position) WHERE state = 'done'",
  ])
    await sql.raw(statement).execute(db);
}
