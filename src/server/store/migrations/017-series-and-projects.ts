import { type Kysely, sql } from 'kysely';

/**
 * A series goes by a recurrence rule, counts from a day and may have ended; its meetings know the day the rule gave them, and
 * may be cancelled. A meeting may be for everybody who works here. A project has working days, a country and an end; links
 * lead to a meeting too; personal links can be made anew; which letters somebody wants is said for each project.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  for (const statement of [
    "ALTER TABLE series ADD COLUMN rule TEXT NOT NULL DEFAULT 'FREQ=WEEKLY' CHECK (rule LIKE 'FREQ=%')",
    "ALTER TABLE series ADD COLUMN starts_on TEXT NOT NULL DEFAULT '2000-01-01'",
    'ALTER TABLE series ADD COLUMN ended_on TEXT',
    "ALTER TABLE series ADD COLUMN notes TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE series ADD COLUMN visibility TEXT NOT NULL DEFAULT 'project' CHECK (visibility IN ('attendees', 'project', 'workspace'))",
    `UPDATE series SET rule = 'FREQ=WEEKLY' || CASE WHEN every_weeks > 1 THEN ';INTERVAL=' || every_weeks ELSE '' END || ';BYDAY=' || substr('MOTUWETHFRSASU', weekday * 2 - 1, 2)`,
    'UPDATE series SET starts_on = coalesce((SELECT min(date) FROM meetings WHERE series_id = series.id), starts_on)',
    'ALTER TABLE series DROP COLUMN weekday',
    'ALTER TABLE series DROP COLUMN every_weeks',
    "ALTER TABLE series_people ADD COLUMN part TEXT NOT NULL DEFAULT 'attends' CHECK (part IN ('leads', 'keeps minutes', 'attends', 'may attend'))",
    'ALTER TABLE meetings ADD COLUMN slot TEXT',
    'UPDATE meetings SET slot = date WHERE series_id IS NOT NULL',
    'ALTER TABLE meetings ADD COLUMN cancelled_at TEXT',
    "ALTER TABLE meetings ADD COLUMN seen_by TEXT NOT NULL DEFAULT 'project' CHECK (seen_by IN ('attendees', 'project', 'workspace'))",
    'UPDATE meetings SET seen_by = visibility',
    'ALTER TABLE meetings DROP COLUMN visibility',
    'ALTER TABLE meetings RENAME COLUMN seen_by TO visibility',
    'ALTER TABLE projects ADD COLUMN archived_at TEXT',
    "ALTER TABLE projects ADD COLUMN country TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE projects ADD COLUMN working_days TEXT NOT NULL DEFAULT '12345'",
    'ALTER TABLE people ADD COLUMN working_days TEXT',
    // which letters somebody wants is theirs to say in each project
    "CREATE TABLE letter_wishes (project_id TEXT NOT NULL REFERENCES projects (id), person_id TEXT NOT NULL REFERENCES people (id), letters TEXT NOT NULL CHECK (letters IN ('all', 'no digest', 'digest', 'none')), PRIMARY KEY (project_id, person_id))",
    "INSERT INTO letter_wishes SELECT m.project_id, m.person_id, p.letters FROM memberships m JOIN people p ON p.id = m.person_id WHERE p.letters != 'all'",
    'ALTER TABLE people DROP COLUMN letters',
    // what came from a calendar is known again by its UID
    'CREATE TABLE calendar_ids (project_id TEXT NOT NULL REFERENCES projects (id), uid TEXT NOT NULL, sequence INTEGER NOT NULL, series_id TEXT REFERENCES series (id) ON DELETE CASCADE, meeting_id INTEGER REFERENCES meetings (id) ON DELETE CASCADE, PRIMARY KEY (project_id, uid))',
    'ALTER TABLE people ADD COLUMN links INTEGER NOT NULL DEFAULT 0',
    "ALTER TABLE shares ADD COLUMN what TEXT NOT NULL DEFAULT 'minutes' CHECK (what IN ('minutes', 'meeting'))",
  ])
    await sql.raw(statement).execute(db);
}
