import { randomBytes } from 'node:crypto';
import { clockAt } from '../../core/dates/moments.ts';
import { invitationCalendar } from '../../core/letters/invitation.ts';
import { ASKS_TO_CONFIRM } from '../../core/letters/kinds.ts';
import { nextTry } from '../../core/letters/retry.ts';
import { recordEvent } from '../ledger/commitments.ts';
import { invitedTo, meetingRow } from '../meetings/meetings.ts';
import { type Workspace, workspaceOf } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { answerAddress, ourDomain, publicAddress } from '../store/addresses.ts';
import { type Db, databaseTrouble } from '../store/database.ts';
import type { ChatPoster } from './chat.ts';
import { type Letter, letterAs, letterById } from './letters.ts';
import { answerPath } from './links.ts';
import { answersBox } from './mail-settings.ts';
import { MailError, type Mailer, type Message } from './mailer.ts';

/** What letters go out with. */
export interface Carriers {
  mail: Mailer;
  chat: ChatPoster;
}

/** No message waits longer for its next try; one that seems to was queued before the clock was set back. */
const LONGEST_WAIT = 3 * 3_600_000;

/** How many messages go out in a minute at most, so that a mail server does not take us for something else. */
const PER_MINUTE = Number(process.env.OTTIK_MAIL_PER_MINUTE ?? 120);

/**
 * Puts a letter into the queue: each recipient who does not have it gets a Message-ID that stays the same at every
 * try, so that a message which went out right before a crash can be told from a second one by whoever receives it.
 */
export async function queueLetter(ws: Workspace, id: number, now: Date): Promise<void> {
  const letter = await letterById(ws, id);
  if (letter.state === 'sent') throw new Refusal('conflict', 'This letter was sent already.');
  if (letter.state === 'withdrawn') throw new Refusal('conflict', 'This letter was dropped.');
  if (letter.stale.length) throw new Refusal('conflict', `${letter.stale.join(', ')} since this letter was written.`, 'Compose it anew, or drop it.');
  const waiting = letter.recipients.filter((r) => r.state === 'waiting' || r.state === 'refused');
  if (waiting.length === 0 && !letter.recipients.some((r) => r.state === 'queued')) throw new Refusal('bad-input', 'Nobody is to get this letter.', 'Choose at least one recipient.');
  for (const r of waiting) letterAs(letter, r);
  await ws.transaction(async (ws) => {
    const rows = await ws.db.selectFrom('letter_recipients').select(['id', 'message_id']).where('letter_id', '=', id).where('state', 'in', ['waiting', 'refused']).execute();
    for (const r of rows)
      await ws.db
        .updateTable('letter_recipients')
        .set({ state: 'queued', error: null, tries: 0, next_try: now.toISOString(), message_id: r.message_id ?? `<${id}.${r.id}.${randomBytes(9).toString('hex')}@${ourDomain()}>` })
        .where('id', '=', r.id)
        .execute();
    await ws.db.updateTable('letters').set({ state: 'queued' }).where('id', '=', id).execute();
  });
}

/** What was being sent when Ottik stopped goes back into the queue, with the Message-ID it had. */
export async function resumeQueue(db: Db): Promise<number> {
  const out = await db.updateTable('letter_recipients').set({ state: 'queued' }).where('state', '=', 'sending').executeTakeFirst();
  return Number(out.numUpdatedRows);
}

/** When the next message in the queue is due, or null when there is none. */
export async function nextDue(db: Db): Promise<string | null> {
  const row = await db
    .selectFrom('letter_recipients')
    .select(({ fn }) => fn.min('next_try').as('at'))
    .where('state', '=', 'queued')
    .executeTakeFirst();
  return row?.at ?? null;
}

/**
 * Sends what is due, one message after another. Each message is claimed before it is sent and its outcome kept right
 * after, with the trail of what it is about; a temporary failure is tried again later, a lasting one is told.
 *
 * @param only a letter's id, to send that one now
 * @returns how many went out
 */
export async function deliverDue(db: Db, carriers: Carriers, now: () => Date, only?: number): Promise<number> {
  await writeDown(db);
  let sent = 0;
  for (;;) {
    const recent = await db
      .selectFrom('letter_recipients')
      .select(({ fn }) => fn.countAll<number>().as('n'))
      .where('sent_at', '>', new Date(now().getTime() - 60_000).toISOString())
      // a clock that was set back makes what was sent lie ahead
      .where('sent_at', '<=', now().toISOString())
      .executeTakeFirstOrThrow();
    if (recent.n >= PER_MINUTE) return sent;
    let due = db
      .selectFrom('letter_recipients')
      .select(['id', 'letter_id'])
      .where('state', '=', 'queued')
      .where((eb) => eb.or([eb('next_try', '<=', now().toISOString()), eb('next_try', '>', new Date(now().getTime() + LONGEST_WAIT).toISOString())]));
    if (only !== undefined) due = due.where('letter_id', '=', only);
    const next = await due.orderBy('next_try').orderBy('id').limit(1).executeTakeFirst();
    if (!next) return sent;
    const claimed = await db.updateTable('letter_recipients').set({ state: 'sending' }).where('id', '=', next.id).where('state', '=', 'queued').executeTakeFirst();
    if (Number(claimed.numUpdatedRows) === 0) continue;
    const failure = await deliver(db, carriers, next.id, now);
    if (failure?.everyone) return sent;
    if (!failure) sent++;
  }
}

async function deliver(db: Db, carriers: Carriers, recipient: number, now: () => Date): Promise<MailError | null> {
  const r = await db.selectFrom('letter_recipients').selectAll().where('id', '=', recipient).executeTakeFirstOrThrow();
  const by = await db.selectFrom('letters').select('by_person').where('id', '=', r.letter_id).executeTakeFirstOrThrow();
  const ws = await workspaceOf(db, by.by_person);
  const letter = await letterById(ws, r.letter_id);
  let failure: MailError | null = null;
  try {
    if (r.via === 'chat') await carriers.chat.post(r.mail, letter.short || `${letter.subject}\n${letter.body}`.slice(0, 2000), r.message_id!);
    else await carriers.mail.send(await messageFor(ws, letter, { id: r.id, person: r.person_id ?? r.mail, mail: r.mail, token: r.token, messageId: r.message_id! }, now()));
  } catch (error) {
    failure = error instanceof MailError ? error : new MailError(error instanceof Refusal ? error.message : 'The letter could not be made ready for sending.', false, false);
  }
  const outcome = { failure, at: now() };
  try {
    await keepOutcome(ws, recipient, outcome);
  } catch (error) {
    const trouble = databaseTrouble(error);
    if (!trouble) throw error;
    unwritten.set(recipient, outcome);
    throw new Refusal('unreachable', failure ? trouble.message : `The letter has gone, and that could not be written down: ${trouble.message}`, `${trouble.advice} It is written down as soon as that is possible; until then it is not sent again.`);
  }
  return failure;
}

/** What became of a message that was sent. */
interface Sent {
  failure: MailError | null;
  at: Date;
}

/** What became of messages and could not be written down yet, by recipient. While it stands here they count as under way. */
const unwritten = new Map<number, Sent>();

async function writeDown(db: Db): Promise<void> {
  for (const [recipient, outcome] of unwritten) {
    const row = await db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select('l.by_person').where('r.id', '=', recipient).executeTakeFirst();
    if (row) await keepOutcome(await workspaceOf(db, row.by_person), recipient, outcome);
    unwritten.delete(recipient);
  }
}

/** Keeps what became of a message, and where it went the line on the trails of what it is about. */
async function keepOutcome(ws: Workspace, recipient: number, { failure, at }: Sent): Promise<void> {
  const r = await ws.db.selectFrom('letter_recipients').selectAll().where('id', '=', recipient).executeTakeFirstOrThrow();
  const by = await ws.db.selectFrom('letters').select('planned_on').where('id', '=', r.letter_id).executeTakeFirstOrThrow();
  const letter = await letterById(ws, r.letter_id);
  const now = () => at;
  await ws.transaction(async (ws) => {
    if (failure) {
      const again = failure.temporary ? nextTry(r.tries + 1, now()) : null;
      await ws.db
        .updateTable('letter_recipients')
        .set({ state: again ? 'queued' : 'refused', error: failure.message, tries: r.tries + 1, next_try: again?.toISOString() ?? null })
        .where('id', '=', r.id)
        .execute();
    } else {
      await ws.db.updateTable('letter_recipients').set({ state: 'sent', error: null, sent_at: now().toISOString(), next_try: null }).where('id', '=', r.id).execute();
      if (r.via === 'mail') await noteOnTrails(ws, letter, by.planned_on ?? clockAt(at, ws.asker.zone).day);
    }
    await settleState(ws.db, letter.id, now());
  });
}

/** That a letter went out stands on the trail of all it is about. It has gone: where a trail cannot be written any more it still counts as sent. */
async function noteOnTrails(ws: Workspace, letter: Letter, on: string): Promise<void> {
  for (const i of letter.items) {
    await recordEvent(ws, i.commitment, { kind: 'written', on, meeting: null, data: { letter: letter.id, ...(ASKS_TO_CONFIRM.has(i.kind) ? { asks: true } : {}), ...(letter.kind === 'answer' ? { reason: letter.body.trim().slice(0, 2000) } : {}) }, evidence: [] }).catch((error: unknown) => {
      if (!(error instanceof Refusal)) throw error;
    });
  }
}

/** A letter's state from those of its recipients. */
async function settleState(tx: Db, letter: number, now: Date): Promise<void> {
  const states = (await tx.selectFrom('letter_recipients').select('state').where('letter_id', '=', letter).execute()).map((r) => r.state);
  const gone = states.filter((s) => s === 'sent' || s === 'bounced').length;
  const under = states.some((s) => s === 'queued' || s === 'sending');
  const state = under ? 'queued' : gone === states.length ? 'sent' : gone > 0 ? 'part sent' : 'draft';
  await tx
    .updateTable('letters')
    .set({ state, ...(gone > 0 ? { sent_at: now.toISOString() } : {}) })
    .where('id', '=', letter)
    .execute();
}

/** The message one recipient gets. */
async function messageFor(ws: Workspace, letter: Letter, to: { id: number; person: string; mail: string; token: string; messageId: string }, now: Date): Promise<Message> {
  const reader = letter.recipients.find((r) => r.id === to.person)!;
  const view = letterAs(letter, reader);
  const file = letter.minutes === null || letter.meeting === null ? null : await minutesOfLetter(ws, letter.meeting, letter.minutes);
  const box = await answersBox(ws.db);
  const headers: Record<string, string> = {};
  // RFC 3834: what no person looked at says so, and programs do not answer it
  if (letter.byItself) headers['Auto-Submitted'] = 'auto-generated';
  if (letter.kind === 'digest') {
    // RFC 8058: one click, no login, no page between
    headers['List-Unsubscribe'] = `<${publicAddress()}${await answerPath(ws.db, to.id, clockAt(now, ws.asker.zone).day)}/stop>`;
    headers['List-Unsubscribe-Post'] = 'List-Unsubscribe=One-Click';
  }
  const calendar = await calendarFor(ws, letter, reader, now);
  const references = letter.answers === null ? await earlierLetters(ws.db, letter, to.person) : await threadOf(ws.db, letter.answers);
  return {
    messageId: to.messageId,
    from: { name: letter.fromName, address: letter.fromMail },
    to: { name: reader.name, address: to.mail },
    replyTo: box ? answerAddress(box, to.token) : letter.fromMail,
    subject: view.subject,
    text: view.text,
    html: view.html,
    headers,
    ...(references.length ? { references } : {}),
    ...(file ? { file } : {}),
    ...(calendar ? { calendar } : {}),
  };
}

/** Setting type takes a while to load, and few letters take minutes along. */
async function minutesOfLetter(ws: Workspace, meeting: number, version: number) {
  const { minutesFile } = await import('../meetings/minutes/minutes.ts');
  return minutesFile(ws, meeting, 'pdf', version);
}

/** Message-IDs of what this reader was written before on the same matter, so that mail programs lay it together. */
async function earlierLetters(db: Db, letter: Letter, person: string): Promise<string[]> {
  if (letter.items.length === 0) return [];
  const rows = await db
    .selectFrom('letter_items as i')
    .innerJoin('letter_recipients as r', 'r.letter_id', 'i.letter_id')
    .select(['r.message_id', 'r.sent_at'])
    .distinct()
    .where('i.commitment_id', '=', letter.items[0]!.commitment)
    .where('i.letter_id', '!=', letter.id)
    .where('r.person_id', '=', person)
    .where('r.sent_at', 'is not', null)
    .where('r.message_id', 'is not', null)
    .orderBy('r.sent_at')
    .execute();
  return rows.map((r) => r.message_id!).slice(-10);
}

/** Message-IDs of what an answer answers: the letter first, then the mail that came back (RFC 5322, 3.6.4). */
async function threadOf(db: Db, reply: number): Promise<string[]> {
  const row = await db.selectFrom('replies as r').leftJoin('letter_recipients as lr', 'lr.id', 'r.recipient_id').select(['r.message_key', 'lr.message_id']).where('r.id', '=', reply).executeTakeFirst();
  return [row?.message_id, row?.message_key].filter((id): id is string => /^<[^<>\s]+>$/.test(id ?? ''));
}

async function calendarFor(ws: Workspace, letter: Letter, reader: { name: string; mail: string }, now: Date): Promise<Message['calendar'] | null> {
  const row = await ws.db.selectFrom('letters').select('sitting_id').where('id', '=', letter.id).executeTakeFirstOrThrow();
  if (row.sitting_id === null) return null;
  const sitting = await meetingRow(ws, row.sitting_id);
  const zone = (await ws.db.selectFrom('people').select('zone').where('id', '=', ws.asker.person).executeTakeFirstOrThrow()).zone;
  const there = (await invitedTo(ws.db, sitting.id)).filter((a) => a.mail && a.id !== ws.asker.person);
  const content = invitationCalendar({
    uid: `sitting-${sitting.id}@${ourDomain()}`,
    sequence: 0,
    title: sitting.title,
    date: sitting.date,
    time: sitting.time,
    minutes: sitting.minutes ?? 60,
    zone,
    place: sitting.place,
    organiser: { name: letter.fromName, mail: letter.fromMail },
    attendees: there.some((a) => a.mail === reader.mail) ? there.map((a) => ({ name: a.name, mail: a.mail! })) : [reader],
    stamp: now,
  });
  return { method: 'REQUEST', content };
}

/** How long somebody who lets a letter go is kept to see it gone, in milliseconds. */
const WATCHED = 8000;

/** Lets a letter go: into the queue, and out at once where the mail server answers. */
export async function sendLetter(ws: Workspace, id: number, carriers: Carriers, now: () => Date = () => new Date()): Promise<Letter> {
  await queueLetter(ws, id, now());
  const delivering = deliverDue(ws.db, carriers, now, id);
  // a slow mail server does not keep a person waiting: the letter goes on its way without them
  let waited: NodeJS.Timeout | undefined;
  await Promise.race([
    delivering,
    new Promise((go) => {
      waited = setTimeout(go, WATCHED);
    }),
  ]).finally(() => clearTimeout(waited));
  delivering.catch(() => undefined);
  return letterById(ws, id);
}
