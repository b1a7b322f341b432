import { existsSync } from 'node:fs';
import { sql } from 'kysely';
import { checkLedger } from '../server/ledger/check.ts';
import { type Db, databaseTrouble, openDatabase } from '../server/store/database.ts';

/** `ottik check`: proves over a whole database that every commitment stands as its events say. Gives the exit code. */
export async function runCheck(argv: string[]): Promise<number> {
  const file = argv[0] ?? process.env.OTTIK_DB ?? 'data/ottik.db';
  if (!existsSync(file)) throw new Error(`there is no database at ${file}`);
  try {
    return await checked(file);
  } catch (error) {
    const trouble = databaseTrouble(error, file);
    throw trouble ? new Error(`${trouble.message} ${trouble.advice}`) : error;
  }
}

async function checked(file: string): Promise<number> {
  const db = await openDatabase(file);
  try {
    await mustBeSound(db);
    const { checked: looked, differences } = await checkLedger(db);
    for (const d of differences) process.stdout.write(`${d.ref} of ${d.project}\n${d.what.map((w) => `  ${w}\n`).join('')}`);
    process.stdout.write(`${looked} commitments checked, ${differences.length === 0 ? 'all stand as their events say' : `${differences.length} do not stand as their events say`}\n`);
    return differences.length === 0 ? 0 : 1;
  } finally {
    await db.destroy();
  }
}

/** What SQLite finds when it reads the whole file: pages that cannot be read, indexes that do not match their rows. */
async function mustBeSound(db: Db): Promise<void> {
  const { rows } = await sql<{ integrity_check: string }>`PRAGMA integrity_check(5)`.execute(db);
  if (rows[0]?.integrity_check !== 'ok') throw Object.assign(new Error(rows.map((r) => r.integrity_check).join('; ')), { code: 'SQLITE_CORRUPT' });
}
