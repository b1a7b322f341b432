import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadDemo } from '../../../demo/load.ts';
import { checkLedger } from '../../../src/server/ledger/check.ts';
import { addRecipient } from '../../../src/server/letters/letters.ts';
import { queueLetter } from '../../../src/server/letters/queue.ts';
import { workspaceOf } from '../../../src/server/people/workspace.ts';
import { type Db, openDatabase } from '../../../src/server/store/database.ts';
import { PostOffice } from '../../../standins/mail/post-office.ts';
import { TODAY } from '../world.ts';

const KILLS = 100;
const LETTERS = 16;
const SENDER = join(import.meta.dirname, '../../../node_modules/.cache/ottik/sender/sender.mjs');
let folder: string;
let file: string;
let office: PostOffice;
let port: number;
let stop: () => Promise<void>;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'ottik-killed-'));
  file = join(folder, 'ottik.db');
  // it is started a hundred times: a few files with what is used at once start in a tenth of the time
  await build({
    entryPoints: [join(import.meta.dirname, 'sender.ts')],
    outdir: dirname(SENDER),
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    minify: true,
    external: ['better-sqlite3', 'pdfmake', 'docx'],
    logLevel: 'error',
    banner: { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" },
  });
  office = new PostOffice(join(folder, 'mail'));
  const smtp = office.smtp();
  port = await new Promise<number>((done) => {
    const server = smtp.listen(0, '127.0.0.1', () => done((server.address() as { port: number }).port));
  });
  stop = () => new Promise((done) => smtp.close(() => done()));
});
afterAll(async () => {
  await stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Many letters to many people, all in the queue. */
async function fill(db: Db): Promise<number> {
  const ws = await workspaceOf(db, 'ines');
  const people = await db.selectFrom('people').select(['id', 'mail']).where('mail', 'is not', null).where('id', '!=', 'ines').execute();
  const commitments = await db.selectFrom('commitments').select('id').where('project_id', '=', 'quiet-crossing').execute();
  for (let k = 0; k < LETTERS; k++) {
    const { id } = await db
      .insertInto('letters')
      .values({ project_id: 'quiet-crossing', meeting_id: null, kind: 'check', subject: `Letter ${k}`, body: 'How does it stand?\n', state: 'draft', created_at: new Date().toISOString(), sent_at: null, by_person: 'ines', from_name: ws.asker.name, from_mail: ws.asker.mail! })
      .returning('id')
      .executeTakeFirstOrThrow();
    await db
      .insertInto('letter_items')
      .values({ letter_id: id, n: 1, key: `check:${k}`, kind: 'check', commitment_id: commitments[k % commitments.length]!.id })
      .execute();
    for (const p of people) await addRecipient(db, id, p.id, p.mail!);
    await queueLetter(ws, id, new Date());
  }
  return LETTERS * people.length;
}

describe('the queue, killed again and again', () => {
  it(`loses nothing and doubles nothing in ${KILLS} kills, by the post office’s count`, { timeout: 420_000 }, async () => {
    const db = await openDatabase(file);
    await loadDemo(db, TODAY, null);
    const total = await fill(db);
    const events = (await db.selectFrom('events').select('id').where('kind', '=', 'written').execute()).length;
    await db.destroy();
    let kills = 0;
    let finished = false;
    // each process is killed in the moment its first, second or third message arrives
    const take = office.take.bind(office);
    let child: ChildProcess | null = null;
    let left = 0;
    office.take = async (address, source) => {
      if (kills < KILLS && --left === 0) {
        // now before, now after the letter is laid into the mailbox
        if (kills % 2) await take(address, source);
        kills++;
        child?.kill('SIGKILL');
        if (kills % 2 === 0) return;
        throw new Error('whoever sent it is gone');
      }
      return take(address, source);
    };
    while (!finished) {
      left = 1 + (kills % 3);
      child = spawn(process.execPath, [SENDER], { env: { ...process.env, OTTIK_DB: file, OTTIK_SMTP_PORT: String(port), OTTIK_MAIL_PER_MINUTE: '1000000' }, stdio: ['ignore', 'ignore', 'inherit'] });
      finished = (await new Promise<number | null>((done) => child!.on('exit', (code) => done(code)))) === 0;
    }
    expect(kills).toBe(KILLS);
    const after = await openDatabase(file);
    expect(office.messages().length).toBe(total);
    const ids = office.messages().map((m) => `${m.mailbox} ${m.mail.messageId}`);
    expect(new Set(ids).size).toBe(total);
    // a second copy can only be of the one message that was under way
    expect(office.suppressed).toBeLessThanOrEqual(KILLS);
    const states = await after.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select(['r.state', 'l.state as letter']).where('l.subject', 'like', 'Letter %').execute();
    expect(states.length).toBe(total);
    expect(new Set(states.map((s) => `${s.state} ${s.letter}`))).toEqual(new Set(['sent sent']));
    // and the trail says so once for each
    expect((await after.selectFrom('events').select('id').where('kind', '=', 'written').execute()).length).toBe(events + total);
    expect((await checkLedger(after)).differences).toEqual([]);
    await after.destroy();
  });
});
