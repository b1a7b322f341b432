import { daysBetween } from '../../core/dates/calendar.ts';
import { trailOf } from '../ledger/trail.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import { nextSitting } from '../records/bringing-in.ts';
import { Refusal } from '../refusal.ts';
import { recordWords } from '../store/segments.ts';
import type { PageSession } from './page.ts';

/** One commitment's trail by its reference in the project that is looked at. */
export async function trailPage({ db, asker, project, today }: PageSession, ref: string) {
  const number = /^C-(\d{1,9})$/i.exec(ref)?.[1];
  if (!number) throw new Refusal('not-found', `“${ref.slice(0, 40)}” is not a reference.`, 'Commitments are called C-12 and the like.');
  const trail = await trailOf(asker, db, project, Number(number), async (record) => (await recordWords(db, record)).segments);
  const people = choicesOf(await peopleOf(asker, db, project), asker);
  return { trail, people, today, age: daysBetween(trail.row.madeOn, trail.row.endedOn ?? today), next: await nextSitting(db, trail.row.series, today) };
}
