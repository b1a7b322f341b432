import type { Language } from '../../core/letters/kinds.ts';
import { composeRoundUp } from '../../core/letters/round-up.ts';
import { madeIn } from '../ledger/commitments.ts';
import { attendeesOf, type MeetingRow, meetingRow } from '../meetings/meetings.ts';
import type { Asker } from '../people/asker.ts';
import { peopleOf } from '../people/people.ts';
import { Refusal } from '../refusal.ts';
import { findsOf } from '../sift/finds.ts';
import type { Db } from '../store/database.ts';
import { inTransaction } from '../store/transactions.ts';
import { addRecipient, type Letter, letterById } from './letters.ts';
import { rulesOf } from './rules.ts';
import { fillTemplate, templateOf } from './templates.ts';

/** The round-up of a meeting in the language of its sender, or of the first of its readers; see {@link roundUpsFor}. */
export async function roundUpFor(asker: Asker, db: Db, meeting: number): Promise<Letter> {
  return (await roundUpsFor(asker, db, meeting))[0]!;
}

/**
 * The round-ups of a meeting, one for each language that its readers are written to in, the sender's own first: those
 * that are there, or drafts composed from what was taken.
 */
export async function roundUpsFor(asker: Asker, db: Db, meeting: number): Promise<Letter[]> {
  const m = await meetingRow(asker, db, meeting);
  // looked at inside the transaction, so that asking twice at once drafts once
  const ids = await inTransaction(db, async (tx) => {
    const there = await idsOfRoundUps(tx, meeting);
    return there.length ? there : draftRoundUps(asker, tx, m);
  });
  return Promise.all(ids.map((id) => letterById(asker, db, id)));
}

/** The round-ups of a meeting that somebody has had drafted; looking for them drafts none. */
export async function roundUpsOf(asker: Asker, db: Db, meeting: number): Promise<Letter[]> {
  await meetingRow(asker, db, meeting);
  return Promise.all((await idsOfRoundUps(db, meeting)).map((id) => letterById(asker, db, id)));
}

const idsOfRoundUps = async (db: Db, meeting: number) => (await db.selectFrom('letters').select('id').where('meeting_id', '=', meeting).where('kind', '=', 'round-up').where('state', '!=', 'withdrawn').orderBy('id').execute()).map((l) => l.id);

async function draftRoundUps(asker: Asker, tx: Db, m: MeetingRow): Promise<number[]> {
  if (!asker.mail) throw new Refusal('bad-input', 'You have no mail address, so a letter could not be answered.', 'Add your address to your entry among the people.');
  const languages = new Map((await tx.selectFrom('people').select(['id', 'language']).execute()).map((p) => [p.id, p.language as Language]));
  const own = languages.get(asker.person) ?? 'en';
  // the absent get it too: they most of all do not know
  const readers = (await attendeesOf(asker, tx, m.id)).filter((a) => a.mail && a.id !== asker.person);
  const groups = new Map<Language, typeof readers>([[own, []]]);
  for (const r of readers) {
    const language = languages.get(r.id) ?? own;
    groups.set(language, [...(groups.get(language) ?? []), r]);
  }
  if (groups.size > 1 && groups.get(own)!.length === 0) groups.delete(own);
  const rules = await rulesOf(tx, m.project);
  const out: number[] = [];
  for (const [language, to] of groups) {
    const words = await wordsOf(asker, tx, m, language);
    const { id } = await tx
      .insertInto('letters')
      .values({ project_id: m.project, meeting_id: m.id, kind: 'round-up', ...words, language, tone: rules.tone, length: rules.length, state: 'draft', created_at: new Date().toISOString(), sent_at: null, by_person: asker.person, from_name: asker.name, from_mail: asker.mail })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (const r of to) await addRecipient(tx, id, r.id, r.mail!);
    out.push(id);
  }
  return out;
}

async function wordsOf(asker: Asker, db: Db, m: MeetingRow, language: Language): Promise<{ subject: string; body: string; short: string }> {
  const rules = await rulesOf(db, m.project);
  const template = await templateOf(db, m.project, m.series, 'round-up', language);
  const { subject, body, short } = composeRoundUp({ ...(await roundUpInput(asker, db, m.id)), language, tone: rules.tone, length: rules.length }, fillTemplate, template);
  return { subject, body, short };
}

/** Composes a draft anew from what is taken by now; one that has gone stays as it went. */
export async function recomposeRoundUp(asker: Asker, db: Db, id: number): Promise<Letter> {
  const letter = await letterById(asker, db, id);
  if (letter.meeting === null || letter.state !== 'draft') return letter;
  const m = await meetingRow(asker, db, letter.meeting);
  await db
    .updateTable('letters')
    .set({ ...(await wordsOf(asker, db, m, letter.language as Language)), created_at: new Date().toISOString() })
    .where('id', '=', id)
    .execute();
  return letterById(asker, db, id);
}

export async function roundUpInput(asker: Asker, db: Db, meeting: number) {
  const m = await meetingRow(asker, db, meeting);
  const row = await db.selectFrom('meetings').innerJoin('projects', 'projects.id', 'meetings.project_id').select(['next', 'projects.name as project']).where('meetings.id', '=', meeting).executeTakeFirstOrThrow();
  const names = new Map((await peopleOf(asker, db, m.project)).map((p) => [p.id, p.name]));
  const called = (owner: readonly string[]) => owner.map((o) => names.get(o) ?? o);
  const taken = (await findsOf(asker, db, meeting)).filter((f) => f.verdict === 'taken' && f.ref);
  const made = await madeIn(db, meeting);
  const of = (kind: 'decision' | 'question') => taken.filter((f) => f.kind === kind).map((f) => ({ ref: f.ref!, text: f.text }));
  return {
    meeting: { title: m.title, date: m.date, number: m.number, next: row.next },
    project: { name: row.project },
    today: m.date,
    actions: made.map((c) => ({ ref: c.ref, text: c.text, owner: called(c.owner), due: c.due })),
    decisions: of('decision'),
    questions: of('question'),
    updates: taken.filter((f) => f.update).map((f) => ({ ref: f.ref!, text: f.text, owner: called(f.owner), news: f.update!.kind, due: f.update!.due })),
    sender: { name: asker.name },
  };
}
