import { addDays } from '../../core/dates/calendar.ts';
import { meetingRows } from '../meetings/meetings.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { keepDaysOf } from '../records/bringing-in.ts';
import { timeNow } from '../store/clock.ts';

export interface BringInProps {
  project: string;
  today: string;
  startedOn: string;
  /** days a record is kept */
  keepDays: number;
  me: string;
  people: Choice[];
  series: { id: string; title: string }[];
  meetings: { id: number; title: string; date: string; series: string | null; records: { id: number; name: string }[] }[];
  /** a meeting the record is for, when the page was opened from it */
  meeting: number | null;
}

/** What a record can belong to: meetings of the last weeks, series, people. */
export async function bringInPage(ws: Workspace, wanted: string | null) {
  const [people, meetings, series, p] = await Promise.all([
    peopleOf(ws, ws.project),
    meetingRows(ws, { project: ws.project, from: addDays(ws.today, -90), to: ws.today }),
    ws.db.selectFrom('series').select(['id', 'title']).where('project_id', '=', ws.project).orderBy('title').execute(),
    ws.db.selectFrom('projects').select('started_on').where('id', '=', ws.project).executeTakeFirst(),
  ]);
  const records = await ws.db
    .selectFrom('records')
    .innerJoin('meetings', 'meetings.id', 'records.meeting_id')
    .select(['records.id', 'records.meeting_id', 'records.file_name'])
    .where('meetings.project_id', '=', ws.project)
    .where('meetings.date', '>=', addDays(ws.today, -90))
    .where('records.replaced_by', 'is', null)
    .orderBy('records.id')
    .execute();
  const meeting = meetings.find((m) => m.id === Number(wanted))?.id ?? null;
  const view: BringInProps = {
    project: ws.project,
    today: ws.today,
    startedOn: p?.started_on ?? ws.today,
    keepDays: await keepDaysOf(ws.db, ws.project),
    me: ws.asker.person,
    series,
    meeting,
    people: choicesOf(people, ws.asker),
    meetings: meetings.map((m) => ({ id: m.id, title: m.title, date: m.date, series: m.series, records: records.filter((r) => r.meeting_id === m.id).map((r, i) => ({ id: r.id, name: r.file_name ?? `pasted text ${i + 1}` })) })),
  };
  return { view, today: ws.today, now: timeNow() };
}
