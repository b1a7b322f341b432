import { createHash } from 'node:crypto';
import type { Insertable } from 'kysely';
import { daysBetween } from '../../core/dates/calendar.ts';
import { readDatesIn } from '../../core/dates/languages.ts';
import { senderDay } from '../../core/dates/moments.ts';
import { shortDay } from '../../core/language/days.ts';
import { ASKS_TO_CONFIRM, type Language } from '../../core/letters/kinds.ts';
import { statusInWords } from '../../core/letters/replies/delivery-status.ts';
import type { Answer, AskedItem } from '../../core/letters/replies/read-reply.ts';
import { RecordError } from '../../core/record/model.ts';
import { peopleOf } from '../people/people.ts';
import { type Workspace, workspaceOf } from '../people/workspace.ts';
import { nextSitting } from '../records/bringing-in.ts';
import { tokenOf } from '../store/addresses.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import type { Database } from '../store/schema.ts';
import { inTransaction } from '../store/transactions.ts';
import { type MailInside, machineOf } from '../work/mail-inside.ts';
import { work } from '../work/pool.ts';
import type { Tasks } from '../work/tasks.ts';
import { LINK_DAYS } from './links.ts';
import { managerOf } from './plan.ts';
import { takeAnswer } from './replies.ts';
import { rulesOf } from './rules.ts';

/** A mail with a large signature image is still a mail; beyond this it is refused. */
export const MAIL_LIMIT = 25 * 1024 * 1024;

/** What became of a mail that came in. */
export type Received = { what: 'kept'; reply: number; nature: string } | { what: 'had it' } | { what: 'empty' };

/** What SMTP says of a mail beside its headers (RFC 5321, 2.3.1). */
export interface Envelope {
  to: readonly string[];
  /** empty for mail that must not be answered */
  from: string;
}

interface Addressed {
  recipient: number;
  letter: number;
  project: string;
  person: string | null;
  personName: string;
  mail: string;
  language: Language;
  sentAt: string | null;
}

/**
 * Takes in a mail: an answer, an absence notice, a report that a letter could not be delivered, or something that
 * belongs to no letter. It is matched by the token in its address, then by the Message-IDs it refers to. A mail that
 * came twice is kept once.
 *
 * @param envelope addresses it was delivered to and who sent it, where known
 * @param today     the day on which it came in; an answer counts from the day its writer sent it on
 */
export async function receiveMail(db: Db, raw: Buffer, envelope: Envelope | readonly string[], today?: string): Promise<Received> {
  if (raw.length === 0) return { what: 'empty' };
  const digest = createHash('sha256').update(raw).digest('hex');
  const { to: recipients, from: sender } = 'to' in envelope ? envelope : { to: envelope, from: null };
  if (await db.selectFrom('replies').select('id').where('message_key', '=', digest).executeTakeFirst()) return { what: 'had it' };
  let mail: MailInside;
  try {
    mail = await work('mail', { raw: new Uint8Array(raw) });
  } catch (error) {
    return keepUnread(db, raw, digest, sender, error);
  }
  const key = mail.messageId ?? digest;
  if (await db.selectFrom('replies').select('id').where('message_key', '=', key).executeTakeFirst()) return { what: 'had it' };
  const { subject, from, text } = mail;
  const machine = machineOf(mail, sender);
  const to = [...recipients, ...mail.to, mail.headers['delivered-to'] ?? ''];
  const addressed = (await byToken(db, to)) ?? (await byReference(db, mail.answers)) ?? (machine === 'bounce' ? await byReference(db, mail.returned) : null);
  const sentAt = new Date().toISOString();
  const verified = addressed !== null && from.address.toLowerCase() === addressed.mail.toLowerCase();
  const base = {
    project_id: addressed?.project ?? null,
    recipient_id: addressed?.recipient ?? null,
    // whoever answers through somebody else's thread or link is not that person
    person_id: addressed && (verified || machine === 'bounce') ? addressed.person : await personByMail(db, from.address),
    from_address: (from.name ? `${from.name} <${from.address}>` : from.address).slice(0, 300) || 'unknown',
    subject,
    raw,
    message_key: key,
    received_at: sentAt,
    how: 'mail' as const,
    verified: verified ? 1 : 0,
  };
  if (!addressed) {
    const { words } = await read(text, from.name || from.address, null);
    return keep(db, { ...base, project_id: await projectOf(db, from.address), words: (words || text).slice(0, 20_000), nature: machine ?? 'unmatched', note: 'belongs to no letter of ours' });
  }
  if (machine === 'bounce') return keepBounce(db, mail, addressed, base);
  const ws = await workspaceOf(db, await managerOf(db, addressed.project), today);
  const on = writtenOn(mail.date ?? undefined, ws.today);
  if (machine) {
    const { words } = await read(text, addressed.personName, null);
    const back = machine === 'away' ? readDatesIn(addressed.language, text, { date: on, next: null }).at(-1)?.date : undefined;
    return keep(db, { ...base, words, nature: machine, note: machine === 'away' ? `away${back && back > on ? `, a date named is ${shortDay(back)}` : ''}; this is no answer` : 'sent by a program; this is no answer' });
  }
  return keepAnswer(ws, text, addressed, base, on);
}

/** Days a mail may have been on its way, or a clock be ahead, before its own date is not believed. */
const [LONGEST_WAY, CLOCK_AHEAD] = [21, 1];

/** The day a mail was written on where its writer is, or the day it came in where its date is missing or cannot be. */
function writtenOn(date: string | undefined, came: string): string {
  const day = senderDay(date);
  const way = day === null ? null : daysBetween(day, came);
  return way !== null && way <= LONGEST_WAY && way >= -CLOCK_AHEAD ? day! : came;
}

/**
 * What its writer wrote themselves, and what it answers. Words that nobody can read in time are kept as they came, with no
 * answer read from them.
 */
async function read(text: string, writer: string, reply: Parameters<Tasks['answer']>[0]['reply']): Promise<{ words: string; answers: Answer[] }> {
  try {
    const { words, answers } = await work('answer', { text, writer, reply });
    return { words: words.slice(0, 40_000), answers };
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    return { words: text.slice(0, 40_000), answers: [] };
  }
}

/** A mail that cannot be opened is kept as it came, so that it is not lost, shown as such, and never opened again. */
async function keepUnread(db: Db, raw: Buffer, key: string, sender: string | null, error: unknown): Promise<Received> {
  if (!(error instanceof RecordError)) throw error;
  return keep(db, {
    project_id: null,
    recipient_id: null,
    person_id: null,
    from_address: sender || 'unknown',
    subject: 'a mail that could not be opened',
    words: '',
    raw,
    message_key: key,
    received_at: new Date().toISOString(),
    how: 'mail',
    nature: 'unmatched',
    verified: 0,
    note: `${error.message} It is kept as it came.`,
  });
}

type NewReply = Omit<Parameters<typeof keep>[1], 'words' | 'nature' | 'note'>;

async function keep(db: Db, reply: Insertable<Database['replies']>): Promise<Received> {
  const row = await db
    .insertInto('replies')
    .values(reply)
    .onConflict((c) => c.column('message_key').doNothing())
    .returning('id')
    .executeTakeFirst();
  return row ? { what: 'kept', reply: row.id, nature: reply.nature } : { what: 'had it' };
}

async function keepAnswer(ws: Workspace, text: string, addressed: Addressed, base: NewReply, on: string): Promise<Received> {
  const items = await itemsAsked(ws.db, addressed.letter);
  const people = await peopleOf(ws, addressed.project);
  const meeting = await ws.db.selectFrom('letters as l').innerJoin('meetings as m', 'm.id', 'l.meeting_id').select('m.series_id').where('l.id', '=', addressed.letter).executeTakeFirst();
  const next = await nextSitting(ws.db, meeting?.series_id ?? null, on);
  const { words, answers } = await read(text, addressed.personName, { writer: { id: addressed.person ?? '', name: addressed.personName }, on, next, language: addressed.language, items: items.items, asks: items.asks, people });
  const old = addressed.sentAt !== null && daysBetween(addressed.sentAt.slice(0, 10), on) > LINK_DAYS;
  const doubts = [base.verified ? null : 'came from another address than the letter went to', old ? `answers a letter of ${shortDay(addressed.sentAt!.slice(0, 10), on)}` : null].filter(Boolean).join('; ') || null;
  const kept = await ws.transaction(async (ws) => {
    const reply = await keep(ws.db, { ...base, words, nature: 'answer', note: doubts });
    if (reply.what === 'kept')
      for (const a of answers)
        await ws.db
          .insertInto('answers')
          .values({ reply_id: reply.reply, commitment_id: a.commitment, data: CODECS.answer.write(doubts ? { ...a, sure: false } : a) })
          .execute();
    return reply;
  });
  if (kept.what === 'kept') await takeTheSure(ws, kept.reply, addressed.project, on);
  return kept;
}

/** Takes what leaves no doubt, where the project's rules allow it; one doubt in an answer leaves all of it to a person. */
export async function takeTheSure(ws: Workspace, reply: number, project: string, on: string): Promise<void> {
  if (!(await rulesOf(ws.db, project)).answersByThemselves) return;
  const rows = await ws.db.selectFrom('answers').select(['id', 'data']).where('reply_id', '=', reply).where('verdict', '=', 'open').orderBy('id').execute();
  if (rows.some((r) => !CODECS.answer.read(r.data).sure)) return;
  // what meanwhile cannot be done any more waits for a look
  for (const r of rows) await takeAnswer(ws.with({ today: on }), r.id, {}, true).catch(() => undefined);
}

async function itemsAsked(db: Db, letter: number): Promise<{ items: AskedItem[]; asks: boolean }> {
  const rows = await db.selectFrom('letter_items as i').innerJoin('commitments as c', 'c.id', 'i.commitment_id').select(['i.n', 'i.kind', 'c.id', 'c.number', 'c.text', 'c.due']).where('i.letter_id', '=', letter).where('i.n', 'is not', null).orderBy('i.n').execute();
  if (rows.length) return { items: rows.map((r) => ({ n: r.n!, commitment: r.id, ref: `C-${r.number}`, text: r.text, due: r.due })), asks: rows.every((r) => ASKS_TO_CONFIRM.has(r.kind)) };
  // an answer to a round-up may speak of anything made in its meeting, by reference
  const made = await db.selectFrom('letters as l').innerJoin('commitments as c', 'c.meeting_id', 'l.meeting_id').select(['c.id', 'c.number', 'c.text', 'c.due']).where('l.id', '=', letter).where('c.state', '!=', 'withdrawn').orderBy('c.number').execute();
  return { items: made.map((r) => ({ n: 1000 + r.number, commitment: r.id, ref: `C-${r.number}`, text: r.text, due: r.due })), asks: false };
}

async function keepBounce(db: Db, mail: MailInside, addressed: Addressed, base: NewReply): Promise<Received> {
  const { status, plain } = mail;
  const lasting = status ? status.action === 'failed' && !status.status.startsWith('4') : plain.lasting;
  const delayed = !lasting ? '; the mail server still tries' : '';
  const note = status ? `${statusInWords(status.status)}${status.said ? ` (${status.said})` : ''}` : `${plain.status ? statusInWords(plain.status) : lasting ? 'it could not be delivered' : 'it is delayed'}${delayed}`;
  return inTransaction(db, async (tx) => {
    if (lasting) {
      await tx.updateTable('letter_recipients').set({ state: 'bounced', error: note }).where('id', '=', addressed.recipient).execute();
      if (addressed.person) await tx.updateTable('people').set({ bounced: note }).where('id', '=', addressed.person).execute();
    }
    return keep(tx, { ...base, words: '', nature: 'bounce', note, verified: 1 });
  });
}

async function addressedBy(db: Db, where: { token?: string; messageId?: string }): Promise<Addressed | null> {
  let query = db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').leftJoin('people as p', 'p.id', 'r.person_id').select(['r.id', 'r.letter_id', 'r.mail', 'r.sent_at', 'l.project_id', 'p.id as person', 'p.name', 'p.language']);
  if (where.token) query = query.where('r.token', '=', where.token);
  if (where.messageId) query = query.where('r.message_id', '=', where.messageId);
  const r = await query.executeTakeFirst();
  return r ? { recipient: r.id, letter: r.letter_id, project: r.project_id, person: r.person, personName: r.name ?? r.mail, mail: r.mail, language: (r.language ?? 'en') as Language, sentAt: r.sent_at } : null;
}

async function byToken(db: Db, addresses: readonly string[]): Promise<Addressed | null> {
  for (const a of addresses) {
    const token = tokenOf(a);
    const found = token ? await addressedBy(db, { token }) : null;
    if (found) return found;
  }
  return null;
}

async function byReference(db: Db, ids: readonly string[]): Promise<Addressed | null> {
  for (const messageId of ids.filter(Boolean).slice(0, 50)) {
    const found = await addressedBy(db, { messageId });
    if (found) return found;
  }
  return null;
}

/** The project of mail that answers no letter: the one whose letters its writer gets, or the only one they belong to; else none. */
async function projectOf(db: Db, address: string): Promise<string | null> {
  const person = await personByMail(db, address);
  if (!person) return null;
  const last = await db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select('l.project_id').where('r.person_id', '=', person).where('r.sent_at', 'is not', null).orderBy('r.sent_at', 'desc').limit(1).executeTakeFirst();
  if (last) return last.project_id;
  const all = await db.selectFrom('memberships').select('project_id').where('person_id', '=', person).execute();
  return all.length === 1 ? all[0]!.project_id : null;
}

async function personByMail(db: Db, address: string): Promise<string | null> {
  if (!address) return null;
  const row = await db.selectFrom('people').select('id').where('mail', '=', address.toLowerCase()).executeTakeFirst();
  return row?.id ?? null;
}
