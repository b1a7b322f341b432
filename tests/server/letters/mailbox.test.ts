import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { IncomingSchema, keepIncoming, OutgoingSchema } from '../../../src/server/letters/mail-settings.ts';
import { mailboxState, tryMailbox, watchMailbox } from '../../../src/server/letters/mailbox.ts';
import { tryOutgoing } from '../../../src/server/letters/try-mail.ts';
import type { Workspace } from '../../../src/server/people/workspace.ts';
import { setting } from '../../../src/server/store/settings.ts';
import { PostOffice } from '../../../standins/mail/post-office.ts';
import { demoWorld } from '../world.ts';
import { ImapServer, imapServerMissing } from './imap-server.ts';

const missing = imapServerMissing();
if (missing) console.warn(`reading a mailbox is not checked against a real server: ${missing}`);

let ws: Workspace;
let folder: string;
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'ottik-mailbox-'));
  vi.stubEnv('OTTIK_KEY_FILE', join(folder, 'ottik.key'));
  ws = await demoWorld();
});
afterEach(async () => {
  await ws.db.destroy();
  vi.unstubAllEnvs();
  rmSync(folder, { recursive: true, force: true });
});

/** Waits until something holds, at most ten seconds. */
async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  for (let i = 0; i < 200; i++) {
    if (await holds()) return;
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error(`it did not come to that; the mailbox is ${JSON.stringify(mailboxState())}`);
}

describe.skipIf(missing)('a mailbox on a real IMAP server', () => {
  let server: ImapServer;
  beforeAll(async () => {
    server = await ImapServer.start();
  });
  afterAll(() => server.stop());

  const box = (over: Partial<z.input<typeof IncomingSchema>> = {}) => IncomingSchema.parse({ host: '127.0.0.1', port: server.port, security: 'none', user: ImapServer.USER, password: ImapServer.PASSWORD, address: 'projects@harbour.example', ...over });
  const replies = () => ws.db.selectFrom('replies').select(['id', 'nature', 'words', 'person_id']).orderBy('id').execute();
  const sent = () => ws.db.selectFrom('letter_recipients as r').select(['r.mail', 'r.token', 'r.message_id', 'r.person_id']).where('r.via', '=', 'mail').where('r.state', '=', 'sent').orderBy('r.id', 'desc').executeTakeFirstOrThrow();
  const mail = (from: string, to: string, id: string, words: string, more = '') => `From: ${from}\nTo: ${to}\nSubject: Re: your letter\nMessage-ID: <${id}@reader.example>\nDate: Thu, 5 Mar 2026 12:00:00 +0000\n${more}\n${words}\n`;
  const watching = async (pauses?: number[]) => {
    const end = new AbortController();
    const watched = watchMailbox(ws.db, end.signal, pauses);
    await until(() => mailboxState().is === 'watching');
    return async () => {
      end.abort();
      await watched;
    };
  };

  it('tells a wrong password from a folder that is not there, and both from a server that is not there', async () => {
    const typed = { ...box(), password: ImapServer.PASSWORD };
    expect(await tryMailbox(typed)).toMatchObject({ mails: expect.any(Number) });
    await expect(tryMailbox({ ...typed, password: 'guess' })).rejects.toThrow('does not accept the login');
    await expect(tryMailbox({ ...typed, folder: 'Letters' })).rejects.toMatchObject({ message: 'The mailbox has no folder “Letters”.', advice: 'It has INBOX.' });
    await expect(tryMailbox({ ...typed, security: 'starttls' })).rejects.toThrow('does not offer a protected connection');
    await expect(tryMailbox({ ...typed, port: 1 })).rejects.toThrow('cannot be reached');
  });

  it('gives what answers a letter, by its address or its thread, once and unmarked, and nothing that is private', async () => {
    const to = await sent();
    server.deliver(mail('old@friend.example', 'projects@harbour.example', 'before', 'This lay here before.', `In-Reply-To: ${to.message_id}\n`), 'before');
    await keepIncoming(ws, box());
    const before = (await replies()).length;
    const stop = await watching();
    server.deliver(mail(to.mail, `projects+${to.token}@harbour.example`, 'one', 'It is done.'), 'one');
    await until(async () => (await replies()).length === before + 1);
    server.deliver(mail('old@friend.example', 'projects@harbour.example', 'private', 'Shall we go sailing?'), 'private');
    server.deliver(mail(to.mail, 'projects@harbour.example', 'two', 'Still on it.', `In-Reply-To: ${to.message_id}\nReferences: ${to.message_id}\n`), 'two');
    await until(async () => (await replies()).length === before + 2);
    await stop();
    expect((await replies()).slice(before).map((r) => [r.nature, r.words, r.person_id])).toEqual([
      ['answer', 'It is done.', to.person_id],
      ['answer', 'Still on it.', to.person_id],
    ]);
    expect(server.marked()).toEqual([]);
    // what came while nobody watched is there when somebody does, and what was had is not had again
    server.deliver(mail(to.mail, `projects+${to.token}@harbour.example`, 'three', 'One more word.'), 'three');
    const again = await watching();
    await until(async () => (await replies()).length === before + 3);
    await again();
    expect((await replies()).at(-1)!.words).toBe('One more word.');
  });

  it('takes everything where its folder is for Ottik alone', async () => {
    await keepIncoming(ws, box({ everything: true }));
    const stop = await watching();
    const before = (await replies()).length;
    server.deliver(mail('hanne@harbour.example', 'projects@harbour.example', 'stray', 'Who looks after the moorings?'), 'stray');
    await until(async () => (await replies()).length === before + 1);
    expect((await replies()).at(-1)).toMatchObject({ nature: 'unmatched' });
    await stop();
  });

  it('is watched again after its server was away, and says so meanwhile', async () => {
    await keepIncoming(ws, box());
    const stop = await watching([200, 400]);
    const to = await sent();
    await server.halt();
    await until(() => mailboxState().is === 'broken');
    expect(mailboxState().wrong).toMatch(/cannot be reached|broke off/);
    expect(mailboxState().nextTry).not.toBeNull();
    const before = (await replies()).length;
    server.deliver(mail(to.mail, `projects+${to.token}@harbour.example`, 'away', 'While you were away.'), 'away');
    await server.again();
    await until(async () => (await replies()).length === before + 1);
    await until(() => mailboxState().is === 'watching');
    await stop();
    expect(mailboxState().is).toBe('off');
  });
});

describe('settings for mail', () => {
  const typed = { host: 'mail.harbour.example', port: 993, security: 'tls' as const, user: 'projects', password: 'drift-net 7', address: 'projects@harbour.example' };
  it('never hold a password as it is, and do not send it to a server that was typed in since', async () => {
    await keepIncoming(ws, IncomingSchema.parse(typed));
    const kept = JSON.stringify(await setting(ws.db, 'mail in', z.unknown()));
    expect(kept).not.toContain('drift-net');
    await keepIncoming(ws, IncomingSchema.parse({ ...typed, password: null, folder: 'Answers' }));
    expect(JSON.stringify(await setting(ws.db, 'mail in', z.unknown()))).toContain('Answers');
    await expect(keepIncoming(ws, IncomingSchema.parse({ ...typed, password: null, host: 'elsewhere.example' }))).rejects.toThrow('another one now');
    await expect(keepIncoming(ws.with({ asker: { ...ws.asker, person: 'bram' } }), IncomingSchema.parse(typed))).rejects.toThrow('Only whoever set up');
  });
  it.each([
    ['a host with a path', { host: 'mail.example/inbox' }, 'not the name of a server'],
    ['no host', { host: ' ' }, 'needs a name'],
    ['an address that is none', { address: 'projects at harbour' }, 'not a mail address'],
    ['a port that is none', { port: 70_000 }, 'expected number to be <=65535'],
  ])('refuse %s', (_, wrong, words) => {
    expect(() => IncomingSchema.parse({ ...typed, ...wrong })).toThrow(words);
  });
});

describe('a mail server', () => {
  it('is tried with a letter to whoever asks, and what happened is said', async () => {
    const office = new PostOffice(join(folder, 'office'));
    office.keepPeople([{ name: 'Ines Falk', mail: ws.asker.mail! }]);
    const smtp = office.smtp();
    const port = await new Promise<number>((done) => smtp.listen(0, '127.0.0.1', () => done((smtp.server.address() as { port: number }).port)));
    const typed = OutgoingSchema.parse({ host: '127.0.0.1', port, security: 'none', password: '' });
    expect(await tryOutgoing(ws, typed)).toEqual({ to: ws.asker.mail });
    await new Promise<void>((done) => smtp.close(() => done()));
    await expect(tryOutgoing(ws, typed)).rejects.toThrow('cannot be reached');
  });
  it('that stops in the middle is told from one that is not there', async () => {
    const silent: Server = createServer((socket) => void socket.on('error', () => undefined));
    const port = await new Promise<number>((done) => silent.listen(0, '127.0.0.1', () => done((silent.address() as { port: number }).port)));
    await expect(tryOutgoing(ws, OutgoingSchema.parse({ host: '127.0.0.1', port, security: 'none', password: '' }), 300)).rejects.toThrow('does not answer');
    silent.close();
  });
});
