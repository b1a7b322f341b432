import { constants, copyFileSync, existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { z } from 'zod';
import { clockAt } from '../../core/dates/moments.ts';
import { Refusal } from '../refusal.ts';
import { type Db, databaseTrouble, openDatabase } from '../store/database.ts';
import { keepSetting, setting } from '../store/settings.ts';
import { work } from '../work/pool.ts';
import { checkLedger } from './check.ts';

/** Where backups go (null: a folder beside the database), how many are kept, and whether one is made each night. */
export const BackupSchema = z.object({ folder: z.string().trim().max(500).nullable(), keep: z.number().int().min(1).max(365), nightly: z.boolean() });
export type BackupSettings = z.infer<typeof BackupSchema>;
const USUAL: BackupSettings = { folder: null, keep: 14, nightly: true };

const LastSchema = z.object({ at: z.string(), file: z.string().nullable(), bytes: z.number(), commitments: z.number(), wrong: z.string().nullable() });
/** What became of the last backup: the file, or what went wrong. */
export type LastBackup = z.infer<typeof LastSchema>;
const [HOW, LAST] = ['backup', 'backup last'];

/** Backups are made at night: from this hour on, where Ottik runs. */
const HOUR = '02:00';
const NAME = /^ottik-\d{4}-\d{2}-\d{2}-\d{6}\.db$/;

const databaseFile = () => process.env.OTTIK_DB ?? 'data/ottik.db';
/** Recordings lie beside a database, named by what is in them. */
const mediaBeside = (file: string) => join(dirname(file), 'media');

export const backupSettings = async (db: Db): Promise<BackupSettings> => (await setting(db, HOW, BackupSchema)) ?? USUAL;
export const backupFolder = (how: BackupSettings): string => resolve(how.folder ?? join(dirname(databaseFile()), 'backups'));
export const lastBackup = (db: Db): Promise<LastBackup | null> => setting(db, LAST, LastSchema);

/** Keeps how backups are made; a folder that cannot be written to is refused at once, and not at night. */
export async function keepBackupSettings(db: Db, how: BackupSettings): Promise<void> {
  try {
    mkdirSync(backupFolder(how), { recursive: true });
    const probe = join(backupFolder(how), '.ottik-probe');
    mkdirSync(probe, { recursive: true });
    rmSync(probe, { recursive: true });
  } catch (error) {
    throw new Refusal('bad-input', `Nothing can be written to ${backupFolder(how)}: ${(error as Error).message.slice(0, 120)}.`, 'Name a folder that Ottik may write to.');
  }
  await keepSetting(db, HOW, how);
}

/**
 * Makes a backup while all goes on: the database is copied, the copy is read from end to end, and its ledger is replayed
 * from its events; recordings that are not there yet are laid beside it. Older ones beyond the number to keep go.
 * What became of it is kept, and told.
 */
export async function backUp(db: Db, now: Date): Promise<LastBackup> {
  const at = now.toISOString();
  const how = await backupSettings(db);
  let last: LastBackup;
  try {
    const file = join(backupFolder(how), `ottik-${at.slice(0, 10)}-${at.slice(11, 19).replaceAll(':', '')}.db`);
    await work('copy', { from: databaseFile(), to: file });
    const commitments = await mustReplay(file);
    copyMedia(mediaBeside(databaseFile()), mediaBeside(file));
    for (const old of backupsIn(backupFolder(how)).slice(how.keep)) rmSync(join(backupFolder(how), old));
    last = { at, file, bytes: statSync(file).size, commitments, wrong: null };
  } catch (error) {
    const trouble = databaseTrouble(error);
    last = { at, file: null, bytes: 0, commitments: 0, wrong: (trouble?.message ?? (error as Error).message).slice(0, 300) };
  }
  await keepSetting(db, LAST, last);
  return last;
}

/** Makes the night's backup where it is time and it has not been tried tonight. */
export async function backUpAtNight(db: Db, now: Date): Promise<LastBackup | null> {
  if (!(await backupSettings(db)).nightly || !existsSync(databaseFile())) return null;
  const here = (moment: Date) => clockAt(moment, Intl.DateTimeFormat().resolvedOptions().timeZone);
  const last = await lastBackup(db);
  const before = last && here(new Date(last.at)).day;
  if (before === here(now).day || here(now).time < HOUR) return null;
  return backUp(db, now);
}

/** Backups in a folder, the newest first. */
export const backupsIn = (folder: string): string[] =>
  existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => NAME.test(name))
        .sort()
        .reverse()
    : [];

/** Replays the ledger of a file. Gives how many commitments it holds. */
export async function mustReplay(file: string): Promise<number> {
  const copy = await openDatabase(file);
  try {
    const { checked, differences } = await checkLedger(copy);
    if (differences.length) throw new Error(`${differences.length} commitments in it do not stand as their events say, ${differences[0]!.ref} first`);
    return checked;
  } finally {
    await copy.destroy();
  }
}

/** Lays the recordings of one folder into another where they are missing: their names are their contents. */
export function copyMedia(from: string, to: string): void {
  if (!existsSync(from)) return;
  mkdirSync(to, { recursive: true });
  for (const name of readdirSync(from)) if (/^[0-9a-f]{64}$/.test(name) && !existsSync(join(to, name))) copyFileSync(join(from, name), join(to, name), constants.COPYFILE_FICLONE);
}
