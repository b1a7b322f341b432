import type { MinutesData } from '../../core/meetings/minutes.ts';
import { openBefore } from '../ledger/commitments.ts';
import { attendeesOf, type MeetingRow, meetingRow } from '../meetings/meetings.ts';
import { type MinutesState, minutesOf, type Version } from '../meetings/minutes/minutes.ts';
import type { Choice } from '../people/people.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import { Refusal } from '../refusal.ts';
import type { PageSession } from './page.ts';

/** Who will read the minutes, and what of them they could not have known. */
export interface Audience {
  readers: string[];
  /** readers who cannot open the project themselves */
  outside: string[];
  /** what is in the minutes that those, or the absent, could not see before */
  fresh: string[];
}

export interface MinutesPageProps {
  meeting: number;
  state: MinutesState;
  people: Choice[];
  today: string;
  audience: Audience;
}

export async function minutesPage(s: PageSession, id: number, wanted: number | null): Promise<{ meeting: MeetingRow; open: number; view: MinutesPageProps; version: Version | null }> {
  const { db, asker, today } = s;
  const meeting = await meetingRow(asker, db, Number.isInteger(id) ? id : -1);
  const open = await openBefore(asker, db, meeting.project, meeting.date, today);
  const state = await minutesOf(asker, db, meeting.id);
  const version = wanted === null ? null : state.versions.find((v) => v.version === wanted);
  if (version === undefined) throw new Refusal('not-found', `There is no version ${wanted} of these minutes.`);
  return { meeting, open, version, view: { meeting: meeting.id, state, people: choicesOf(await peopleOf(asker, db, meeting.project), asker), today, audience: await audienceOf(s, meeting, state.data) } };
}

async function audienceOf({ db, asker }: PageSession, meeting: MeetingRow, data: MinutesData): Promise<Audience> {
  const attendees = (await attendeesOf(asker, db, meeting.id)).filter((a) => a.mail && a.id !== asker.person);
  const seeing = new Set((await db.selectFrom('memberships').select('person_id').where('project_id', '=', meeting.project).where('sees', '=', 1).execute()).map((r) => r.person_id));
  const outside = attendees.filter((a) => !seeing.has(a.id));
  const blind = outside.length > 0 || attendees.some((a) => !a.present);
  const count = (n: number, one: string, many: string) => (n ? [`${n} ${n === 1 ? one : many}`] : []);
  const older = data.updates.map((u) => u.ref);
  return {
    readers: attendees.map((a) => a.name),
    outside: outside.map((a) => a.name),
    fresh: blind ? [...count(data.actions.length, 'action', 'actions'), ...count(data.decisions.length, 'decision', 'decisions'), ...(older.length ? [`what became of ${older.join(', ')}, made before`] : [])] : [],
  };
}
