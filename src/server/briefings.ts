import { standingOf } from '../core/ledger/state.ts';
import { type Briefing, briefing } from '../core/meetings/briefing.ts';
import { type Asker, mustSee } from './asker.ts';
import type { Db } from './database.ts';
import { eventsByCommitment } from './ledger.ts';
import { registerOf } from './registers.ts';

/** The briefing of a project for whoever asks, before they meet some people; `since` is when they last met. */
export async function briefingFor(asker: Asker, db: Db, project: string, them: readonly string[], since: string | null, today: string): Promise<Briefing> {
  mustSee(asker, project, 'project');
  const ids = (
    await db
      .selectFrom('commitments as c')
      .innerJoin('commitment_owners as o', 'o.commitment_id', 'c.id')
      .select(['c.id', 'c.number'])
      .distinct()
      .where('c.project_id', '=', project)
      .where('o.person_id', 'in', [...them, asker.person])
      // what ended before they last met is no news
      .where((eb) => eb.or([eb('c.state', 'in', ['open', 'blocked']), eb('c.ended_on', '>', since ?? '')]))
      .where('c.state', '!=', 'withdrawn')
      .execute()
  ).map((r) => ({ id: r.id, ref: `C-${r.number}` }));
  const events = await eventsByCommitment(
    db,
    ids.map((i) => i.id),
  );
  const [decisions, questions] = await Promise.all([registerOf(asker, db, project, 'decision'), registerOf(asker, db, project, 'question')]);
  return briefing({
    today,
    since,
    me: asker.person,
    them,
    commitments: ids.map((i) => ({ ...i, events: events.get(i.id) ?? [], now: standingOf(events.get(i.id) ?? []) })),
    decisions: decisions.map((d) => ({ ref: d.ref, text: d.text, on: d.on })),
    questions: questions.map((q) => ({ ref: q.ref, text: q.text, on: q.on, open: q.open })),
  });
}

/** When some people last met whoever asks, before a day. */
export async function lastMet(asker: Asker, db: Db, project: string, person: string, before: string): Promise<{ id: number; date: string; title: string } | null> {
  const row = await db
    .selectFrom('meetings as m')
    .innerJoin('attendance as a', 'a.meeting_id', 'm.id')
    .innerJoin('attendance as b', 'b.meeting_id', 'm.id')
    .select(['m.id', 'm.date', 'm.title'])
    .where('m.project_id', '=', project)
    .where('m.date', '<', before)
    .where('a.person_id', '=', person)
    .where('a.present', '=', 1)
    .where('b.person_id', '=', asker.person)
    .where('b.present', '=', 1)
    .orderBy('m.date', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ?? null;
}
