import { existsSync } from 'node:fs';
import { checkLedger } from '../server/check.ts';
import { openDatabase } from '../server/database.ts';

/** `ottik check`: proves over a whole database that every commitment stands as its events say. Gives the exit code. */
export async function runCheck(argv: string[]): Promise<number> {
  const file = argv[0] ?? process.env.OTTIK_DB ?? 'data/ottik.db';
  if (!existsSync(file)) throw new Error(`there is no database at ${file}`);
  const db = await openDatabase(file);
  try {
    const { checked, differences } = await checkLedger(db);
    for (const d of differences) process.stdout.write(`${d.ref} of ${d.project}\n${d.what.map((w) => `  ${w}\n`).join('')}`);
    process.stdout.write(`${checked} commitments checked, ${differences.length === 0 ? 'all stand as their events say' : `${differences.length} do not stand as their events say`}\n`);
    return differences.length === 0 ? 0 : 1;
  } finally {
    await db.destroy();
  }
}
