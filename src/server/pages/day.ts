import { addDays, isoWeek } from '../../core/dates/calendar.ts';
import { countsAsOpen, isLate, isLoose } from '../../core/ledger/predicates.ts';
import type { Briefing } from '../../core/meetings/briefing.ts';
import { firstThing } from '../day/close-out.ts';
import { lastBackup } from '../ledger/backups.ts';
import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import { planOf } from '../letters/plan.ts';
import { repliesOf } from '../letters/replies.ts';
import { briefingFor } from '../meetings/briefings.ts';
import { invitedTo, type MeetingRow, meetingRows, waitingMeetings } from '../meetings/meetings.ts';
import { ownerOf } from '../people/owner.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { timeNow } from '../store/clock.ts';
import { pausedRoutines } from './routines.ts';

export interface DayMeeting {
  meeting: MeetingRow;
  /** what is still lacking, in a word or two; null when nothing is */
  lacks: string | null;
  /** commitments its series brings to the table */
  bring: LedgerRow[];
  /** what one has to know before it; for the next ones only */
  brief: Briefing | null;
}

/** Today: meetings around now, what is late, due and loose, and which records wait to be sifted. */
export async function dayPage(ws: Workspace) {
  const [around, all, waiting, plan, replies, first] = await Promise.all([
    meetingRows(ws, { project: ws.project, from: addDays(ws.today, -2), to: addDays(ws.today, 7) }),
    ledgerRows(ws, { project: ws.project, state: 'open', lives: false }),
    waitingMeetings(ws, ws.project),
    planOf(ws.db, ws.project, ws.today, 1),
    repliesOf(ws, ws.project, { limit: 40 }),
    firstThing(ws, ws.project),
  ]);
  // what is put off is out of sight until its day
  const rows = all.filter((r) => countsAsOpen(r, ws.today));
  const upcoming = around.filter((m) => m.date >= ws.today).slice(0, 5);
  const view = (m: MeetingRow): DayMeeting => ({ meeting: m, brief: null, lacks: lacking(m, ws.today), bring: m.date >= ws.today && m.records === 0 ? rows.filter((r) => r.series === m.series && m.series !== null) : [] });
  const meetings = upcoming.map(view);
  for (const m of meetings.filter((x) => x.meeting.records === 0).slice(0, 2)) {
    const them = (await invitedTo(ws.db, m.meeting.id)).map((p) => p.id);
    const before = m.meeting.series === null ? null : ((await meetingRows(ws, { project: ws.project, series: m.meeting.series, to: addDays(m.meeting.date, -1) })).filter((x) => x.records > 0).at(-1)?.date ?? null);
    if (them.length) m.brief = await briefingFor(ws, ws.project, them, before);
  }
  const dueToday = rows.filter((r) => r.due === ws.today);
  return {
    today: ws.today,
    now: timeNow(),
    week: isoWeek(ws.today).week,
    earlier: around.filter((m) => m.date < ws.today).map(view),
    meetings,
    waiting: waiting.filter((w) => w.date < addDays(ws.today, -2)),
    late: rows.filter((r) => isLate(r, ws.today)),
    due: dueToday,
    soon: rows.filter((r) => r.due !== null && r.due > ws.today && r.due <= addDays(ws.today, 3)),
    loose: rows.filter(isLoose),
    unsifted: waiting.length,
    letters: plan.letters.filter((l) => l.day <= ws.today && !l.held).length,
    replies: replies.filter((r) => r.answers.some((a) => a.verdict === 'open') || r.nature === 'unmatched'),
    names: Object.fromEntries((await peopleOf(ws, ws.project)).map((p) => [p.id, p.name])),
    firstThing: first,
    // whoever keeps this Ottik can mend it; nobody else is troubled
    backupWrong: (await ownerOf(ws.db)) === ws.asker.person ? ((await lastBackup(ws.db))?.wrong ?? null) : null,
    paused: await pausedRoutines(ws),
    back: rows.filter((r) => r.putOff === ws.today),
  };
}

function lacking(m: MeetingRow, today: string): string | null {
  if (m.records === 0) return m.date < today ? 'no record' : null;
  if (m.findsLeft > 0) return `${m.findsLeft} finds left`;
  if (m.letter === 'none' || m.letter === 'draft') return 'round-up not sent';
  return m.letter === 'part sent' ? 'not everybody has it' : null;
}
