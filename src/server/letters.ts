import { Liquid } from 'liquidjs';
import { z } from 'zod';
import { shortDay } from '../core/language/days.ts';
import { composeRoundUp, letterHtml } from '../core/letters/round-up.ts';
import { type Asker, mustSee, visible } from './asker.ts';
import type { Db } from './database.ts';
import { findsOf } from './finds.ts';
import { inTransaction, madeIn } from './ledger.ts';
import { MailError, type Mailer } from './mailer.ts';
import { attendeesOf, meetingRow } from './meetings.ts';
import { minutesFile } from './minutes/minutes.ts';
import { peopleOf } from './people.ts';
import { Refusal } from './refusal.ts';

const liquid = new Liquid({ strictVariables: true, strictFilters: true, ownPropertyOnly: true, parseLimit: 200_000, renderLimit: 2_000, memoryLimit: 10_000_000 });

/** Fills a template; a mistake in it is told with its place. */
export function fillTemplate(template: string, values: Record<string, unknown>): string {
  try {
    return liquid.parseAndRenderSync(template, values) as string;
  } catch (error) {
    const said = error instanceof Error ? (error.message.split('\n')[0] ?? '') : String(error);
    throw new Refusal('bad-input', `The letter has a variable that cannot be filled: ${said}.`, 'Variables are {{ recipient.first }} and {{ recipient.name }}.');
  }
}

export interface Letter {
  id: number;
  meeting: number;
  meetingTitle: string;
  meetingDate: string;
  kind: string;
  subject: string;
  body: string;
  state: 'draft' | 'sending' | 'sent' | 'part sent';
  createdAt: string;
  sentAt: string | null;
  fromName: string;
  fromMail: string;
  recipients: { id: string; name: string; mail: string; state: 'waiting' | 'sent' | 'refused'; error: string | null; sentAt: string | null }[];
  /** version of the minutes that goes with it as a PDF, and the newest one there is */
  minutes: number | null;
  newestMinutes: number | null;
  /** people who were invited and cannot be written to, since no address is known */
  unreachable: string[];
}

/** The round-up of a meeting: the draft that is there, or one composed anew from what was taken. */
export async function roundUpFor(asker: Asker, db: Db, meeting: number, anew = false): Promise<Letter> {
  const m = await meetingRow(asker, db, meeting);
  const latest = await db.selectFrom('letters').select(['id', 'state']).where('meeting_id', '=', meeting).where('kind', '=', 'round-up').orderBy('id', 'desc').limit(1).executeTakeFirst();
  if (latest && (!anew || latest.state !== 'draft')) return letterById(asker, db, latest.id);
  const { subject, body } = composeRoundUp(await roundUpInput(asker, db, m.id), fillTemplate);
  if (!asker.mail) throw new Refusal('bad-input', 'You have no mail address, so a letter could not be answered.', 'Add your address to your entry among the people.');
  const id = await inTransaction(db, async (tx) => {
    if (latest) {
      await tx.updateTable('letters').set({ subject, body }).where('id', '=', latest.id).execute();
      return latest.id;
    }
    const row = await tx.insertInto('letters').values({ project_id: m.project, meeting_id: m.id, kind: 'round-up', subject, body, state: 'draft', created_at: new Date().toISOString(), sent_at: null, by_person: asker.person, from_name: asker.name, from_mail: asker.mail! }).returning('id').executeTakeFirstOrThrow();
    // the absent get it too: they most of all do not know
    const invited = (await attendeesOf(asker, tx, m.id)).filter((a) => a.mail && a.id !== asker.person);
    for (const a of invited) await tx.insertInto('letter_recipients').values({ letter_id: row.id, person_id: a.id, mail: a.mail!, state: 'waiting', error: null, message_id: null, sent_at: null }).execute();
    return row.id;
  });
  return letterById(asker, db, id);
}

async function roundUpInput(asker: Asker, db: Db, meeting: number) {
  const m = await meetingRow(asker, db, meeting);
  const row = await db.selectFrom('meetings').select('next').where('id', '=', meeting).executeTakeFirstOrThrow();
  const names = new Map((await peopleOf(asker, db, m.project)).map((p) => [p.id, p.name]));
  const taken = (await findsOf(asker, db, meeting)).filter((f) => f.verdict === 'taken' && f.ref);
  const made = await madeIn(db, meeting);
  const of = (kind: 'decision' | 'question') => taken.filter((f) => f.kind === kind).map((f) => ({ ref: f.ref!, text: f.text }));
  const news = { done: 'done', progress: 'still on it', dropped: 'no longer wanted', blocked: 'waiting', moved: 'moved', reassigned: 'handed over' };
  return {
    meeting: { title: m.title, date: m.date, number: m.number, next: row.next },
    actions: made.map((c) => ({ ref: c.ref, text: c.text, owner: c.owner.map((o) => names.get(o) ?? o), due: c.due })),
    decisions: of('decision'),
    questions: of('question'),
    updates: taken
      .filter((f) => f.update)
      .map((f) => ({
        ref: f.ref!,
        text: f.text,
        owner: f.owner.map((o) => names.get(o) ?? o),
        news: f.update!.kind === 'moved' && f.update!.due ? `now ${shortDay(f.update!.due)}` : f.update!.kind === 'reassigned' ? `now with ${f.owner.map((o) => names.get(o) ?? o).join(' and ')}` : news[f.update!.kind],
      })),
    sender: { name: asker.name },
  };
}

export async function letterById(asker: Asker, db: Db, id: number): Promise<Letter> {
  const l = await db.selectFrom('letters').innerJoin('meetings', 'meetings.id', 'letters.meeting_id').selectAll('letters').select(['meetings.title as meeting_title', 'meetings.date as meeting_date']).where('letters.id', '=', id).executeTakeFirst();
  mustSee(asker, l?.project_id, 'letter');
  const row = l!;
  const recipients = await db.selectFrom('letter_recipients as r').innerJoin('people as p', 'p.id', 'r.person_id').select(['p.id', 'p.name', 'r.mail', 'r.state', 'r.error', 'r.sent_at']).where('r.letter_id', '=', id).orderBy('p.name').execute();
  const newest = await db
    .selectFrom('minutes_versions')
    .select(({ fn }) => fn.max('version').as('v'))
    .where('meeting_id', '=', row.meeting_id)
    .executeTakeFirst();
  const without = (await attendeesOf(asker, db, row.meeting_id)).filter((a) => !a.mail && a.id !== row.by_person);
  return {
    id: row.id,
    meeting: row.meeting_id,
    meetingTitle: row.meeting_title,
    meetingDate: row.meeting_date,
    kind: row.kind,
    subject: row.subject,
    body: row.body,
    state: row.state,
    createdAt: row.created_at,
    sentAt: row.sent_at,
    fromName: row.from_name,
    fromMail: row.from_mail,
    minutes: row.minutes_version,
    newestMinutes: newest?.v ?? null,
    recipients: recipients.map((r) => ({ id: r.id, name: r.name, mail: r.mail, state: r.state, error: r.error, sentAt: r.sent_at })),
    unreachable: without.map((a) => a.name),
  };
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
  /** ids of people who were invited and get it */
  to: z.array(z.string()).max(200).optional(),
});

/** Keeps what was edited in a draft. */
export async function editLetter(asker: Asker, db: Db, id: number, edit: z.infer<typeof LetterEditSchema>): Promise<Letter> {
  const letter = await letterById(asker, db, id);
  if (letter.state === 'sent') throw new Refusal('conflict', 'This letter was sent and does not change any more.');
  if (edit.minutes && edit.minutes > (letter.newestMinutes ?? 0)) throw new Refusal('not-found', `There is no version ${edit.minutes} of the minutes.`);
  fillTemplate(edit.body, { recipient: { first: 'First', name: 'First Last' } });
  await inTransaction(db, async (tx) => {
    await tx
      .updateTable('letters')
      .set({ subject: edit.subject, body: `${edit.body}\n`, ...(edit.minutes === undefined ? {} : { minutes_version: edit.minutes }) })
      .where('id', '=', id)
      .execute();
    if (!edit.to) return;
    const there = (await attendeesOf(asker, tx, letter.meeting)).filter((a) => a.mail && edit.to!.includes(a.id));
    await tx.deleteFrom('letter_recipients').where('letter_id', '=', id).where('state', '!=', 'sent').execute();
    for (const a of there)
      await tx
        .insertInto('letter_recipients')
        .values({ letter_id: id, person_id: a.id, mail: a.mail!, state: 'waiting', error: null, message_id: null, sent_at: null })
        .onConflict((c) => c.doNothing())
        .execute();
  });
  return letterById(asker, db, id);
}

export interface LetterView {
  to: string;
  subject: string;
  text: string;
  html: string;
}

/** The letter as one recipient gets it. */
export function letterAs(letter: Pick<Letter, 'subject' | 'body'>, recipient: { name: string; mail: string }): LetterView {
  const values = { recipient: { name: recipient.name, first: recipient.name.replace(/^(?:Mr|Mrs|Ms|Dr)\.?\s+/, '').split(/\s+/)[0] ?? recipient.name } };
  const text = fillTemplate(letter.body, values);
  return { to: recipient.mail, subject: fillTemplate(letter.subject, values).replace(/[\r\n]+/g, ' '), text, html: letterHtml(text) };
}

/**
 * Sends a letter, one message to each recipient, so that nobody sees the others' addresses. Each one's outcome is kept
 * as soon as it is known; sending again goes only to those it has not reached.
 */
export async function sendLetter(asker: Asker, db: Db, id: number, mailer: Mailer): Promise<Letter> {
  const letter = await letterById(asker, db, id);
  if (letter.state === 'sent') throw new Refusal('conflict', 'This letter was sent already.');
  const waiting = letter.recipients.filter((r) => r.state !== 'sent');
  if (waiting.length === 0) throw new Refusal('bad-input', 'Nobody is to get this letter.', 'Choose at least one recipient.');
  const views = waiting.map((r) => ({ r, view: letterAs(letter, r) }));
  const file = letter.minutes === null ? null : await minutesFile(asker, db, letter.meeting, 'pdf', letter.minutes);
  const claimed = await db.updateTable('letters').set({ state: 'sending' }).where('id', '=', id).where('state', 'in', ['draft', 'part sent']).executeTakeFirst();
  if (Number(claimed.numUpdatedRows) === 0) throw new Refusal('conflict', 'This letter is being sent right now.');
  let unreachable: string | null = null;
  try {
    for (const { r, view } of views) {
      if (unreachable) break;
      try {
        const messageId = await mailer.send({ from: { name: letter.fromName, address: letter.fromMail }, to: { name: r.name, address: r.mail }, subject: view.subject, text: view.text, html: view.html, ...(file ? { file } : {}) });
        await db.updateTable('letter_recipients').set({ state: 'sent', error: null, message_id: messageId, sent_at: new Date().toISOString() }).where('letter_id', '=', id).where('person_id', '=', r.id).execute();
      } catch (error) {
        if (!(error instanceof MailError)) throw error;
        if (error.everyone) unreachable = error.message;
        await db.updateTable('letter_recipients').set({ state: 'refused', error: error.message }).where('letter_id', '=', id).where('person_id', '=', r.id).execute();
      }
    }
  } finally {
    const rows = await db.selectFrom('letter_recipients').select('state').where('letter_id', '=', id).execute();
    const sent = rows.filter((r) => r.state === 'sent').length;
    const state = sent === rows.length ? 'sent' : sent > 0 ? 'part sent' : 'draft';
    await db
      .updateTable('letters')
      .set({ state, ...(sent > 0 ? { sent_at: new Date().toISOString() } : {}) })
      .where('id', '=', id)
      .execute();
  }
  if (unreachable) throw new Refusal('unreachable', unreachable, 'Nothing is lost: the letter is kept. Send it again when the mail server answers.');
  return letterById(asker, db, id);
}

/** Letters of the projects somebody sees, newest first. */
export async function lettersOf(asker: Asker, db: Db, project: string): Promise<Letter[]> {
  const rows = await db.selectFrom('letters').select('id').where('project_id', 'in', visible(asker)).where('project_id', '=', project).orderBy('id', 'desc').limit(200).execute();
  return Promise.all(rows.map((r) => letterById(asker, db, r.id)));
}
