import { existsSync, mkdirSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import Sqlite from 'better-sqlite3';
import { CompiledQuery, type DatabaseConnection, Kysely, Migrator, SqliteDialect, SqliteDriver } from 'kysely';
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
import * as keys from './migrations/011-keys.ts';
import * as mail from './migrations/012-mail.ts';
import * as accounts from './migrations/013-accounts.ts';
import * as audit from './migrations/014-audit.ts';
import * as shares from './migrations/015-shares.ts';
import * as modelReader from './migrations/016-model-reader.ts';
import * as seriesAndProjects from './migrations/017-series-and-projects.ts';
import * as find from './migrations/018-find.ts';
import * as routines from './migrations/019-routines.ts';
import * as live from './migrations/020-live.ts';
import * as votes from './migrations/021-votes.ts';
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
  '011-keys': keys,
  '012-mail': mail,
  '013-accounts': accounts,
  '014-audit': audit,
  '015-shares': shares,
  '016-model-reader': modelReader,
  '017-series-and-projects': seriesAndProjects,
  '018-find': find,
  '019-routines': routines,
  '020-live': live,
  '021-votes': votes,
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

/**
 * Transactions that write from their beginning: one that begins by reading and then writes fails at once where another
 * process has written meanwhile (SQLITE_BUSY_SNAPSHOT); one that begins by writing waits for its turn.
 */
class WritingDriver extends SqliteDriver {
  override async beginTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('begin immediate'));
  }
}

class WritingDialect extends SqliteDialect {
  readonly #database: Sqlite.Database;
  constructor(database: Sqlite.Database) {
    super({ database });
    this.#database = database;
  }
  override createDriver() {
    return new WritingDriver({ database: this.#database });
  }
}

/** What is wrong with a database file, and what to do; null for other errors. */
export function databaseTrouble(error: unknown, file = process.env.OTTIK_DB ?? 'data/ottik.db'): { message: string; advice: string } | null {
  const code = String((error as { code?: unknown } | null)?.code ?? '');
  if (/^SQLITE_(?:NOTADB|CORRUPT)/.test(code)) return { message: `${file} is broken.`, advice: 'Stop Ottik, put the file aside, and put a backup in its place. Nothing is written to it meanwhile.' };
  if (code === 'OTTIK_EMPTIED') return { message: `${file} is empty, and it was not when it was made.`, advice: 'Put a backup in its place, or delete the file to begin anew.' };
  if (/^SQLITE_(?:READONLY|CANTOPEN|PERM|AUTH)/.test(code)) return { message: `${file} cannot be written to.`, advice: 'Ottik needs to write to the file and to its folder: check who owns them.' };
  if (/^SQLITE_(?:FULL|IOERR)/.test(code)) return { message: 'The disk is full, or does not answer.', advice: 'What was kept before is safe. Make room, then try once more; look first what has been kept.' };
  if (/^SQLITE_(?:BUSY|LOCKED)/.test(code)) return { message: 'The database is in use by another program.', advice: 'Try once more; if it goes on, stop the other program.' };
  return null;
}

/** A file that is there and has nothing in it was not made by Ottik, or was emptied: it is not written over. */
function mustNotBeEmptied(file: string): void {
  if (file !== ':memory:' && existsSync(file) && statSync(file).size === 0 && !existsSync(`${file}-wal`)) throw Object.assign(new Error(`${file} is empty`), { code: 'OTTIK_EMPTIED' });
}

/** Opens the database, with write-ahead logging and foreign keys on, and brings it to the newest shape. */
export async function openDatabase(file: string, shape?: Shape): Promise<Db> {
  mustNotBeEmptied(file);
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const sqlite = new Sqlite(file);
  sqlite.pragma('journal_mode = WAL');
  sqlite.pragma('foreign_keys = ON');
  sqlite.pragma('busy_timeout = 4000');
  // in WAL mode only FULL syncs each change before it is acknowledged (SQLite, “PRAGMA synchronous”)
  sqlite.pragma('synchronous = FULL');
  const db = new Kysely<Database>({ dialect: new WritingDialect(sqlite) });
  await bringTo(db, shape);
  return db;
}

let shared: Promise<Db> | null = null;

/** The application's one database, opened at first use. */
export function database(): Promise<Db> {
  shared ??= openDatabase(process.env.OTTIK_DB ?? 'data/ottik.db').catch((error: unknown) => {
    // what was wrong may have been put right when it is asked for again
    shared = null;
    throw error;
  });
  return shared;
}
