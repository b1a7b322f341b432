import { daysBetween } from '../../core/dates/calendar.ts';
import { trailOf } from '../ledger/trail.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { nextSitting } from '../records/bringing-in.ts';
import { Refusal } from '../refusal.ts';
import { recordWords } from '../store/segments.ts';

/** One commitment's trail by its reference in the project that is looked at. */
export async function trailPage(ws: Workspace, ref: string) {
  const number = /^C-(\d{1,9})$/i.exec(ref)?.[1];
  if (!number) throw new Refusal('not-found', `“${ref.slice(0, 40)}” is not a reference.`, 'Commitments are called C-12 and the like.');
  const trail = await trailOf(ws, ws.project, Number(number), async (record) => (await recordWords(ws.db, record)).segments);
  const people = choicesOf(await peopleOf(ws, ws.project), ws.asker);
  return { trail, people, today: ws.today, age: daysBetween(trail.row.madeOn, trail.row.endedOn ?? ws.today), next: await nextSitting(ws.db, trail.row.series, ws.today) };
}
