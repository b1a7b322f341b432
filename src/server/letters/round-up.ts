import type { Language } from '../../core/letters/kinds.ts';
import { composeRoundUp } from '../../core/letters/round-up.ts';
import { madeIn } from '../ledger/commitments.ts';
import { attendeesOf, type MeetingRow, meetingRow } from '../meetings/meetings.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { findsOf } from '../sift/finds.ts';
import type { Db } from '../store/database.ts';
import { addRecipient, type Letter, letterById } from './letters.ts';
import { senderOf } from './mail-settings.ts';
import { rulesOf } from './rules.ts';
import { fillTemplate, templateOf } from './templates.ts';

/** The round-up of a meeting in the language of its sender, or of the first of its readers; see {@link roundUpsFor}. */
export async function roundUpFor(ws: Workspace, meeting: number): Promise<Letter> {
  return (await roundUpsFor(ws, meeting))[0]!;
}

/**
 * The round-ups of a meeting, one for each language that its readers are written to in, the sender's own first: those
 * that are there, or drafts composed from what was taken.
 */
export async function roundUpsFor(ws: Workspace, meeting: number): Promise<Letter[]> {
  const m = await meetingRow(ws, meeting);
  // looked at inside the transaction, so that asking twice at once drafts once
  const ids = await ws.transaction(async (ws) => {
    const there = await idsOfRoundUps(ws.db, meeting);
    return there.length ? there : draftRoundUps(ws, m);
  });
  return Promise.all(ids.map((id) => letterById(ws, id)));
}

/** The round-ups of a meeting that somebody has had drafted; looking for them drafts none. */
export async function roundUpsOf(ws: Workspace, meeting: number): Promise<Letter[]> {
  await meetingRow(ws, meeting);
  return Promise.all((await idsOfRoundUps(ws.db, meeting)).map((id) => letterById(ws, id)));
}

const idsOfRoundUps = async (db: Db, meeting: number) => (await db.selectFrom('letters').select('id').where('meeting_id', '=', meeting).where('kind', '=', 'round-up').where('state', '!=', 'withdrawn').orderBy('id').execute()).map((l) => l.id);

async function draftRoundUps(ws: Workspace, m: MeetingRow): Promise<number[]> {
  const sender = await senderOf(ws, m.project);
  const languages = new Map((await ws.db.selectFrom('people').select(['id', 'language']).execute()).map((p) => [p.id, p.language as Language]));
  const own = languages.get(ws.asker.person) ?? 'en';
  // the absent get it too: they most of all do not know
  const readers = (await attendeesOf(ws, m.id)).filter((a) => a.mail && a.id !== ws.asker.person);
  const groups = new Map<Language, typeof readers>([[own, []]]);
  for (const r of readers) {
    const language = languages.get(r.id) ?? own;
    groups.set(language, [...(groups.get(language) ?? []), r]);
  }
  if (groups.size > 1 && groups.get(own)!.length === 0) groups.delete(own);
  const rules = await rulesOf(ws.db, m.project);
  const out: number[] = [];
  for (const [language, to] of groups) {
    const words = await wordsOf(ws, m, language);
    const { id } = await ws.db
      .insertInto('letters')
      .values({ project_id: m.project, meeting_id: m.id, kind: 'round-up', ...words, language, tone: rules.tone, length: rules.length, state: 'draft', created_at: new Date().toISOString(), sent_at: null, by_person: ws.asker.person, from_name: sender.name, from_mail: sender.address })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (const r of to) await addRecipient(ws.db, id, r.id, r.mail!);
    out.push(id);
  }
  return out;
}

async function wordsOf(ws: Workspace, m: MeetingRow, language: Language): Promise<{ subject: string; body: string; short: string }> {
  const rules = await rulesOf(ws.db, m.project);
  const template = await templateOf(ws.db, m.project, m.series, 'round-up', language);
  const { subject, body, short } = composeRoundUp({ ...(await roundUpInput(ws, m.id)), language, tone: rules.tone, length: rules.length }, fillTemplate, template);
  return { subject, body, short };
}

/** Composes a draft anew from what is taken by now; one that has gone stays as it went. */
export async function recomposeRoundUp(ws: Workspace, id: number): Promise<Letter> {
  const letter = await letterById(ws, id);
  if (letter.meeting === null || letter.state !== 'draft') return letter;
  const m = await meetingRow(ws, letter.meeting);
  await ws.db
    .updateTable('letters')
    .set({ ...(await wordsOf(ws, m, letter.language as Language)), created_at: new Date().toISOString() })
    .where('id', '=', id)
    .execute();
  return letterById(ws, id);
}

export async function roundUpInput(ws: Workspace, meeting: number) {
  const m = await meetingRow(ws, meeting);
  const row = await ws.db.selectFrom('meetings').innerJoin('projects', 'projects.id', 'meetings.project_id').select(['next', 'projects.name as project']).where('meetings.id', '=', meeting).executeTakeFirstOrThrow();
  const names = new Map((await peopleOf(ws, m.project)).map((p) => [p.id, p.name]));
  const called = (owner: readonly string[]) => owner.map((o) => names.get(o) ?? o);
  const taken = (await findsOf(ws, meeting)).filter((f) => f.verdict === 'taken' && f.ref);
  const made = await madeIn(ws.db, meeting);
  const of = (kind: 'decision' | 'question') => taken.filter((f) => f.kind === kind).map((f) => ({ ref: f.ref!, text: f.text }));
  return {
    meeting: { title: m.title, date: m.date, number: m.number, next: row.next },
    project: { name: row.project },
    today: m.date,
    actions: made.map((c) => ({ ref: c.ref, text: c.text, owner: called(c.owner), due: c.due })),
    decisions: of('decision'),
    questions: of('question'),
    updates: taken.filter((f) => f.update).map((f) => ({ ref: f.ref!, text: f.text, owner: called(f.owner), news: f.update!.kind, due: f.update!.due })),
    sender: { name: ws.asker.name },
  };
}
