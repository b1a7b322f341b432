import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'kysely';
import { simpleParser } from 'mailparser';
import nodemailer from 'nodemailer';
import type { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { addDays } from '../../../src/core/dates/calendar.ts';
import { DEFAULT_RULES } from '../../../src/core/letters/rules.ts';
import { calendarOwner, calendarPath } from '../../../src/server/ledger/calendar.ts';
import { changeCommitment } from '../../../src/server/ledger/changes.ts';
import { checkLedger } from '../../../src/server/ledger/check.ts';
import { ledgerRows } from '../../../src/server/ledger/commitments.ts';
import { answerPage, stopDigests, tell, wishLetters } from '../../../src/server/letters/answer-page.ts';
import { webhookPoster } from '../../../src/server/letters/chat.ts';
import { receiveMail } from '../../../src/server/letters/inbound.ts';
import { editLetter, letterById, withdrawLetter } from '../../../src/server/letters/letters.ts';
import { answerPath, renewLinks } from '../../../src/server/letters/links.ts';
import { type Mailer, type Message, smtpMailer } from '../../../src/server/letters/mailer.ts';
import { changePlan, composeAnew, freshen, letGoByThemselves, planOf, previewPlanned, writePlanned } from '../../../src/server/letters/plan.ts';
import { type Carriers, deliverDue, queueLetter, sendLetter } from '../../../src/server/letters/queue.ts';
import { passAnswer, reopenAnswer, repliesOf, takeAnswer } from '../../../src/server/letters/replies.ts';
import { keepChannel, keepRules, keepWishes, lettersWanted, rulesOf } from '../../../src/server/letters/rules.ts';
import { previewTemplate } from '../../../src/server/letters/template-preview.ts';
import { dropTemplate, fillTemplate, keepTemplate, templateOf } from '../../../src/server/letters/templates.ts';
import { sendTest } from '../../../src/server/letters/test-letter.ts';
import { type Workspace, workspaceOf } from '../../../src/server/people/workspace.ts';
import { answersDoor, readFolder } from '../../../src/server/web/background.ts';
import { Channel, channelServer } from '../../../standins/chat/channel.ts';
import { PostOffice } from '../../../standins/mail/post-office.ts';
import { Replies } from '../../../standins/mail/replies.ts';
import { demoWorld, TODAY } from '../world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
let office: PostOffice;
let smtp: SMTPServer;
let door: SMTPServer;
let carriers: Carriers;
let replies: Replies;
let doorPort: number;
const listen = (server: SMTPServer) =>
  new Promise<number>((done) => {
    const s = server.listen(0, '127.0.0.1', () => done((s.address() as { port: number }).port));
  });

const folders: string[] = [];
const temporary = (name: string) => {
  const made = mkdtempSync(join(tmpdir(), name));
  folders.push(made);
  return made;
};
afterAll(() => {
  for (const f of folders) rmSync(f, { recursive: true, force: true });
});
beforeAll(async () => {
  office = new PostOffice(temporary('ottik-post-'));
  smtp = office.smtp();
  carriers = { mail: smtpMailer({ host: '127.0.0.1', port: await listen(smtp), patience: 1500 }), chat: webhookPoster(1500) };
});
beforeEach(async () => {
  ws = await demoWorld();
  office.mood = 'takes';
  door?.close();
  door = answersDoor(ws.db);
  doorPort = await listen(door);
  replies = new Replies(office, { host: '127.0.0.1', port: doorPort, domain: 'ottik.example' });
});
afterAll(async () => {
  door.close();
  await new Promise<void>((done) => smtp.close(() => done()));
  await ws.db.destroy();
});

const plannedFor = async (to: string) => (await planOf(ws.db, P, TODAY)).letters.find((l) => l.to === to && l.day === TODAY)!;
const write = async (to: string) => writePlanned(ws, P, to, TODAY);
const commitment = async (ref: string) => (await ledgerRows(ws, { project: P, state: 'all' })).find((r) => r.ref === ref)!;
const inbox = async (mail: string) => Promise.all(office.messages(mail).map(async (m) => ({ stored: m, mail: await simpleParser(m.source) })));
const newest = async () => (await repliesOf(ws, P))[0]!;

describe('a planned letter', () => {
  it('is looked at without being written, written once, and leaves the plan', async () => {
    const planned = await plannedFor('dele');
    const seen = await previewPlanned(ws, P, 'dele', TODAY);
    expect(seen.items.map((i) => i.ref)).toEqual(planned.parts.map((p) => `C-${p.commitment}`));
    expect(await plannedFor('dele')).toEqual(planned);
    const letter = await write('dele');
    expect([letter.subject, letter.body.replace(/\/answer\/\S+/, '')]).toEqual([seen.subject, seen.body.replace(/\/answer\/\S+/, '')]);
    expect(await plannedFor('dele')).toBeUndefined();
    await expect(write('dele')).rejects.toThrow('not planned any more');
  });
  it('goes with what answers need: address, threading, the same Message-ID kept; and the trail says so', async () => {
    const letter = await sendLetter(ws, (await write('dele')).id, carriers);
    expect(letter.state).toBe('sent');
    const [got] = await inbox('dele@keldagrid.example');
    const row = await ws.db.selectFrom('letter_recipients').selectAll().where('letter_id', '=', letter.id).executeTakeFirstOrThrow();
    expect(got!.mail.messageId).toBe(row.message_id);
    expect(got!.mail.replyTo!.value[0]!.address).toBe(`answers+${row.token}@ottik.example`);
    // earlier letters on the same permit, so that mail programs lay them together
    expect([got!.mail.references].flat().length).toBeGreaterThan(0);
    expect(got!.mail.headers.get('auto-submitted')).toBeUndefined();
    expect((await commitment('C-3')).writtenOn).toBe(TODAY);
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
  it('does not go when what it is about has changed; composed anew it does', async () => {
    const letter = await write('dele');
    await changeCommitment(ws, letter.items[0]!.commitment, { do: 'move', due: '2026-03-20' });
    expect((await letterById(ws, letter.id)).stale).toEqual([`${letter.items[0]!.ref} was moved`]);
    await expect(sendLetter(ws, letter.id, carriers)).rejects.toThrow('was moved since this letter was written');
    const anew = await composeAnew(ws, letter.id, { tone: 'firmer', language: 'de' });
    expect(anew.body).toContain('Fällig Fr., 20. März.');
    expect((await sendLetter(ws, letter.id, carriers)).state).toBe('sent');
  });
  it('written on one day and let go on another tells how things stand on the day it goes, unless somebody has put it into their own words', async () => {
    const letter = await write('kit');
    const late = (body: string) => /(\d+) days? late/.exec(body)?.[1];
    await freshen(ws.with({ today: addDays(TODAY, 3) }), letter.id, false);
    const anew = await letterById(ws, letter.id);
    expect(Number(late(anew.body))).toBe(Number(late(letter.body)) + 3);
    await editLetter(ws, letter.id, { subject: anew.subject, body: `${anew.body.trim()}\nSee you.` });
    await expect(freshen(ws.with({ today: addDays(TODAY, 4) }), letter.id, false)).rejects.toThrow('tells how things stood on');
    await freshen(ws.with({ today: addDays(TODAY, 4) }), letter.id, true);
    expect((await letterById(ws, letter.id)).body).toContain('See you.');
    await withdrawLetter(ws, letter.id);
  });
  it('is held, moved and dropped, and that can be undone', async () => {
    const marked = await changePlan(ws, P, { do: 'hold', to: 'tove', day: TODAY });
    expect((await planOf(ws.db, P, TODAY)).letters.find((l) => l.to === 'tove' && l.day === TODAY)!.held).toBe(true);
    await changePlan(ws, P, { do: 'unmark', keys: marked.keys, before: marked.before });
    await changePlan(ws, P, { do: 'move', to: 'tove', day: TODAY, until: '2026-03-09' });
    expect(await plannedFor('tove')).toBeUndefined();
    expect((await planOf(ws.db, P, TODAY)).letters.some((l) => l.to === 'tove' && l.day === '2026-03-09' && l.covers.some((k) => marked.keys.includes(k)))).toBe(true);
    await expect(changePlan(ws, P, { do: 'move', to: 'ruth', day: TODAY, until: '2026-03-01' })).rejects.toThrow('has passed');
    await expect(changePlan(ws, P, { do: 'drop', to: 'nobody', day: TODAY })).rejects.toThrow('not planned');
  });
  it('goes by itself where its rule says so, in the hours of its reader, and says that no person wrote it', async () => {
    const rules = { ...DEFAULT_RULES, overdue: { ...DEFAULT_RULES.overdue, byItself: true }, reminder: { ...DEFAULT_RULES.reminder, byItself: true } };
    await keepRules(ws, P, rules);
    await keepWishes(ws, P, 'tove', { letters: 'all', language: 'de', zone: 'Europe/Berlin', country: 'DE' });
    // 7:00 in Berlin is before the hour and quiet; 8:30 is not; for UTC readers it is still early
    expect(await letGoByThemselves(ws.db, new Date(`${TODAY}T06:00:00Z`))).toBe(0);
    expect(await letGoByThemselves(ws.db, new Date(`${TODAY}T07:35:00Z`))).toBe(1);
    await deliverDue(ws.db, carriers, () => new Date(`${TODAY}T07:35:00Z`));
    const [got] = await inbox('tove.lindqvist@tarncells.example');
    expect(got!.mail.headers.get('auto-submitted')).toBe('auto-generated');
    expect(got!.mail.subject).toContain('überfällig');
    expect(await letGoByThemselves(ws.db, new Date(`${TODAY}T07:40:00Z`))).toBe(0);
    expect(await letGoByThemselves(ws.db, new Date(`${TODAY}T22:00:00Z`))).toBe(0);
  });
  it('to a sitting carries its calendar entry', async () => {
    const plan = await planOf(ws.db, P, TODAY);
    const invitation = plan.letters.find((l) => l.kind === 'invitation' && l.to === 'wim')!;
    const letter = await writePlanned(ws, P, 'wim', invitation.day);
    await sendLetter(ws, letter.id, carriers);
    const got = (await inbox('wim.daal@marrowsound.example')).find((m) => m.mail.subject === letter.subject)!;
    expect(got.stored.source).toMatch(/Content-Type: text\/calendar; charset=utf-8; method=REQUEST/i);
  });
});

describe('the queue', () => {
  const at = (minutes: number) => () => new Date(Date.parse(`${TODAY}T09:00:00Z`) + minutes * 60_000);
  const one = async () => {
    const letter = await write('tove');
    await queueLetter(ws, letter.id, at(0)());
    return letter.id;
  };
  const state = async (id: number) => (await letterById(ws, id)).recipients[0]!;
  it('tries again while the server is busy, and sends once it takes letters', async () => {
    const id = await one();
    const before = office.messages().length;
    office.mood = 'busy';
    expect(await deliverDue(ws.db, carriers, at(0))).toBe(0);
    expect(await state(id)).toMatchObject({ state: 'queued', error: expect.stringContaining('451'), nextTry: at(1)().toISOString() });
    expect(await deliverDue(ws.db, carriers, at(0.5))).toBe(0);
    expect(await deliverDue(ws.db, carriers, at(1))).toBe(0);
    expect((await state(id)).nextTry).toBe(at(3)().toISOString());
    office.mood = 'takes';
    expect(await deliverDue(ws.db, carriers, at(60))).toBe(1);
    expect(await state(id)).toMatchObject({ state: 'sent', error: null });
    expect(office.messages().length).toBe(before + 1);
  });
  it('tells of a refusal for good, and lets it be sent again', async () => {
    const id = await one();
    office.mood = 'refuses';
    await deliverDue(ws.db, carriers, at(0));
    expect(await state(id)).toMatchObject({ state: 'refused', error: expect.stringContaining('550'), nextTry: null });
    expect((await letterById(ws, id)).state).toBe('draft');
    office.mood = 'takes';
    expect((await sendLetter(ws, id, carriers, at(5))).state).toBe('sent');
  });
  it('keeps a letter whose connection drops in the middle, and one whose server hangs', async () => {
    const id = await one();
    for (const mood of ['drops', 'hangs'] as const) {
      office.mood = mood;
      await deliverDue(ws.db, carriers, at(mood === 'drops' ? 0 : 10));
      expect([mood, (await state(id)).state]).toEqual([mood, 'queued']);
    }
    office.mood = 'takes';
    expect(await deliverDue(ws.db, carriers, at(60))).toBe(1);
  });
  it('does not knock for every letter when the server is away', async () => {
    await queueLetter(ws, (await write('tove')).id, at(0)());
    await queueLetter(ws, (await write('dele')).id, at(0)());
    let knocks = 0;
    const away: Mailer = {
      send: async () => {
        knocks++;
        return smtpMailer({ host: '127.0.0.1', port: 1, patience: 500 }).send({} as Message);
      },
    };
    await deliverDue(ws.db, { ...carriers, mail: away }, at(0));
    expect(knocks).toBe(1);
  });
  it('lets a server take the time it may take (RFC 5321, 4.5.3.2), and sends to it once', async () => {
    const taken: string[] = [];
    const slow = createServer((socket) => {
      let inside = false;
      let text = '';
      const say = (line: string, after = 0) => setTimeout(() => socket.write(`${line}\r\n`), after);
      say('220 slow.example', 1500);
      socket.on('error', () => undefined);
      socket.on('data', (chunk) => {
        text += chunk.toString();
        if (inside) {
          if (!text.includes('\r\n.\r\n')) return;
          taken.push(text);
          inside = false;
          say('250 taken', 2600);
        } else if (/^DATA/im.test(text)) {
          inside = true;
          say('354 go on');
        } else say('250 slow.example');
        if (!inside || taken.length === 0) text = '';
      });
    });
    const port = await new Promise<number>((done) => slow.listen(0, '127.0.0.1', () => done((slow.address() as { port: number }).port)));
    const id = await one();
    expect(await deliverDue(ws.db, { ...carriers, mail: smtpMailer({ host: '127.0.0.1', port }) }, at(0), id)).toBe(1);
    expect(taken).toHaveLength(1);
    expect((await state(id)).state).toBe('sent');
    slow.close();
  });
  it('tells that a letter has gone which could not be written down, and does not send it again', async () => {
    const id = await one();
    let went = 0;
    const last: Mailer = {
      send: async () => {
        went++;
        await sql`PRAGMA query_only = 1`.execute(ws.db);
      },
    };
    await expect(deliverDue(ws.db, { ...carriers, mail: last }, at(0), id)).rejects.toThrow('The letter has gone, and that could not be written down');
    await sql`PRAGMA query_only = 0`.execute(ws.db);
    expect(await deliverDue(ws.db, { ...carriers, mail: last }, at(1), id)).toBe(0);
    expect(await state(id)).toMatchObject({ state: 'sent' });
    expect(went).toBe(1);
  });
  it('holds nothing when the clock is set back', async () => {
    const id = await one();
    expect(await deliverDue(ws.db, carriers, at(-1), id)).toBe(0);
    expect(await deliverDue(ws.db, carriers, at(-24 * 60), id)).toBe(1);
  });
  it('posts the short form to the channel over HTTP', async () => {
    const channel = new Channel();
    const server = channelServer(channel);
    const port = await new Promise<number>((done) => server.listen(0, '127.0.0.1', () => done((server.address() as { port: number }).port)));
    await keepChannel(ws, P, `http://127.0.0.1:${port}/hook`);
    await expect(keepChannel(ws, P, 'file:///etc/passwd')).rejects.toThrow('not the address of a channel');
    const letter = await write('dele');
    await editLetter(ws, letter.id, { subject: letter.subject, body: letter.body, to: ['dele', 'chat'] });
    expect((await sendLetter(ws, letter.id, carriers)).state).toBe('sent');
    expect(channel.posts.map((p) => p.text)).toEqual([letter.short]);
    server.close();
  });
});

describe('answers', () => {
  it('come in by SMTP, are read against the numbers, and become events when they are taken', async () => {
    const letter = await sendLetter(ws, (await write('dele')).id, carriers);
    const [got] = await inbox('dele@keldagrid.example');
    await replies.reply(got!.stored, '1 is with Jonas now\n2 can I have until 20 March', 'below');
    const reply = await newest();
    expect(reply).toMatchObject({ letter: letter.id, nature: 'answer', verified: true, person: 'dele', words: '1 is with Jonas now\n2 can I have until 20 March' });
    expect(reply.answers.map((a) => [a.ref, a.kind, a.due?.slice(5) ?? null, a.owner, a.sure])).toEqual([
      [letter.items[0]!.ref, 'reassigned', null, ['jonas'], true],
      [letter.items[1]!.ref, 'moved', '03-20', null, false],
    ]);
    const [first, second] = reply.answers;
    await takeAnswer(ws, first!.id, {});
    await takeAnswer(ws, second!.id, { due: '2026-03-18' });
    expect((await commitment(letter.items[0]!.ref)).owner.map((o) => o.id)).toEqual(['jonas']);
    expect((await commitment(letter.items[1]!.ref)).due).toBe('2026-03-18');
    await expect(takeAnswer(ws, first!.id, {})).rejects.toThrow('taken already');
    await reopenAnswer(ws, second!.id);
    expect((await commitment(letter.items[1]!.ref)).due).toBe(letter.items[1]!.due);
    await passAnswer(ws, second!.id);
    expect((await newest()).answers.map((a) => a.verdict)).toEqual(['taken', 'passed']);
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
  it('become updates by themselves where nothing in them leaves a doubt and the rules allow it', async () => {
    await keepRules(ws, P, { ...DEFAULT_RULES, answersByThemselves: true });
    const letter = await sendLetter(ws, (await write('tove')).id, carriers);
    const [got] = await inbox('tove.lindqvist@tarncells.example');
    await replies.reply(got!.stored, '1 erledigt', 'above');
    expect((await newest()).answers).toMatchObject([{ kind: 'done', verdict: 'taken', byItself: true }]);
    expect((await commitment(letter.items[0]!.ref)).state).toBe('done');
  });
  it('from another address are kept, marked, and never taken by themselves', async () => {
    await keepRules(ws, P, { ...DEFAULT_RULES, answersByThemselves: true });
    const letter = await sendLetter(ws, (await write('tove')).id, carriers);
    const token = (await ws.db.selectFrom('letter_recipients').select('token').where('letter_id', '=', letter.id).executeTakeFirstOrThrow()).token;
    await nodemailer.createTransport({ host: '127.0.0.1', port: doorPort, ignoreTLS: true }).sendMail({ from: 'somebody@else.example', to: `answers+${token}@ottik.example`, subject: 'Re: it', text: '1 done' });
    expect(await newest()).toMatchObject({ verified: false, note: expect.stringContaining('another address'), answers: [{ kind: 'done', sure: false, verdict: 'open' }] });
    expect((await commitment(letter.items[0]!.ref)).state).toBe('open');
  });
  it('to a letter of long ago leave a doubt', async () => {
    const letter = await sendLetter(ws, (await write('tove')).id, carriers, () => new Date(`${TODAY}T09:00:00Z`));
    const row = await ws.db.selectFrom('letter_recipients').selectAll().where('letter_id', '=', letter.id).executeTakeFirstOrThrow();
    await receiveMail(ws.db, Buffer.from(`From: <${row.mail}>\r\nTo: answers+${row.token}@ottik.example\r\nSubject: Re\r\nMessage-ID: <late@x.example>\r\n\r\n1 done\r\n`), [], '2026-06-01');
    expect(await newest()).toMatchObject({ note: expect.stringContaining('answers a letter of'), answers: [{ sure: false }] });
  });
  it('are known by the letter they refer to when the address is cut, and kept once when they come twice', async () => {
    const letter = await sendLetter(ws, (await write('tove')).id, carriers);
    const id = (await ws.db.selectFrom('letter_recipients').select('message_id').where('letter_id', '=', letter.id).executeTakeFirstOrThrow()).message_id;
    const raw = Buffer.from(`From: Tove <tove.lindqvist@tarncells.example>\r\nTo: ines.falk@marrowsound.example\r\nSubject: AW\r\nMessage-ID: <once@tarncells.example>\r\nReferences: <other@x.example> ${id}\r\n\r\n1 erledigt\r\n`);
    expect(await receiveMail(ws.db, raw, [], TODAY)).toMatchObject({ what: 'kept', nature: 'answer' });
    expect(await receiveMail(ws.db, raw, [], TODAY)).toEqual({ what: 'had it' });
    expect((await newest()).letter).toBe(letter.id);
  });
  it('in HTML alone, in an old character set, with a large picture: are read', async () => {
    const letter = await sendLetter(ws, (await write('tove')).id, carriers);
    const token = (await ws.db.selectFrom('letter_recipients').select('token').where('letter_id', '=', letter.id).executeTakeFirstOrThrow()).token;
    const to = `answers+${token}@ottik.example`;
    const transport = nodemailer.createTransport({ streamTransport: true, buffer: true });
    const html = (await transport.sendMail({ from: 'tove.lindqvist@tarncells.example', to, subject: 'Re', messageId: '<html@x>', html: '<div>1 erledigt</div><blockquote>1. C-17 Price</blockquote>', attachments: [{ filename: 'logo.png', content: Buffer.alloc(10_000_000, 7) }] })).message as Buffer;
    await receiveMail(ws.db, html, [to], TODAY);
    expect((await newest()).answers).toMatchObject([{ kind: 'done' }]);
    const latin = Buffer.concat([Buffer.from(`From: tove.lindqvist@tarncells.example\r\nTo: ${to}\r\nSubject: =?iso-8859-1?Q?Stand_f=FCr_Ines?=\r\nMessage-ID: <latin@x>\r\nContent-Type: text/plain; charset=iso-8859-1\r\n\r\n1 noch nicht fertig, n`), Buffer.from([0xe4]), Buffer.from('chste Woche\r\n')]);
    await receiveMail(ws.db, latin, [to], TODAY);
    expect(await newest()).toMatchObject({ subject: 'Stand für Ines', words: '1 noch nicht fertig, nächste Woche' });
  });
  it('that are absence notices are no answers; reports of failure are told of on the person', async () => {
    await sendLetter(ws, (await write('ruth')).id, carriers);
    const [got] = await inbox('ruth@adairlund.example');
    await replies.away(got!.stored, 'Monday');
    expect(await newest()).toMatchObject({ nature: 'away', answers: [] });
    await replies.bounce(got!.stored, '5.2.2', 'mailbox full');
    expect(await newest()).toMatchObject({ nature: 'bounce', note: expect.stringContaining('the mailbox is full') });
    expect(await ws.db.selectFrom('people').select('bounced').where('id', '=', 'ruth').executeTakeFirst()).toMatchObject({ bounced: expect.stringContaining('full') });
    expect((await letterById(ws, (await newest()).letter!)).recipients[0]!.state).toBe('bounced');
  });
  it('that belong to no letter are kept; mail for others is turned away', async () => {
    const transport = nodemailer.createTransport({ host: '127.0.0.1', port: doorPort, ignoreTLS: true });
    await transport.sendMail({ from: 'ruth@adairlund.example', to: 'answers@ottik.example', subject: 'By the way', text: 'The survey is on Tuesday.' });
    expect(await newest()).toMatchObject({ nature: 'unmatched', person: 'ruth', words: 'The survey is on Tuesday.' });
    await expect(transport.sendMail({ from: 'a@b.example', to: 'victim@elsewhere.example', text: 'x' })).rejects.toThrow(/550/);
  });
  it('may be laid into a folder as eml files', async () => {
    const folder = temporary('ottik-answers-');
    const row = await ws.db.selectFrom('letter_recipients').selectAll().where('person_id', '=', 'tove').where('sent_at', 'is not', null).orderBy('id').executeTakeFirstOrThrow();
    writeFileSync(join(folder, 'a.eml'), `From: <${row.mail}>\r\nTo: answers+${row.token}@ottik.example\r\nSubject: Re\r\nMessage-ID: <folder@x>\r\n\r\n1 fertig\r\n`);
    writeFileSync(join(folder, 'b.eml'), '');
    expect(await readFolder(ws.db, folder)).toBe(1);
    expect(await readFolder(ws.db, folder)).toBe(0);
    expect((await newest()).answers).toMatchObject([{ kind: 'done' }]);
  });
});

describe('a reader’s own page', () => {
  const pageOf = async (to: string) => {
    const letter = await sendLetter(ws, (await write(to)).id, carriers);
    const row = await ws.db.selectFrom('letter_recipients').select('id').where('letter_id', '=', letter.id).executeTakeFirstOrThrow();
    return { letter, link: (await answerPath(ws.db, row.id, TODAY)).slice('/answer/'.length) };
  };
  it('shows what is with them and nothing else', async () => {
    const { letter, link } = await pageOf('dele');
    const page = await answerPage(ws.db, link, TODAY);
    const own = (await ledgerRows(ws, { project: P })).filter((r) => r.owner.some((o) => o.id === 'dele'));
    expect(page.items.map((i) => i.ref).sort()).toEqual(own.map((r) => r.ref).sort());
    expect(page.items.filter((i) => i.asked).map((i) => i.ref)).toEqual(letter.items.map((i) => i.ref));
  });
  it('has another address once its reader’s links are made anew, and letters not gone yet lead there', async () => {
    const draft = await write('dele');
    const before = /\/answer\/\S+/.exec(draft.body)![0];
    expect((await answerPage(ws.db, before.slice('/answer/'.length), TODAY)).reader.id).toBe('dele');
    const calendar = (await calendarPath(await workspaceOf(ws.db, 'ines', TODAY))).slice('/calendar/'.length, -'.ics'.length);
    const member = ws.with({ needs: 'read', asker: { ...ws.asker, person: 'sam', roles: new Map([[P, 'member' as const]]) } });
    await expect(renewLinks(member, P, 'dele')).rejects.toThrow('Only a manager');
    expect(await renewLinks(ws, P, 'dele')).toEqual({ letters: 1 });
    const { body } = await ws.db.selectFrom('letters').select('body').where('id', '=', draft.id).executeTakeFirstOrThrow();
    expect(body).not.toContain(before);
    await expect(answerPage(ws.db, before.slice('/answer/'.length), TODAY)).rejects.toThrow('not open');
    expect((await answerPage(ws.db, /\/answer\/(\S+)/.exec(body)![1]!, TODAY)).reader.id).toBe('dele');
    // others keep theirs
    expect(await calendarOwner(ws.db, calendar)).toBe('ines');
    await renewLinks(ws, P, 'ines');
    expect(await calendarOwner(ws.db, calendar)).toBeNull();
    expect(await calendarOwner(ws.db, (await calendarPath(await workspaceOf(ws.db, 'ines', TODAY))).slice('/calendar/'.length, -'.ics'.length))).toBe('ines');
  });
  it('takes done, a typed date with a reason, a hand-over, a word; each can be changed until it is taken', async () => {
    const { link } = await pageOf('dele');
    const [a, b] = (await answerPage(ws.db, link, TODAY)).items;
    await tell(ws.db, link, { do: 'done', commitment: a!.commitment }, TODAY);
    await tell(ws.db, link, { do: 'move', commitment: a!.commitment, date: 'next friday', reason: 'The Board met late.' }, TODAY);
    await tell(ws.db, link, { do: 'hand over', commitment: b!.commitment, to: 'Jonas', reason: '' }, TODAY);
    const told = (await answerPage(ws.db, link, TODAY)).items.map((i) => i.told);
    expect(told.slice(0, 2)).toMatchObject([
      { kind: 'moved', due: '2026-03-13', words: 'The Board met late.' },
      { kind: 'reassigned', owner: ['jonas'] },
    ]);
    const open = (await repliesOf(ws, P)).flatMap((r) => r.answers.filter((x) => x.verdict === 'open' && r.person === 'dele'));
    expect(open.map((x) => x.kind)).toEqual(['reassigned', 'moved']);
    await takeAnswer(ws, open[1]!.id, {});
    expect((await commitment(a!.ref)).due).toBe('2026-03-13');
    await tell(ws.db, link, { do: 'take back', commitment: b!.commitment }, TODAY);
    expect((await answerPage(ws.db, link, TODAY)).items.find((i) => i.ref === b!.ref)!.told).toBeNull();
    await tell(ws.db, link, { do: 'say', commitment: b!.commitment, words: 'Which plinth?' }, TODAY);
    expect((await newest()).answers).toMatchObject([{ kind: 'question', words: 'Which plinth?' }]);
  });
  it('refuses what is no day, what has passed, and what is not theirs', async () => {
    const { link } = await pageOf('dele');
    const [a] = (await answerPage(ws.db, link, TODAY)).items;
    await expect(tell(ws.db, link, { do: 'move', commitment: a!.commitment, date: 'whenever', reason: '' }, TODAY)).rejects.toThrow('is not a day');
    await expect(tell(ws.db, link, { do: 'move', commitment: a!.commitment, date: '2026-03-01', reason: '' }, TODAY)).rejects.toThrow('has passed');
    const other = (await ledgerRows(ws, { project: P })).find((r) => r.owner.every((o) => o.id !== 'dele'))!;
    await expect(tell(ws.db, link, { do: 'done', commitment: other.id }, TODAY)).rejects.toThrow('not with you');
  });
  it('does not open with a link that was changed, made up, or has run out', async () => {
    const { link } = await pageOf('dele');
    const [id, until, signature] = link.split('.') as [string, string, string];
    for (const bad of [`${Number(id) + 1}.${until}.${signature}`, `${id}.2099-01-01.${signature}`, `${id}.${until}.${'A'.repeat(32)}`, `${id}.${until}`, '', "1' OR 1=1"]) await expect(answerPage(ws.db, bad, TODAY)).rejects.toThrow('This page is not open.');
    await expect(answerPage(ws.db, link, '2026-12-01')).rejects.toThrow('This page is not open.');
  });
  it('ends digests with one click and nothing else, and all letters when its reader says so', async () => {
    const { link } = await pageOf('dele');
    const rules = await rulesOf(ws.db, P);
    await keepRules(ws, P, { ...rules, digest: { ...rules.digest, on: true } });
    const kinds = async () => (await planOf(ws.db, P, TODAY)).letters.filter((l) => l.to === 'dele').flatMap((l) => l.parts.map((p) => p.kind));
    expect(await kinds()).toContain('digest');
    await stopDigests(ws.db, link, TODAY);
    expect(await kinds()).not.toContain('digest');
    expect((await kinds()).length).toBeGreaterThan(0);
    await wishLetters(ws.db, link, 'digest', TODAY);
    expect(await kinds()).toContain('digest');
    expect((await kinds()).every((k) => k === 'digest' || k === 'invitation')).toBe(true);
    // to somebody who wants digests alone, no digests is no letters
    await stopDigests(ws.db, link, TODAY);
    expect(await kinds()).toEqual([]);
    // said of one project, and of no other
    expect((await lettersWanted(ws.db, P))('dele')).toBe('none');
    expect((await lettersWanted(ws.db, 'tide-tables'))('dele')).toBe('all');
    await wishLetters(ws.db, link, 'all', TODAY);
    await keepRules(ws, P, rules);
  });
  it('is offered by digests in their headers (RFC 8058)', async () => {
    await keepRules(ws, P, { ...DEFAULT_RULES, digest: { on: true, byItself: false, weekday: 4, hour: '08:30' } });
    await sendLetter(ws, (await write('dele')).id, carriers);
    const [got] = await inbox('dele@keldagrid.example');
    const unfolded = got!.stored.source.replace(/\r\n /g, ' ');
    expect(unfolded).toMatch(/^List-Unsubscribe: +<http:\/\/localhost:\d+\/answer\/[\w.-]+\/stop>/m);
    expect(got!.stored.source).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click/m);
  });
});

describe('wording', () => {
  const own = { kind: 'overdue' as const, language: 'en' as const, series: '', subject: 'Late: {{ count }}', body: 'Ahoy {{ recipient.first }}, {{ lines }}', short: '{{ list }}' };
  it('of a series goes before that of the project, and that before Ottik’s', async () => {
    expect((await templateOf(ws.db, P, 'works', 'overdue', 'en')).from).toBe('Ottik');
    await keepTemplate(ws, P, own);
    await keepTemplate(ws, P, { ...own, series: 'works', subject: 'Works: {{ count }}' });
    expect([(await templateOf(ws.db, P, 'works', 'overdue', 'en')).subject, (await templateOf(ws.db, P, 'steering', 'overdue', 'en')).subject, (await templateOf(ws.db, P, 'works', 'overdue', 'de')).from]).toEqual(['Works: {{ count }}', 'Late: {{ count }}', 'Ottik']);
    expect((await write('tove')).kind).toBe('overdue');
    await dropTemplate(ws, P, { series: 'works', kind: 'overdue', language: 'en' });
    expect((await templateOf(ws.db, P, 'works', 'overdue', 'en')).from).toBe('project');
  });
  it('with an unknown variable, a mistake, or without an end is refused with what and where', async () => {
    await expect(keepTemplate(ws, P, { ...own, body: 'Dear {{ recipient.frist }}' })).rejects.toThrow('Letter: there is no {{ recipient.frist }}');
    await expect(keepTemplate(ws, P, { ...own, subject: '{% if %}' })).rejects.toThrow(/Subject: .*line 1/);
    expect(() => fillTemplate('{% for i in (1..100000000) %}x{% endfor %}', {})).toThrow(/cannot be filled/);
    const endless = '{% for a in (1..9999) %}{% for b in (1..9999) %}x{% endfor %}{% endfor %}';
    expect((await previewTemplate(ws, P, { ...own, tone: 'plain', length: 'usual', body: endless })).wrong.join()).toMatch(/limit|long|end/);
  });
  it('is shown on what is open now', async () => {
    const seen = await previewTemplate(ws, P, { ...own, tone: 'plain', length: 'usual' });
    expect(seen.text).toMatch(/^Ahoy \w+, 1\. C-\d+/);
    expect((await previewTemplate(ws, P, { ...own, kind: 'invitation', body: '{{ meeting.title }}', short: '', tone: 'plain', length: 'usual', subject: '{{ meeting.day }}' })).text).toContain('Weekly works call');
  });
  it('can be tried on oneself; the page in a test does not open', async () => {
    const letter = await write('dele');
    await sendTest(ws, letter.id, carriers.mail);
    const [got] = await inbox('ines.falk@marrowsound.example');
    expect(got!.mail.subject).toBe(`Test: ${letter.subject}`);
    expect(got!.mail.text).toContain('/answer/only-in-the-real-letter');
    expect((await letterById(ws, letter.id)).state).toBe('draft');
  });
});

describe('a header', () => {
  it('cannot be begun by words of a commitment', async () => {
    const seen: Message[] = [];
    const letter = await write('dele');
    await ws.db.updateTable('letters').set({ subject: 'Late\r\nBcc: victim@x.example', from_name: 'Ines\r\nX-Evil: 1' }).where('id', '=', letter.id).execute();
    await sendLetter(ws, letter.id, {
      ...carriers,
      mail: {
        send: async (m) => {
          seen.push(m);
          return carriers.mail.send(m);
        },
      },
    });
    const [got] = await inbox('dele@keldagrid.example');
    expect(got!.mail.headers.has('bcc')).toBe(false);
    expect(got!.mail.headers.has('x-evil')).toBe(false);
    expect(seen.length).toBe(1);
  });
});

describe('a server that says nothing at all', () => {
  it('is given up after a while, and the letter stays', async () => {
    const silent: Server = createServer(() => undefined);
    const port = await new Promise<number>((done) => silent.listen(0, '127.0.0.1', () => done((silent.address() as { port: number }).port)));
    const letter = await sendLetter(ws, (await write('tove')).id, { ...carriers, mail: smtpMailer({ host: '127.0.0.1', port, patience: 300 }) });
    expect(letter.recipients[0]).toMatchObject({ state: 'queued', error: expect.stringMatching(/does not answer|cannot be reached/) });
    silent.close();
  });
});
