import { z } from 'zod';
import type { CommitmentState } from '../../core/ledger/state.ts';
import { firstNameOf } from '../../core/letters/compose.ts';
import { letterHtml } from '../../core/letters/html.ts';
import { type AnyLetterKind, isLetterKind } from '../../core/letters/kinds.ts';
import { attendeesOf } from '../meetings/meetings.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { newToken } from './links.ts';
import { fillTemplate } from './templates.ts';

export type RecipientState = 'waiting' | 'queued' | 'sending' | 'sent' | 'refused' | 'bounced';

export interface Recipient {
  /** the person, or `chat` for the project's channel */
  id: string;
  name: string;
  mail: string;
  state: RecipientState;
  error: string | null;
  sentAt: string | null;
  /** when it is tried again */
  nextTry: string | null;
}

/** A commitment a letter is about, as it stands now. */
export interface LetterItemRow {
  n: number;
  commitment: number;
  ref: string;
  text: string;
  kind: string;
  due: string | null;
  state: CommitmentState;
}

export interface Letter {
  id: number;
  project: string;
  /** the meeting a round-up is of, with its title and date; the title is empty for other letters */
  meeting: number | null;
  meetingTitle: string;
  meetingDate: string;
  kind: AnyLetterKind;
  /** what came back that it answers */
  answers: number | null;
  subject: string;
  body: string;
  short: string;
  language: string;
  tone: string;
  length: string;
  state: 'draft' | 'queued' | 'sent' | 'part sent' | 'withdrawn';
  createdAt: string;
  plannedOn: string | null;
  byItself: boolean;
  sentAt: string | null;
  fromName: string;
  fromMail: string;
  recipients: Recipient[];
  items: LetterItemRow[];
  /** what has happened to its commitments since it was written, in words; empty when it still holds */
  stale: string[];
  /** version of the minutes that goes with it as a PDF, and the newest one there is */
  minutes: number | null;
  newestMinutes: number | null;
  /** people who were invited and cannot be written to, since no address is known */
  unreachable: string[];
  /** whether the project has a chat channel that can get the short form */
  channel: boolean;
}

export async function letterById(ws: Workspace, id: number): Promise<Letter> {
  const l = await ws.db
    .selectFrom('letters')
    .leftJoin('meetings', 'meetings.id', 'letters.meeting_id')
    .innerJoin('projects', 'projects.id', 'letters.project_id')
    .selectAll('letters')
    .select(['meetings.title as meeting_title', 'meetings.date as meeting_date', 'projects.chat_url'])
    .where('letters.id', '=', id)
    .executeTakeFirst();
  mustSee(ws, l?.project_id, 'letter');
  const row = l!;
  const recipients = await ws.db.selectFrom('letter_recipients as r').leftJoin('people as p', 'p.id', 'r.person_id').select(['p.id', 'p.name', 'r.mail', 'r.via', 'r.state', 'r.error', 'r.sent_at', 'r.next_try']).where('r.letter_id', '=', id).orderBy('p.name').execute();
  const newest =
    row.meeting_id === null
      ? undefined
      : await ws.db
          .selectFrom('minutes_versions')
          .select(({ fn }) => fn.max('version').as('v'))
          .where('meeting_id', '=', row.meeting_id)
          .executeTakeFirst();
  const without = row.meeting_id === null ? [] : (await attendeesOf(ws, row.meeting_id)).filter((a) => !a.mail && a.id !== row.by_person);
  const items = await itemsOf(ws.db, id);
  return {
    id: row.id,
    project: row.project_id,
    meeting: row.meeting_id,
    meetingTitle: row.meeting_title ?? '',
    meetingDate: row.meeting_date ?? row.planned_on ?? row.created_at.slice(0, 10),
    kind: row.kind === 'answer' || isLetterKind(row.kind) ? row.kind : 'round-up',
    answers: row.reply_id,
    subject: row.subject,
    body: row.body,
    short: row.short,
    language: row.language,
    tone: row.tone,
    length: row.length,
    state: row.state,
    createdAt: row.created_at,
    plannedOn: row.planned_on,
    byItself: row.by_itself === 1,
    sentAt: row.sent_at,
    fromName: row.from_name,
    fromMail: row.from_mail,
    minutes: row.minutes_version,
    newestMinutes: newest?.v ?? null,
    recipients: recipients.map((r) => ({ id: r.via === 'chat' ? 'chat' : (r.id ?? r.mail), name: r.via === 'chat' ? 'The channel' : (r.name ?? r.mail), mail: r.via === 'chat' ? 'chat, short' : r.mail, state: r.state, error: r.error, sentAt: r.sent_at, nextTry: r.state === 'queued' ? r.next_try : null })),
    items,
    // what somebody wrote by hand is theirs to judge
    stale: row.state === 'draft' && row.kind !== 'answer' ? [...(await changedSince(ws.db, items, row)), ...(await calledOff(ws.db, id))] : [],
    unreachable: without.map((a) => a.name),
    channel: row.chat_url !== null,
  };
}

async function itemsOf(db: Db, letter: number): Promise<LetterItemRow[]> {
  const rows = await db.selectFrom('letter_items as i').innerJoin('commitments as c', 'c.id', 'i.commitment_id').select(['i.n', 'i.kind', 'c.id', 'c.number', 'c.text', 'c.due', 'c.state']).where('i.letter_id', '=', letter).where('i.n', 'is not', null).orderBy('i.n').execute();
  return rows.map((r) => ({ n: r.n!, commitment: r.id, ref: `C-${r.number}`, text: r.text, kind: r.kind, due: r.due, state: r.state as CommitmentState }));
}

const SINCE: Record<string, string> = { moved: 'was moved', 'handed over': 'was handed over', done: 'was done', dropped: 'was dropped', reopened: 'was reopened', reworded: 'was reworded', blocked: 'waits now', undone: 'was changed back', answered: 'was answered', restated: 'was spoken of' };

async function changedSince(db: Db, items: readonly LetterItemRow[], since: { as_of: number | null; created_at: string }): Promise<string[]> {
  if (items.length === 0) return [];
  const events = await db
    .selectFrom('events')
    .select(['commitment_id', 'kind'])
    .where(
      'commitment_id',
      'in',
      items.map((i) => i.commitment),
    )
    .where((eb) => (since.as_of === null ? eb('at', '>', since.created_at) : eb('id', '>', since.as_of)))
    .where('kind', 'not in', ['written', 'made'])
    .orderBy('id')
    .execute();
  const last = new Map(events.map((e) => [e.commitment_id, e.kind]));
  return items.flatMap((i) => (last.has(i.commitment) ? [`${i.ref} ${SINCE[last.get(i.commitment)!] ?? 'has changed'}`] : []));
}

/** An invitation to a meeting that is not held any more. */
async function calledOff(db: Db, letter: number): Promise<string[]> {
  const sitting = await db.selectFrom('letters as l').innerJoin('meetings as m', 'm.id', 'l.sitting_id').select('m.title').where('l.id', '=', letter).where('m.cancelled_at', 'is not', null).executeTakeFirst();
  return sitting ? [`${sitting.title} was cancelled`] : [];
}

export const LetterEditSchema = z.object({
  subject: z
    .string()
    .trim()
    .min(1, 'needs words')
    .max(300)
    .refine((s) => !/[\r\n]/.test(s), 'is one line'),
  body: z.string().trim().min(1, 'needs words').max(50_000),
  /** version of the minutes that goes with it, or null for none */
  minutes: z.number().int().min(1).nullable().optional(),
  /** ids of people who were invited and get it; `chat` for the project's channel */
  to: z.array(z.string()).max(200).optional(),
});

/** Keeps what was edited in a draft. */
export async function editLetter(ws: Workspace, id: number, edit: z.infer<typeof LetterEditSchema>): Promise<Letter> {
  const letter = await letterById(ws, id);
  if (letter.state === 'sent') throw new Refusal('conflict', 'This letter was sent and does not change any more.');
  if (letter.state === 'withdrawn') throw new Refusal('conflict', 'This letter was dropped.');
  if (letter.recipients.some((r) => r.state === 'queued' || r.state === 'sending')) throw new Refusal('conflict', 'This letter is on its way and cannot be edited.');
  if (edit.minutes && edit.minutes > (letter.newestMinutes ?? 0)) throw new Refusal('not-found', `There is no version ${edit.minutes} of the minutes.`);
  if (letter.kind === 'round-up') letterAs({ kind: letter.kind, subject: edit.subject, body: edit.body }, { name: 'First Last', mail: '' });
  await ws.transaction(async (ws) => {
    await ws.db
      .updateTable('letters')
      .set({ subject: edit.subject, body: `${edit.body}\n`, ...(edit.subject === letter.subject && edit.body === letter.body.trim() ? {} : { edited: 1 }), ...(edit.minutes === undefined ? {} : { minutes_version: edit.minutes }) })
      .where('id', '=', id)
      .execute();
    if (!edit.to) return;
    if (letter.meeting !== null) {
      const there = (await attendeesOf(ws, letter.meeting)).filter((a) => a.mail && edit.to!.includes(a.id));
      await ws.db.deleteFrom('letter_recipients').where('letter_id', '=', id).where('via', '=', 'mail').where('state', 'not in', ['sent', 'bounced']).where(neverAnswered).execute();
      for (const a of there) await addRecipient(ws.db, id, a.id, a.mail!);
    }
    if (edit.to.includes('chat')) await addChannel(ws.db, id, letter.project);
    else await ws.db.deleteFrom('letter_recipients').where('letter_id', '=', id).where('via', '=', 'chat').where('state', '!=', 'sent').execute();
  });
  return letterById(ws, id);
}

/** A recipient somebody answered for is kept: the answer points at it. */
// biome-ignore lint/suspicious/noExplicitAny: Kysely's expression builder is typed by the query it stands in
const neverAnswered = (eb: any) => eb.not(eb.exists(eb.selectFrom('replies').select('replies.id').whereRef('replies.recipient_id', '=', 'letter_recipients.id')));

/** Adds somebody to a letter; who is there already stays as they are. Gives the recipient's id. */
export async function addRecipient(tx: Db, letter: number, person: string, mail: string): Promise<number> {
  const known = await tx.selectFrom('letter_recipients').select('id').where('letter_id', '=', letter).where('person_id', '=', person).executeTakeFirst();
  if (known) return known.id;
  const { id } = await tx.insertInto('letter_recipients').values({ letter_id: letter, person_id: person, mail, state: 'waiting', error: null, message_id: null, sent_at: null, token: newToken() }).returning('id').executeTakeFirstOrThrow();
  return id;
}

async function addChannel(tx: Db, letter: number, project: string): Promise<void> {
  const p = await tx.selectFrom('projects').select('chat_url').where('id', '=', project).executeTakeFirstOrThrow();
  if (!p.chat_url) throw new Refusal('bad-input', 'This project has no chat channel.', 'Give its address among the rules of the letter plan.');
  const known = await tx.selectFrom('letter_recipients').select('id').where('letter_id', '=', letter).where('via', '=', 'chat').executeTakeFirst();
  if (!known) await tx.insertInto('letter_recipients').values({ letter_id: letter, person_id: null, via: 'chat', mail: p.chat_url, state: 'waiting', error: null, message_id: null, sent_at: null, token: newToken() }).execute();
}

export interface LetterView {
  to: string;
  subject: string;
  text: string;
  html: string;
}

/** The letter as one recipient gets it. Only a round-up has words that differ by recipient. */
export function letterAs(letter: Pick<Letter, 'kind' | 'subject' | 'body'>, recipient: { name: string; mail: string }): LetterView {
  const values = { recipient: { name: recipient.name, first: firstNameOf(recipient.name) } };
  const fill = (text: string) => (letter.kind === 'round-up' ? fillTemplate(text, values) : text);
  const text = fill(letter.body);
  return { to: recipient.mail, subject: fill(letter.subject).replace(/[\r\n]+/g, ' '), text, html: letterHtml(text) };
}

/** Letters of a project, newest first. */
export async function lettersOf(ws: Workspace, project: string, limit = 200): Promise<Letter[]> {
  mustSee(ws, project, 'project');
  const rows = await ws.db.selectFrom('letters').select('id').where('project_id', '=', project).where('state', '!=', 'withdrawn').orderBy('id', 'desc').limit(limit).execute();
  return Promise.all(rows.map((r) => letterById(ws, r.id)));
}

/** Takes a draft that no rule wants any more, or that somebody does not want, off the list; what it was about may be written again. */
export async function withdrawLetter(ws: Workspace, id: number): Promise<void> {
  const letter = await letterById(ws, id);
  if (letter.state !== 'draft') throw new Refusal('conflict', 'Only a letter that has not gone out can be dropped.');
  await ws.db.updateTable('letters').set({ state: 'withdrawn' }).where('id', '=', id).execute();
}
