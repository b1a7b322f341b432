import { addDays, dayOfWeek, isIsoDate, isoWeek } from '../../core/dates/calendar.ts';
import { meetingRows, seriesRows } from '../meetings/meetings.ts';
import { choicesOf, peopleOf } from '../people/people.ts';
import { timeNow } from '../store/clock.ts';
import type { PageSession } from './page.ts';

/** A week of meetings with the stations each passes, and the series with their rhythm. */
export async function meetingsPage({ db, asker, project, today }: PageSession, wanted: string | null) {
  const monday = dayOfWeek(wanted && isIsoDate(wanted) ? wanted : today, 1);
  const [rows, series] = await Promise.all([meetingRows(asker, db, { project, from: monday, to: addDays(monday, 6) }), seriesRows(asker, db, project, today)]);
  return {
    today,
    now: timeNow(),
    monday,
    week: isoWeek(monday).week,
    before: addDays(monday, -7),
    after: addDays(monday, 7),
    rows,
    series,
    people: choicesOf(await peopleOf(asker, db, project), asker),
    held: rows.filter((r) => r.date <= today && r.records > 0).length,
    lacking: rows.filter((r) => r.findsLeft > 0 || (r.date < today && r.records === 0) || (r.records > 0 && r.letter !== 'sent')).length,
  };
}
