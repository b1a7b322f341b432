import { existsSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { backUp, backupFolder, backupSettings, backupsIn, copyMedia, mustReplay } from '../server/ledger/backups.ts';
import { databaseTrouble, openDatabase } from '../server/store/database.ts';
import { copyDatabase, putInPlace } from '../server/work/copying.ts';

const theDatabase = () => process.env.OTTIK_DB ?? 'data/ottik.db';

/** `ottik backup`: makes a backup now, also while Ottik runs. Gives the exit code. */
export async function runBackup(argv: string[]): Promise<number> {
  const { positionals } = parseArgs({ args: argv, allowPositionals: true });
  if (positionals[0]) process.env.OTTIK_DB = positionals[0];
  if (!existsSync(theDatabase())) throw new Error(`there is no database at ${theDatabase()}`);
  const db = await openDatabase(theDatabase());
  try {
    const made = await backUp(db, new Date());
    process.stdout.write(made.wrong ? `no backup was made: ${made.wrong}\n` : `${made.file}\n${made.commitments} commitments checked, all stand as their events say\n`);
    return made.wrong ? 1 : 0;
  } finally {
    await db.destroy();
  }
}

/**
 * `ottik restore [FILE] [--to DATABASE]`: puts a backup, by default the newest, in place of a database. What was there is
 * put aside first. Gives the exit code.
 */
export async function runRestore(argv: string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: argv, allowPositionals: true, options: { to: { type: 'string' } } });
  const to = resolve(values.to ?? theDatabase());
  const from = resolve(positionals[0] ?? (await newest()));
  if (!existsSync(from)) throw new Error(`there is no backup at ${from}`);
  try {
    const commitments = await mustReplay(from);
    if (existsSync(to)) {
      const aside = `${to.replace(/\.db$/, '')}-before-${new Date().toISOString().replace(/\D/g, '').slice(0, 14)}.db`;
      await copyDatabase(to, aside);
      process.stdout.write(`what was there is in ${aside}\n`);
    }
    await putInPlace(from, to);
    copyMedia(join(dirname(from), 'media'), join(dirname(to), 'media'));
    process.stdout.write(`${to} holds ${from}: ${commitments} commitments, all stand as their events say\n`);
    return 0;
  } catch (error) {
    const trouble = databaseTrouble(error, from);
    throw trouble ? new Error(`${trouble.message} ${trouble.advice}`) : error;
  }
}

async function newest(): Promise<string> {
  if (!existsSync(theDatabase())) throw new Error('name the backup: there is no database here whose settings would tell where backups are');
  const db = await openDatabase(theDatabase());
  try {
    const folder = backupFolder(await backupSettings(db));
    const [name] = backupsIn(folder);
    if (!name) throw new Error(`there is no backup in ${folder}`);
    return join(folder, name);
  } finally {
    await db.destroy();
  }
}
