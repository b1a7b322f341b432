import { composeRoundUp } from '../../core/letters/round-up.ts';
import type { Asker } from '../asker.ts';
import type { Db } from '../database.ts';
import { findsOf } from '../finds.ts';
import { inTransaction, madeIn } from '../ledger.ts';
import { attendeesOf, meetingRow } from '../meetings.ts';
import { peopleOf } from '../people.ts';
import { Refusal } from '../refusal.ts';
import { addRecipient, type Letter, letterById } from './letters.ts';
import { rulesOf } from './rules.ts';
import { fillTemplate, templateOf } from './templates.ts';

/** The round-up of a meeting: the draft that is there, or one composed anew from what was taken. */
export async function roundUpFor(asker: Asker, db: Db, meeting: number, anew = false): Promise<Letter> {
  const m = await meetingRow(asker, db, meeting);
  const latest = await db.selectFrom('letters').select(['id', 'state']).where('meeting_id', '=', meeting).where('kind', '=', 'round-up').where('state', '!=', 'withdrawn').orderBy('id', 'desc').limit(1).executeTakeFirst();
  if (latest && (!anew || latest.state !== 'draft')) return letterById(asker, db, latest.id);
  const rules = await rulesOf(db, m.project);
  const own = await db.selectFrom('people').select('language').where('id', '=', asker.person).executeTakeFirstOrThrow();
  const language = own.language as 'en';
  const template = await templateOf(db, m.project, m.series, 'round-up', language);
  const { subject, body, short } = composeRoundUp({ ...(await roundUpInput(asker, db, m.id)), language, tone: rules.tone, length: rules.length }, fillTemplate, template);
  if (!asker.mail) throw new Refusal('bad-input', 'You have no mail address, so a letter could not be answered.', 'Add your address to your entry among the people.');
  const id = await inTransaction(db, async (tx) => {
    if (latest) {
      await tx.updateTable('letters').set({ subject, body, short, created_at: new Date().toISOString() }).where('id', '=', latest.id).execute();
      return latest.id;
    }
    const row = await tx
      .insertInto('letters')
      .values({ project_id: m.project, meeting_id: m.id, kind: 'round-up', subject, body, short, language, tone: rules.tone, length: rules.length, state: 'draft', created_at: new Date().toISOString(), sent_at: null, by_person: asker.person, from_name: asker.name, from_mail: asker.mail! })
      .returning('id')
      .executeTakeFirstOrThrow();
    // the absent get it too: they most of all do not know
    for (const a of await attendeesOf(asker, tx, m.id)) if (a.mail && a.id !== asker.person) await addRecipient(tx, row.id, a.id, a.mail);
    return row.id;
  });
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
