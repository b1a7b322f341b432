import { addDays, dayOfWeek, isIsoDate, isoWeek } from '../../core/dates/calendar.ts';
import { meetingRows, seriesRows } from '../meetings/meetings.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { timeNow } from '../store/clock.ts';

/** A week of meetings with the stations each passes, and the series with their rhythm. */
export async function meetingsPage(ws: Workspace, wanted: string | null) {
  const monday = dayOfWeek(wanted && isIsoDate(wanted) ? wanted : ws.today, 1);
  const [rows, series] = await Promise.all([meetingRows(ws, { project: ws.project, from: monday, to: addDays(monday, 6), cancelled: true }), seriesRows(ws, ws.project)]);
  return {
    today: ws.today,
    now: timeNow(),
    monday,
    week: isoWeek(monday).week,
    before: addDays(monday, -7),
    after: addDays(monday, 7),
    rows,
    series,
    people: choicesOf(await peopleOf(ws, ws.project), ws.asker),
    held: rows.filter((r) => r.date <= ws.today && r.records > 0).length,
    lacking: rows.filter((r) => !r.cancelled).filter((r) => r.findsLeft > 0 || (r.date < ws.today && r.records === 0) || (r.records > 0 && r.letter !== 'sent')).length,
  };
}
