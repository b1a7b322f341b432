import { type Kysely, sql } from 'kysely';

/**
 * A series goes by a recurrence rule, counts from a day and may have ended; its meetings know the day the rule gave them, and
 * may be cancelled. A meeting may be for everybody who works here. A project has working days, a country and an end; links
 * lead to a meeting too; personal links can be made anew.
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
    'ALTER TABLE people ADD COLUMN links INTEGER NOT NULL DEFAULT 0',
    "ALTER TABLE shares ADD COLUMN what TEXT NOT NULL DEFAULT 'minutes' CHECK (what IN ('minutes', 'meeting'))",
  ])
    await sql.raw(statement).execute(db);
}
