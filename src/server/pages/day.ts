import { addDays, isoWeek } from '../../core/dates/calendar.ts';
import { timeNow } from '../clock.ts';
import { type LedgerRow, ledgerRows } from '../ledger.ts';
import { type MeetingRow, meetingRows, waitingMeetings } from '../meetings.ts';
import type { PageSession } from './page.ts';

export interface DayMeeting {
  meeting: MeetingRow;
  /** what is still lacking, in a word or two; null when nothing is */
  lacks: string | null;
  /** commitments its series brings to the table */
  bring: LedgerRow[];
}

/** Today: meetings around now, what is late, due and loose, and which records wait to be sifted. */
export async function dayPage({ db, asker, project, today }: PageSession) {
  const [around, rows, waiting] = await Promise.all([meetingRows(asker, db, { project, from: addDays(today, -2), to: addDays(today, 7) }), ledgerRows(asker, db, { project, state: 'open' }), waitingMeetings(asker, db, project)]);
  const upcoming = around.filter((m) => m.date >= today).slice(0, 5);
  const view = (m: MeetingRow): DayMeeting => ({ meeting: m, lacks: lacking(m, today), bring: m.date >= today && m.records === 0 ? rows.filter((r) => r.series === m.series && m.series !== null) : [] });
  const dueToday = rows.filter((r) => r.due === today);
  return {
    today,
    now: timeNow(),
    week: isoWeek(today).week,
    earlier: around.filter((m) => m.date < today).map(view),
    meetings: upcoming.map(view),
    waiting: waiting.filter((w) => w.date < addDays(today, -2)),
    late: rows.filter((r) => r.due !== null && r.due < today),
    due: dueToday,
    soon: rows.filter((r) => r.due !== null && r.due > today && r.due <= addDays(today, 3)),
    loose: rows.filter((r) => r.owner.length === 0 || r.due === null),
    unsifted: waiting.length,
  };
}

function lacking(m: MeetingRow, today: string): string | null {
  if (m.records === 0) return m.date < today ? 'no record' : null;
  if (m.findsLeft > 0) return `${m.findsLeft} finds left`;
  if (m.letter === 'none' || m.letter === 'draft') return 'round-up not sent';
  return m.letter === 'part sent' ? 'not everybody has it' : null;
}
