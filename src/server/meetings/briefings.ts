import { addDays } from '../../core/dates/calendar.ts';
import { standingOf } from '../../core/ledger/state.ts';
import { type Briefing, briefing } from '../../core/meetings/briefing.ts';
import { type BriefingPart, briefingParts, briefingText } from '../../core/meetings/briefing-text.ts';
import { eventsByCommitment } from '../ledger/commitments.ts';
import { registerOf } from '../ledger/registers.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { invitedTo, type MeetingRow, meetingRow, meetingRows } from './meetings.ts';

/** The briefing of a project for whoever asks, before they meet some people; `since` is when they last met. */
export async function briefingFor(ws: Workspace, project: string, them: readonly string[], since: string | null): Promise<Briefing> {
  mustSee(ws, project, 'project');
  const ids = (
    await ws.db
      .selectFrom('commitments as c')
      .innerJoin('commitment_owners as o', 'o.commitment_id', 'c.id')
      .select(['c.id', 'c.number'])
      .distinct()
      .where('c.project_id', '=', project)
      .where('o.person_id', 'in', [...them, ws.asker.person])
      // what ended before they last met is no news
      .where((eb) => eb.or([eb('c.state', 'in', ['open', 'blocked']), eb('c.ended_on', '>', since ?? '')]))
      .where('c.state', '!=', 'withdrawn')
      .execute()
  ).map((r) => ({ id: r.id, ref: `C-${r.number}` }));
  const events = await eventsByCommitment(
    ws.db,
    ids.map((i) => i.id),
  );
  const [decisions, questions] = await Promise.all([registerOf(ws, project, 'decision'), registerOf(ws, project, 'question')]);
  return briefing({
    today: ws.today,
    since,
    me: ws.asker.person,
    them,
    commitments: ids.map((i) => ({ ...i, events: events.get(i.id) ?? [], now: standingOf(events.get(i.id) ?? []) })),
    decisions: decisions.map((d) => ({ ref: d.ref, text: d.text, on: d.on })),
    questions: questions.map((q) => ({ ref: q.ref, text: q.text, on: q.on, open: q.open })),
  });
}

/** When some people last met whoever asks, before a day. */
export async function lastMet(ws: Workspace, project: string, person: string, before: string): Promise<{ id: number; date: string; title: string } | null> {
  const row = await ws.db
    .selectFrom('meetings as m')
    .innerJoin('attendance as a', 'a.meeting_id', 'm.id')
    .innerJoin('attendance as b', 'b.meeting_id', 'm.id')
    .select(['m.id', 'm.date', 'm.title'])
    .where('m.project_id', '=', project)
    .where('m.date', '<', before)
    .where('a.person_id', '=', person)
    .where('a.present', '=', 1)
    .where('b.person_id', '=', ws.asker.person)
    .where('b.present', '=', 1)
    .orderBy('m.date', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row ?? null;
}

/** What somebody has to know before a meeting: the meeting, whom they meet, and the briefing in parts and as text. */
export interface MeetingBriefing {
  meeting: MeetingRow;
  since: string | null;
  invited: { id: string; name: string }[];
  parts: BriefingPart[];
  text: string;
}

/** The briefing of one meeting for whoever asks. */
export async function briefingOfMeeting(ws: Workspace, id: number): Promise<MeetingBriefing> {
  const meeting = await meetingRow(ws, Number.isInteger(id) ? id : -1);
  const invited = await invitedTo(ws.db, meeting.id);
  const before = meeting.series === null ? undefined : (await meetingRows(ws, { project: meeting.project, series: meeting.series, to: addDays(meeting.date, -1) })).filter((m) => m.records > 0).at(-1);
  const day = [meeting.date, ws.today].sort()[0]!;
  const brief = await briefingFor(
    ws.with({ today: day }),
    meeting.project,
    invited.map((p) => p.id),
    before?.date ?? null,
  );
  const names = new Map((await peopleOf(ws, meeting.project)).map((p) => [p.id, p.name]));
  const parts = briefingParts(brief, day, (p) => names.get(p) ?? p);
  return { meeting, since: brief.since, invited, parts, text: briefingText({ title: meeting.title, date: meeting.date, time: meeting.time, place: meeting.place, today: ws.today }, parts) };
}
