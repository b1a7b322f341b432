import { type Kysely, sql } from 'kysely';

/** Who did what and when. The database itself keeps it from being changed afterwards. */
export async function up(db: Kysely<unknown>): Promise<void> {
  const statements = [
    `CREATE TABLE audit (id INTEGER PRIMARY KEY, at TEXT NOT NULL, person_id TEXT NOT NULL, project_id TEXT,
      did TEXT NOT NULL CHECK (did IN ('saw', 'changed', 'sent', 'shared', 'took away')), what TEXT NOT NULL, about TEXT)`,
    'CREATE INDEX audit_by_person ON audit (person_id, id)',
    "CREATE TRIGGER audit_stays BEFORE UPDATE ON audit BEGIN SELECT RAISE(ABORT, 'the audit is not changed'); END",
    "CREATE TRIGGER audit_is_kept BEFORE DELETE ON audit BEGIN SELECT RAISE(ABORT, 'the audit is not changed'); END",
  ];
  for (const s of statements) await sql.raw(s).execute(db);
}
