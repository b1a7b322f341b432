import { type Kysely, sql } from 'kysely';

/**
 * Agendas and meetings that are held: points with who made and changed them, what happens by the clock, and the lines people
 * write. Marks and changes are added and never changed; a line that is taken out stays as it was.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [
    `CREATE TABLE agenda_points (
      id INTEGER PRIMARY KEY,
      meeting_id INTEGER NOT NULL REFERENCES meetings (id),
      position REAL NOT NULL,
      kind TEXT NOT NULL CHECK (kind IN ('review', 'own', 'carried', 'standing', 'question', 'read-back')),
      title TEXT NOT NULL,
      minutes INTEGER NOT NULL CHECK (minutes BETWEEN 1 AND 600),
      why TEXT NOT NULL DEFAULT '',
      about TEXT,
      note TEXT NOT NULL DEFAULT '',
      by_person TEXT NOT NULL REFERENCES people (id),
      removed_at TEXT
    )`,
    'CREATE INDEX agenda_points_meeting ON agenda_points (meeting_id)',
    `CREATE TABLE agenda_changes (
      id INTEGER PRIMARY KEY,
      meeting_id INTEGER NOT NULL REFERENCES meetings (id),
      point_id INTEGER REFERENCES agenda_points (id),
      what TEXT NOT NULL,
      at TEXT NOT NULL,
      by_person TEXT NOT NULL REFERENCES people (id)
    )`,
    'CREATE INDEX agenda_changes_meeting ON agenda_changes (meeting_id)',
    `CREATE TABLE series_agenda (
      series_id TEXT NOT NULL REFERENCES series (id),
      position INTEGER NOT NULL,
      title TEXT NOT NULL,
      minutes INTEGER NOT NULL CHECK (minutes BETWEEN 1 AND 600),
      PRIMARY KEY (series_id, position)
    )`,
    `CREATE TABLE live_marks (
      id INTEGER PRIMARY KEY,
      meeting_id INTEGER NOT NULL REFERENCES meetings (id),
      kind TEXT NOT NULL CHECK (kind IN ('begin', 'point', 'tick', 'untick', 'end', 'again')),
      point_id INTEGER REFERENCES agenda_points (id),
      at TEXT NOT NULL,
      by_person TEXT NOT NULL REFERENCES people (id)
    )`,
    'CREATE INDEX live_marks_meeting ON live_marks (meeting_id)',
    `CREATE TABLE live_lines (
      id TEXT PRIMARY KEY,
      n INTEGER NOT NULL,
      meeting_id INTEGER NOT NULL REFERENCES meetings (id),
      point_id INTEGER REFERENCES agenda_points (id),
      text TEXT NOT NULL,
      seconds INTEGER NOT NULL,
      at TEXT NOT NULL,
      by_person TEXT NOT NULL REFERENCES people (id),
      revision INTEGER NOT NULL DEFAULT 1,
      changed_by TEXT REFERENCES people (id),
      confirmed_by TEXT REFERENCES people (id),
      removed_at TEXT
    )`,
    'CREATE INDEX live_lines_meeting ON live_lines (meeting_id, n)',
    'CREATE TABLE capture_legends (person_id TEXT PRIMARY KEY REFERENCES people (id), legend TEXT NOT NULL)',
    ...['live_marks', 'agenda_changes'].flatMap((table) => [`CREATE TRIGGER ${table}_stand BEFORE UPDATE ON ${table} BEGIN SELECT RAISE(ABORT, 'what happened is not changed'); END`]),
  ])
    await sql.raw(statement).execute(db);
}
