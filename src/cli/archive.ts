import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { parseArgs } from 'node:util';
import { copyMedia } from '../server/ledger/backups.ts';
import { issuedMinutes } from '../server/meetings/minutes/minutes.ts';
import { readArchive, writeArchive } from '../server/store/archive.ts';
import { openDatabase } from '../server/store/database.ts';

const theDatabase = () => process.env.OTTIK_DB ?? 'data/ottik.db';

/** `ottik export FOLDER`: the whole workspace in open formats. Gives the exit code. */
export async function runExport(argv: string[]): Promise<number> {
  const { positionals } = parseArgs({ args: argv, allowPositionals: true });
  if (!positionals[0]) throw new Error('name the folder it goes to');
  const folder = resolve(positionals[0]);
  const rows = await writeArchive(theDatabase(), folder);
  const db = await openDatabase(theDatabase());
  try {
    mkdirSync(join(folder, 'minutes'));
    for (const m of await issuedMinutes(db)) writeFileSync(join(folder, 'minutes', m.name), m.text);
  } finally {
    await db.destroy();
  }
  copyMedia(join(dirname(theDatabase()), 'media'), join(folder, 'media'));
  process.stdout.write(`${folder}: ${Object.values(rows).reduce((a, b) => a + b, 0)} rows of ${Object.keys(rows).length} tables\n`);
  return 0;
}

/** `ottik import FOLDER --to DATABASE`: a new database from what was exported. Gives the exit code. */
export async function runImport(argv: string[]): Promise<number> {
  const { values, positionals } = parseArgs({ args: argv, allowPositionals: true, options: { to: { type: 'string' } } });
  if (!positionals[0]) throw new Error('name the folder of the archive');
  const to = resolve(values.to ?? theDatabase());
  const rows = await readArchive(resolve(positionals[0]), to);
  copyMedia(join(resolve(positionals[0]), 'media'), join(dirname(to), 'media'));
  process.stdout.write(`${to}: ${rows.commitments ?? 0} commitments, ${rows.records ?? 0} records\n`);
  return 0;
}
