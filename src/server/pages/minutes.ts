import type { MinutesData } from '../../core/meetings/minutes.ts';
import { openBefore } from '../ledger/commitments.ts';
import { attendeesOf, type MeetingRow, meetingRow } from '../meetings/meetings.ts';
import { type MinutesState, minutesOf, type Version } from '../meetings/minutes/minutes.ts';
import { type Share, sharesOf } from '../meetings/shares.ts';
import type { Choice } from '../people/people.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';

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
  shares: Share[];
}

export async function minutesPage(s: Workspace, id: number, wanted: number | null): Promise<{ meeting: MeetingRow; open: number; view: MinutesPageProps; version: Version | null }> {
  const ws = s;
  const meeting = await meetingRow(ws, Number.isInteger(id) ? id : -1);
  const open = await openBefore(ws, meeting.project, meeting.date);
  const state = await minutesOf(ws, meeting.id);
  const version = wanted === null ? null : state.versions.find((v) => v.version === wanted);
  if (version === undefined) throw new Refusal('not-found', `There is no version ${wanted} of these minutes.`);
  return { meeting, open, version, view: { meeting: meeting.id, state, people: choicesOf(await peopleOf(ws, meeting.project), ws.asker), today: ws.today, audience: await audienceOf(s, meeting, state.data), shares: await sharesOf(ws, meeting.id, new Date()) } };
}

async function audienceOf(ws: Workspace, meeting: MeetingRow, data: MinutesData): Promise<Audience> {
  const attendees = (await attendeesOf(ws, meeting.id)).filter((a) => a.mail && a.id !== ws.asker.person);
  const seeing = new Set((await ws.db.selectFrom('memberships').select('person_id').where('project_id', '=', meeting.project).where('sees', '=', 1).execute()).map((r) => r.person_id));
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
