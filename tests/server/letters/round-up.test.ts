import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import type { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { webhookPoster } from '../../../src/server/letters/chat.ts';
import { editLetter, letterAs, letterById } from '../../../src/server/letters/letters.ts';
import { type MailSettings, smtpMailer } from '../../../src/server/letters/mailer.ts';
import { type Carriers, sendLetter } from '../../../src/server/letters/queue.ts';
import { roundUpFor } from '../../../src/server/letters/round-up.ts';
import { meetingRows } from '../../../src/server/meetings/meetings.ts';
import { changeMinutes } from '../../../src/server/meetings/minutes/minutes.ts';
import type { Workspace } from '../../../src/server/people/workspace.ts';
import { PostOffice } from '../../../standins/mail/post-office.ts';
import { demoWorld } from '../world.ts';

let ws: Workspace;
let smtp: SMTPServer;
let office: PostOffice;
let port: number;
const folder = mkdtempSync(join(tmpdir(), 'ottik-mail-'));
beforeAll(async () => {
  ws = await demoWorld();
  office = new PostOffice(folder);
  smtp = office.smtp();
  port = await new Promise<number>((done) => {
    const server = smtp.listen(0, '127.0.0.1', () => done((server.address() as { port: number }).port));
  });
});
afterAll(async () => {
  await new Promise<void>((done) => smtp.close(() => done()));
  await ws.db.destroy();
  rmSync(folder, { recursive: true, force: true });
});

const carriers = (settings: MailSettings): Carriers => ({ mail: smtpMailer(settings), chat: webhookPoster() });
const meeting = async (number: number) => (await meetingRows(ws, { project: 'quiet-crossing' })).find((m) => m.series === 'works' && m.number === number)!.id;

describe('a round-up over SMTP', () => {
  it('goes to each of those who were invited, also the absent, with both parts and the right headers (read by mailparser)', async () => {
    await ws.db
      .updateTable('attendance')
      .set({ present: 0 })
      .where('meeting_id', '=', await meeting(5))
      .where('person_id', '=', 'ruth')
      .execute();
    const letter = await roundUpFor(ws, await meeting(5));
    expect(letter.body).toContain('Find a second welder for frame 14');
    expect(letter.recipients.map((r) => r.id)).not.toContain('ines');
    expect(letter.recipients.map((r) => r.id)).toContain('ruth');
    const sent = await sendLetter(ws, letter.id, carriers({ host: '127.0.0.1', port, patience: 3000 }));
    expect(sent.state).toBe('sent');
    expect(sent.recipients.every((r) => r.state === 'sent')).toBe(true);
    const [got] = office.messages('bram.osei@pellyard.example');
    const mail = await simpleParser(got!.source);
    expect(mail.from!.value[0]).toMatchObject({ name: 'Ines Falk', address: 'ines.falk@marrowsound.example' });
    expect((mail.to as { text: string }).text).toContain('bram.osei@pellyard.example');
    expect((mail.to as { text: string }).text).not.toContain('ruth');
    expect(mail.subject).toBe(letter.subject);
    expect(mail.text).toContain('Dear Bram,');
    expect(mail.html).toContain('Dear Bram,');
    expect(mail.messageId).toMatch(/^<.+@.+>$/);
    expect(mail.date).toBeInstanceOf(Date);
    expect(got!.source).toMatch(/Content-Type: multipart\/alternative/);
    await expect(sendLetter(ws, letter.id, carriers({ host: '127.0.0.1', port }))).rejects.toThrow(/sent already/);
    await expect(editLetter(ws, letter.id, { subject: 'x', body: 'y' })).rejects.toThrow(/does not change/);
  });
  it('takes issued minutes along as a PDF', async () => {
    const id = (await meetingRows(ws, { project: 'quiet-crossing' })).find((m) => m.title.startsWith('Yard walk'))!.id;
    const letter = await roundUpFor(ws, id);
    expect([letter.minutes, letter.newestMinutes]).toEqual([null, null]);
    await expect(editLetter(ws, letter.id, { subject: letter.subject, body: letter.body, minutes: 1 })).rejects.toThrow('no version 1');
    await changeMinutes(ws.with({ today: '2026-03-05' }), id, { do: 'issue', revision: 0 });
    await editLetter(ws, letter.id, { subject: letter.subject, body: letter.body, minutes: 1 });
    await sendLetter(ws, letter.id, carriers({ host: '127.0.0.1', port, patience: 3000 }));
    const got = await Promise.all(office.messages('bram.osei@pellyard.example').map((m) => simpleParser(m.source)));
    const mail = got.find((m) => m.subject === letter.subject)!;
    expect(mail.attachments.map((a) => [a.filename, a.contentType])).toEqual([[expect.stringMatching(/^yard-walk-with-bram-2026-03-04-v1\.pdf$/), 'application/pdf']]);
    expect(mail.attachments[0]!.content.subarray(0, 5).toString()).toBe('%PDF-');
  });
  it('keeps what was edited, escapes it, and fills in the recipient', async () => {
    const letter = await roundUpFor(ws, await meeting(4));
    const kept = await editLetter(ws, letter.id, { subject: 'Round-up', body: 'Hello {{ recipient.first }},\n\n<img src=x onerror=alert(1)>', to: ['bram'] });
    expect(kept.recipients.map((r) => r.id)).toEqual(['bram']);
    const view = letterAs(kept, { name: 'Dr Ruth Adair', mail: 'r@x.example' });
    expect(view.text).toContain('Hello Ruth,');
    expect(view.html).toContain('&lt;img');
    await expect(editLetter(ws, letter.id, { subject: 'x', body: 'Dear {{ recipient.frist }}' })).rejects.toThrow(/cannot be filled/);
    await expect(editLetter(ws, letter.id, { subject: 'x', body: '{% for %}' })).rejects.toThrow(/cannot be filled/);
    expect((await letterById(ws, letter.id)).body).toContain('Hello {{ recipient.first }}');
  });
  it('tells of one refused address, and writes to nobody twice', async () => {
    await ws.db.updateTable('people').set({ mail: 'bounce.kit@example.org' }).where('id', '=', 'kit').execute();
    const letter = await roundUpFor(ws, await meeting(3));
    const mailer = carriers({ host: '127.0.0.1', port, patience: 3000 });
    const part = await sendLetter(ws, letter.id, mailer);
    expect(part.state).toBe('part sent');
    expect(part.recipients.find((r) => r.id === 'kit')).toMatchObject({ state: 'refused', error: expect.stringMatching(/no such mailbox/) });
    const before = office.messages('ruth@adairlund.example').length;
    await ws.db.updateTable('letter_recipients').set({ mail: 'kit@example.org' }).where('letter_id', '=', letter.id).where('person_id', '=', 'kit').execute();
    expect((await sendLetter(ws, letter.id, mailer)).state).toBe('sent');
    expect(office.messages('ruth@adairlund.example').length).toBe(before);
  });
});

describe('a mail server that is not there', () => {
  const hanging = () =>
    new Promise<{ server: Server; port: number }>((done) => {
      const server = createServer(() => undefined);
      server.listen(0, '127.0.0.1', () => done({ server, port: (server.address() as { port: number }).port }));
    });
  it('is away: the letter stays in the queue, says so, and cannot be edited under way', async () => {
    const letter = await roundUpFor(ws, await meeting(2));
    const kept = await sendLetter(ws, letter.id, carriers({ host: '127.0.0.1', port: 1, patience: 1000 }));
    expect(kept).toMatchObject({ state: 'queued', body: letter.body });
    expect(kept.recipients.every((r) => r.state === 'queued')).toBe(true);
    expect(kept.recipients.some((r) => /cannot be reached/.test(r.error ?? ''))).toBe(true);
    await expect(editLetter(ws, letter.id, { subject: 'x', body: 'y' })).rejects.toThrow('on its way');
  });
  it('hangs: it is given up after a while', async () => {
    const { server, port: dead } = await hanging();
    const letter = await roundUpFor(ws, await meeting(1));
    const kept = await sendLetter(ws, letter.id, carriers({ host: '127.0.0.1', port: dead, patience: 300 })).catch(() => letterById(ws, letter.id));
    expect(['queued', 'sent']).toContain(kept.state);
    expect(kept.recipients.filter((r) => r.error).every((r) => /does not answer|cannot be reached/.test(r.error!))).toBe(true);
    server.close();
  });
});
