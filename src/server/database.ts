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
import * as mergedAndColumns from './migrations/007-merged-and-columns.ts';
import * as orderNotClock from './migrations/008-order-not-clock.ts';
import * as lettersThatAnswer from './migrations/009-letters-that-answer.ts';
import * as peopleMerged from './migrations/010-people-merged.ts';
import type { Database } from './schema.ts';

export type Db = Kysely<Database>;

const MIGRATIONS = {
  '001-first-crossing': firstCrossing,
  '002-minutes-and-reshaping': minutesAndReshaping,
  '003-letters-and-answers': lettersAndAnswers,
  '004-until-done': untilDone,
  '005-keeping': keeping,
  '006-several-records': severalRecords,
  '007-merged-and-columns': mergedAndColumns,
  '008-order-not-clock': orderNotClock,
  '009-letters-that-answer': lettersThatAnswer,
  '010-people-merged': peopleMerged,
};
export type Shape = keyof typeof MIGRATIONS;

/**
 * Brings a database to a shape, by default the newest.
 * @throws what a migration failed with; the database is then as it was before that migration
 */
export async function bringTo(db: Db, shape?: Shape): Promise<void> {
  const migrator = new Migrator({ db, provider: { getMigrations: async () => MIGRATIONS } });
  const { error } = await (shape ? migrator.migrateTo(shape) : migrator.migrateToLatest());
  if (error) throw error instanceof Error ? error : new Error(String(error));
}

/** Opens the database, with write-ahead logging and foreign keys on, and brings it to the newest shape. */
export async function openDatabase(file: string, shape?: Shape): Promise<Db> {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const sqlite = new Sqlite(file);
  sqlite.pragma('journal_mode = WAL');
  sqlite.pragma('foreign_keys = ON');
  sqlite.pragma('busy_timeout = 4000');
  sqlite.pragma('synchronous = NORMAL');
  const db = new Kysely<Database>({ dialect: new SqliteDialect({ database: sqlite }) });
  await bringTo(db, shape);
  return db;
}

let shared: Promise<Db> | null = null;

/** The application's one database, opened at first use. */
export function database(): Promise<Db> {
  shared ??= openDatabase(process.env.OTTIK_DB ?? 'data/ottik.db');
  return shared;
}
