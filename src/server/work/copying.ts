import { existsSync, mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import Sqlite from 'better-sqlite3';

/**
 * Copies a database that may be in use (SQLite's online backup), reads the copy from end to end, and only then puts it
 * in its place.
 * @throws an error with the code SQLITE_CORRUPT where the copy does not hold together; nothing is left behind then
 */
export async function copyDatabase(from: string, to: string): Promise<void> {
  if (!existsSync(from)) throw new Error(`there is no database at ${from}`);
  mkdirSync(dirname(to), { recursive: true });
  const unfinished = `${to}.part`;
  const source = new Sqlite(from, { readonly: true, fileMustExist: true });
  try {
    await source.backup(unfinished);
    mustBeSound(unfinished);
    renameSync(unfinished, to);
  } finally {
    source.close();
    for (const end of ['', '-wal', '-shm', '-journal']) rmSync(unfinished + end, { force: true });
  }
}

/**
 * Puts what one database holds in place of what another holds, while that one may be in use: whoever reads it sees the
 * one or the other, never a mixture.
 */
export async function putInPlace(from: string, to: string): Promise<void> {
  mkdirSync(dirname(to), { recursive: true });
  const source = new Sqlite(from, { readonly: true, fileMustExist: true });
  try {
    await source.backup(to);
  } finally {
    source.close();
  }
}

/** What SQLite finds when it reads the whole file: pages that cannot be read, indexes that do not match their rows. */
function mustBeSound(file: string): void {
  const db = new Sqlite(file, { fileMustExist: true });
  try {
    const found = db.pragma('integrity_check(5)') as { integrity_check: string }[];
    if (found[0]?.integrity_check !== 'ok') throw Object.assign(new Error(found.map((r) => r.integrity_check).join('; ')), { code: 'SQLITE_CORRUPT' });
    // a copy is one file: it needs no journal beside it
    db.pragma('journal_mode = DELETE');
  } finally {
    db.close();
  }
}
