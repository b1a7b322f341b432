import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { loadDemo } from '../../demo/load.ts';
import { runExport, runImport } from '../../src/cli/archive.ts';
import { runBackup, runRestore } from '../../src/cli/backup.ts';
import { backUp, backUpAtNight, backupsIn, keepBackupSettings, lastBackup } from '../../src/server/ledger/backups.ts';
import { changeCommitment, enterCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { dayPage } from '../../src/server/pages/day.ts';
import { setPassword } from '../../src/server/people/signing-in.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { openDatabase } from '../../src/server/store/database.ts';
import { sealed, unsealed } from '../../src/server/store/secrets.ts';
import { keepSetting } from '../../src/server/store/settings.ts';
import { TODAY } from './world.ts';

const P = 'quiet-crossing';
let folder: string;
let file: string;
let ws: Workspace;
const said: string[] = [];
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'ottik-backups-'));
  file = join(folder, 'here', 'ottik.db');
  vi.stubEnv('OTTIK_DB', file);
  vi.spyOn(process.stdout, 'write').mockImplementation((words) => {
    said.push(String(words));
    return true;
  });
  const db = await openDatabase(file);
  await loadDemo(db, TODAY, null);
  ws = (await workspaceOf(db, 'ines', TODAY)).with({ project: P });
});
afterEach(async () => {
  await ws.db.destroy();
  vi.unstubAllEnvs();
  vi.restoreAllMocks();
  said.length = 0;
  rmSync(folder, { recursive: true, force: true });
});

const texts = async (of = ws) => (await ledgerRows(of, { project: P, state: 'all', lives: false })).map((r) => [r.ref, r.text, r.state]);
const at = (day: string, time: string) => new Date(`${day}T${time}`);

describe('a backup', () => {
  it('is made while all goes on, is one whole file, and comes back on an empty machine', async () => {
    mkdirSync(join(folder, 'here', 'media'));
    writeFileSync(join(folder, 'here', 'media', 'a'.repeat(64)), 'sound');
    const before = await texts();
    const made = await backUp(ws.db, at('2026-03-05', '10:00:00Z'));
    expect(made).toMatchObject({ wrong: null, commitments: (await ws.db.selectFrom('commitments').select('id').execute()).length });
    expect(readdirSync(join(folder, 'here', 'backups')).sort()).toEqual(['media', 'ottik-2026-03-05-100000.db']);
    const elsewhere = join(folder, 'there', 'ottik.db');
    expect(await runRestore([made.file!, '--to', elsewhere])).toBe(0);
    expect(readFileSync(join(folder, 'there', 'media', 'a'.repeat(64)), 'utf8')).toBe('sound');
    const db = await openDatabase(elsewhere);
    expect(await texts((await workspaceOf(db, 'ines', TODAY)).with({ project: P }))).toEqual(before);
    await db.destroy();
  });
  it('comes back in place of a database that is in use, and what was there is put aside', async () => {
    expect(await runBackup([])).toBe(0);
    const before = await texts();
    const { row } = await enterCommitment(ws, P, { text: 'Entered after the backup', owner: ['ines'], due: null });
    expect(await runRestore([])).toBe(0);
    // the connection that was open all the time sees what was put back, and goes on working
    expect(await texts()).toEqual(before);
    await enterCommitment(ws, P, { text: 'Entered after that', owner: ['ines'], due: null });
    const aside = readdirSync(join(folder, 'here')).find((name) => name.includes('-before-'))!;
    const db = await openDatabase(join(folder, 'here', aside));
    expect((await texts((await workspaceOf(db, 'ines', TODAY)).with({ project: P }))).some(([ref, text]) => ref === row.ref && text === 'Entered after the backup')).toBe(true);
    await db.destroy();
  });
  it('of which so many are kept as somebody wants, the newest', async () => {
    await keepBackupSettings(ws.db, { folder: join(folder, 'elsewhere'), keep: 2, nightly: true });
    for (const hour of ['01', '02', '03']) await backUp(ws.db, at('2026-03-05', `${hour}:00:00Z`));
    expect(backupsIn(join(folder, 'elsewhere'))).toEqual(['ottik-2026-03-05-030000.db', 'ottik-2026-03-05-020000.db']);
  });
  it('is made once a night, and says on the next day what went wrong', async () => {
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
    expect(zone).toBeTruthy();
    const local = (day: number, hour: number) => new Date(2026, 2, day, hour, 30);
    expect(await backUpAtNight(ws.db, local(5, 1))).toBeNull();
    expect(await backUpAtNight(ws.db, local(5, 2))).toMatchObject({ wrong: null });
    expect(await backUpAtNight(ws.db, local(5, 23))).toBeNull();
    writeFileSync(join(folder, 'blocked'), 'a file where a folder is wanted');
    await keepSetting(ws.db, 'backup', { folder: join(folder, 'blocked'), keep: 3, nightly: true });
    const failed = await backUpAtNight(ws.db, local(6, 3));
    expect(failed!.wrong).toBeTruthy();
    expect((await lastBackup(ws.db))!.wrong).toBe(failed!.wrong);
    expect((await dayPage(ws)).backupWrong).toBe(failed!.wrong);
    await expect(keepBackupSettings(ws.db, { folder: join(folder, 'blocked'), keep: 3, nightly: true })).rejects.toThrow('Nothing can be written');
  });
  it('that does not hold together is refused, and nothing is touched', async () => {
    const made = await backUp(ws.db, new Date());
    const bytes = readFileSync(made.file!);
    writeFileSync(join(folder, 'half.db'), bytes.subarray(0, 20_000));
    const before = statSync(file).mtimeMs;
    await expect(runRestore([join(folder, 'half.db')])).rejects.toThrow();
    expect(statSync(file).mtimeMs).toBe(before);
    await expect(runRestore([join(folder, 'none.db')])).rejects.toThrow('no backup at');
  });
  it('whose ledger does not stand as its events say is none', async () => {
    await ws.db.updateTable('commitments').set({ text: 'Something else' }).where('number', '=', 1).where('project_id', '=', P).execute();
    expect((await backUp(ws.db, new Date())).wrong).toContain('do not stand as their events say');
  });
});

describe('the open archive', () => {
  it('takes everything out and in again, byte by byte', async () => {
    const c = (await ledgerRows(ws, { project: P }))[0]!;
    await changeCommitment(ws, c.id, { do: 'done' });
    await keepSetting(ws.db, 'mail out', { host: 'mail.example', secret: sealed('open sesame') });
    await setPassword(ws.db, 'ines', 'slack water at noon');
    expect(await runExport([join(folder, 'out')])).toBe(0);
    const record = readdirSync(join(folder, 'out', 'records'))[0]!;
    const row = await ws.db
      .selectFrom('records')
      .select('bytes')
      .where('id', '=', Number(record.split('-')[0]))
      .executeTakeFirstOrThrow();
    expect(readFileSync(join(folder, 'out', 'records', record)).equals(row.bytes)).toBe(true);
    expect(readFileSync(join(folder, 'out', 'tables', 'settings.jsonl'), 'utf8')).toContain('\\"secret\\":null');
    expect(readdirSync(join(folder, 'out', 'tables')).filter((name) => /users|sessions|credentials|verifications|twoFactor/.test(name))).toEqual([]);
    const elsewhere = join(folder, 'there.db');
    expect(await runImport([join(folder, 'out'), '--to', elsewhere])).toBe(0);
    vi.stubEnv('OTTIK_DB', elsewhere);
    await runExport([join(folder, 'again')]);
    for (const part of ['tables', 'records', 'answers', 'minutes']) for (const name of readdirSync(join(folder, 'out', part))) expect([name, readFileSync(join(folder, 'again', part, name), 'utf8')]).toEqual([name, readFileSync(join(folder, 'out', part, name), 'utf8')]);
  });
  it('is refused whole, with file and line, where something in it is wrong', async () => {
    const out = join(folder, 'out');
    await runExport([out]);
    await expect(runExport([out])).rejects.toThrow('is not empty');
    await expect(runImport([out])).rejects.toThrow('is there already');
    await expect(runImport([folder, '--to', join(folder, 'x.db')])).rejects.toThrow('is not an archive');
    const people = readFileSync(join(out, 'tables', 'people.jsonl'), 'utf8');
    const records = readFileSync(join(out, 'tables', 'records.jsonl'), 'utf8');
    const wrong: [string, string, string][] = [
      ['people.jsonl', people.replace('"name"', '"nom de plume"'), 'tables/people.jsonl, line 1: there is no column nom de plume'],
      ['people.jsonl', people.split('\n').slice(1).join('\n'), 'tables/people.jsonl has'],
      ['people.jsonl', people.replace('{', '{{'), 'tables/people.jsonl, line 1'],
      ['records.jsonl', records.replace('"records/', '"../../'), 'names a file outside the archive'],
    ];
    for (const [name, text, words] of wrong) {
      const path = join(out, 'tables', name);
      const sound = readFileSync(path, 'utf8');
      writeFileSync(path, text);
      await expect(runImport([out, '--to', join(folder, 'x.db')])).rejects.toThrow(words);
      expect(existsSync(join(folder, 'x.db'))).toBe(false);
      writeFileSync(path, sound);
    }
  });
});

describe('a secret', () => {
  it('is read with its key and with no other, and is never twice the same', () => {
    const [one, other] = [sealed('s3cret – ключ'), sealed('s3cret – ключ')];
    expect(one).not.toBe(other);
    expect(unsealed(one)).toBe('s3cret – ключ');
    expect(statSync(join(folder, 'here', 'ottik.key')).mode & 0o777).toBe(0o600);
    const bent = Buffer.from(one, 'base64');
    bent[14]! ^= 1;
    expect(() => unsealed(bent.toString('base64'))).toThrow('cannot be read with this key');
    vi.stubEnv('OTTIK_KEY_FILE', join(folder, 'another.key'));
    expect(() => unsealed(one)).toThrow('cannot be read with this key');
    writeFileSync(join(folder, 'another.key'), 'short');
    expect(() => sealed('x')).toThrow('holds no key');
  });
});
