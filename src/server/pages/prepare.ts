import { addDays } from '../../core/dates/calendar.ts';
import { type BriefingPart, briefingParts, briefingText } from '../../core/meetings/briefing-text.ts';
import type { Asker } from '../asker.ts';
import { briefingFor } from '../briefings.ts';
import { openBefore } from '../ledger.ts';
import { invitedTo, type MeetingRow, meetingRow, meetingRows } from '../meetings.ts';
import { peopleOf } from '../people.ts';
import type { PageSession } from './page.ts';

export interface Prepared {
  meeting: MeetingRow;
  open: number;
  since: string | null;
  invited: string[];
  parts: BriefingPart[];
  text: string;
  today: string;
  /** where it can be mailed to; null where whoever asks has no address */
  mail: string | null;
}

/** What one has to know before a meeting, with the same as text. */
export async function preparePage({ db, asker, today }: Pick<PageSession, 'db' | 'today'> & { asker: Asker }, id: number): Promise<Prepared> {
  const meeting = await meetingRow(asker, db, Number.isInteger(id) ? id : -1);
  const invited = await invitedTo(db, meeting.id);
  const before = meeting.series === null ? undefined : (await meetingRows(asker, db, { project: meeting.project, series: meeting.series, to: addDays(meeting.date, -1) })).filter((m) => m.records > 0).at(-1);
  const day = meeting.date < today ? meeting.date : today;
  const brief = await briefingFor(
    asker,
    db,
    meeting.project,
    invited.map((p) => p.id),
    before?.date ?? null,
    day,
  );
  const names = new Map((await peopleOf(asker, db, meeting.project)).map((p) => [p.id, p.name]));
  const parts = briefingParts(brief, day, (p) => names.get(p) ?? p);
  return {
    meeting,
    open: await openBefore(asker, db, meeting.project, meeting.date, today),
    since: brief.since,
    invited: invited.filter((p) => p.id !== asker.person).map((p) => p.name),
    parts,
    text: briefingText({ title: meeting.title, date: meeting.date, time: meeting.time, place: meeting.place, today }, parts),
    today,
    mail: asker.mail,
  };
}
