import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import Sqlite from 'better-sqlite3';
import { Kysely, Migrator, SqliteDialect } from 'kysely';
import * as firstCrossing from './migrations/001-first-crossing.ts';
import * as minutesAndReshaping from './migrations/002-minutes-and-reshaping.ts';
import * as lettersAndAnswers from './migrations/003-letters-and-answers.ts';
import * as untilDone from './migrations/004-until-done.ts';
import * as keeping from './migrations/005-keeping.ts';
import * as severalRecords from './migrations/006-several-records.ts';
import type { Database } from './schema.ts';

export type Db = Kysely<Database>;

/** Opens the database, with write-ahead logging and foreign keys on, and brings it to the newest shape. */
export async function openDatabase(file: string): Promise<Db> {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const sqlite = new Sqlite(file);
  sqlite.pragma('journal_mode = WAL');
  sqlite.pragma('foreign_keys = ON');
  sqlite.pragma('busy_timeout = 4000');
  sqlite.pragma('synchronous = NORMAL');
  const db = new Kysely<Database>({ dialect: new SqliteDialect({ database: sqlite }) });
  const { error } = await new Migrator({
    db,
    provider: { getMigrations: async () => ({ '001-first-crossing': firstCrossing, '002-minutes-and-reshaping': minutesAndReshaping, '003-letters-and-answers': lettersAndAnswers, '004-until-done': untilDone, '005-keeping': keeping, '006-several-records': severalRecords }) },
  }).migrateToLatest();
  if (error) throw error instanceof Error ? error : new Error(String(error));
  return db;
}

let shared: Promise<Db> | null = null;

/** The application's one database, opened at first use. */
export function database(): Promise<Db> {
  shared ??= openDatabase(process.env.OTTIK_DB ?? 'data/ottik.db');
  return shared;
}
