import { sql } from 'kysely';
import { addDays } from '../../core/dates/calendar.ts';
import { clockAt, momentAt } from '../../core/dates/moments.ts';
import { addWorkingDays } from '../../core/dates/working-days.ts';
import { shortDay } from '../../core/language/days.ts';
import type { MeetingKind, Routine } from '../../core/routines/routine.ts';
import { causeKey } from '../../core/routines/run.ts';
import { predicates } from '../ledger/predicates.ts';
import { calendarOf } from '../letters/rules.ts';
import { invitedTo } from '../meetings/meetings.ts';
import type { Workspace } from '../people/workspace.ts';

/** Something that starts a routine: once, by its key. */
export interface Cause {
  key: string;
  /** in words, for the log */
  about: string;
  meeting: number | null;
  commitment: number | null;
  reply: number | null;
}

/** How far a routine has looked. */
export interface Looked {
  since: string;
  record: number;
  version: number;
  reply: number;
}

/** A meeting without a length is over after an hour, one without a time of day when the day is. */
const USUAL_LENGTH = 60;
const LAST_MINUTE = '23:59';

/** Causes of one kind that are new to a routine; those of the clock come from its own times. */
export async function causesOf(ws: Workspace, routine: Routine, looked: Looked, now: Date): Promise<{ causes: Cause[]; looked: Looked }> {
  switch (routine.when.on) {
    case 'record':
      return records(ws, routine, looked);
    case 'end':
      return { causes: await ended(ws, routine, looked, now), looked };
    case 'minutes':
      return minutes(ws, routine, looked);
    case 'answer':
      return answers(ws, routine, looked);
    case 'late':
      return { causes: await late(ws, routine, routine.when.days, looked), looked };
    default:
      return { causes: [], looked };
  }
}

interface OfMeeting {
  id: number;
  title: string;
  date: string;
}

const ofMeeting = (m: OfMeeting, key: string, what: string, today: string): Cause => ({ key, about: `${what} ${m.title}, ${shortDay(m.date, today)}`, meeting: m.id, commitment: null, reply: null });

async function records(ws: Workspace, routine: Routine, looked: Looked) {
  const rows = await ws.db
    .selectFrom('records as r')
    .innerJoin('meetings as m', 'm.id', 'r.meeting_id')
    .select(['r.id as record', 'm.id', 'm.title', 'm.date', 'm.series_id'])
    .where('m.project_id', '=', ws.project)
    .where('r.id', '>', looked.record)
    .where('r.gone_at', 'is', null)
    .where('r.replaced_by', 'is', null)
    .orderBy('r.id')
    .execute();
  const causes: Cause[] = [];
  for (const r of rows) if (await fits(ws, routine, r)) causes.push(ofMeeting(r, causeKey('record', r.record), 'record of', ws.today));
  return { causes, looked: { ...looked, record: rows.at(-1)?.record ?? looked.record } };
}

async function minutes(ws: Workspace, routine: Routine, looked: Looked) {
  const rows = await ws.db.selectFrom('minutes_versions as v').innerJoin('meetings as m', 'm.id', 'v.meeting_id').select(['v.id as version_id', 'v.version', 'm.id', 'm.title', 'm.date', 'm.series_id']).where('m.project_id', '=', ws.project).where('v.id', '>', looked.version).orderBy('v.id').execute();
  const causes: Cause[] = [];
  for (const v of rows) if (await fits(ws, routine, v)) causes.push(ofMeeting(v, causeKey('minutes', v.id, v.version), `version ${v.version} of the minutes of`, ws.today));
  return { causes, looked: { ...looked, version: rows.at(-1)?.version_id ?? looked.version } };
}

async function ended(ws: Workspace, routine: Routine, looked: Looked, now: Date): Promise<Cause[]> {
  const { zone } = ws.asker;
  const since = new Date(looked.since);
  const rows = await ws.db
    .selectFrom('meetings as m')
    .select(['m.id', 'm.title', 'm.date', 'm.time', 'm.minutes', 'm.series_id'])
    .where('m.project_id', '=', ws.project)
    .where('m.cancelled_at', 'is', null)
    .where('m.date', '>=', addDays(clockAt(since, zone).day, -1))
    .where('m.date', '<=', clockAt(now, zone).day)
    .orderBy('m.date')
    .orderBy('m.id')
    .execute();
  const causes: Cause[] = [];
  for (const m of rows) {
    const over = m.time === null ? momentAt(m.date, LAST_MINUTE, zone) : new Date(momentAt(m.date, m.time, zone).getTime() + (m.minutes ?? USUAL_LENGTH) * 60_000);
    if (over > since && over <= now && (await fits(ws, routine, m))) causes.push(ofMeeting(m, causeKey('end', m.id), 'end of', ws.today));
  }
  return causes;
}

async function answers(ws: Workspace, routine: Routine, looked: Looked) {
  const rows = await ws.db
    .selectFrom('replies as r')
    .leftJoin('people as p', 'p.id', 'r.person_id')
    .leftJoin('letter_recipients as lr', 'lr.id', 'r.recipient_id')
    .leftJoin('letters as l', 'l.id', 'lr.letter_id')
    .leftJoin('meetings as m', (j) => j.on(({ eb, fn }) => eb('m.id', '=', fn.coalesce('l.meeting_id', 'l.sitting_id'))))
    .select(['r.id', 'r.from_address', 'p.name', 'l.id as letter', 'm.id as meeting', 'm.series_id'])
    .where('r.project_id', '=', ws.project)
    .where('r.nature', '=', 'answer')
    .where('r.id', '>', looked.reply)
    .orderBy('r.id')
    .execute();
  const causes: Cause[] = [];
  for (const r of rows) {
    const of = r.meeting !== null && (await fits(ws, routine, { id: r.meeting, series_id: r.series_id }));
    // a letter about commitments is of the series they are of
    const byItems = routine.kind === 'any' && (routine.series === null || (r.letter !== null && (await speaksOf(ws, r.letter, routine.series))));
    if (of || byItems) causes.push({ key: causeKey('answer', r.id), about: `answer of ${r.name ?? r.from_address}`, meeting: r.meeting, commitment: null, reply: r.id });
  }
  return { causes, looked: { ...looked, reply: rows.at(-1)?.id ?? looked.reply } };
}

const speaksOf = async (ws: Workspace, letter: number, series: string): Promise<boolean> => (await ws.db.selectFrom('letter_items as i').innerJoin('commitments as c', 'c.id', 'i.commitment_id').select('i.id').where('i.letter_id', '=', letter).where('c.series_id', '=', series).executeTakeFirst()) !== undefined;

/** Commitments that have become so many working days late since the routine was switched on; a new due date begins anew. */
async function late(ws: Workspace, routine: Routine, days: number, looked: Looked): Promise<Cause[]> {
  const sinceDay = clockAt(new Date(looked.since), ws.asker.zone).day;
  const project = await ws.db.selectFrom('projects').select(['country', 'working_days']).where('id', '=', ws.project).executeTakeFirstOrThrow();
  const works = calendarOf(project.country, ws.today, project.working_days);
  const rows = await ws.db
    .selectFrom('commitments as c')
    .leftJoin('meetings as m', 'm.id', 'c.meeting_id')
    .select(['c.id', 'c.number', 'c.text', 'c.due', 'c.series_id', 'c.meeting_id'])
    .where('c.project_id', '=', ws.project)
    .where(predicates(ws.today).late)
    // a working day is at most so many days away, public holidays among them
    .where('c.due', '>=', addDays(sinceDay, -(days * 2 + 30)))
    .orderBy('c.id')
    .execute();
  const causes: Cause[] = [];
  for (const c of rows) {
    const on = addWorkingDays(c.due!, days, works);
    if (on < sinceDay || on > ws.today) continue;
    if (routine.series !== null && c.series_id !== routine.series) continue;
    if (routine.kind !== 'any' && (c.meeting_id === null || !(await isOfKind(ws, routine.kind, { id: c.meeting_id, series_id: c.series_id })))) continue;
    causes.push({ key: causeKey('late', c.id, c.due!), about: `C-${c.number} is late: ${c.text}`.slice(0, 160), meeting: c.meeting_id, commitment: c.id, reply: null });
  }
  return causes;
}

/** Whether a routine is for a meeting. */
export const fits = async (ws: Workspace, { series, kind }: Pick<Routine, 'series' | 'kind'>, meeting: { id: number; series_id: string | null }): Promise<boolean> => (series === null || meeting.series_id === series) && isOfKind(ws, kind, meeting);

async function isOfKind(ws: Workspace, kind: MeetingKind, meeting: { id: number; series_id: string | null }): Promise<boolean> {
  if (kind === 'any') return true;
  if (kind === 'series' || kind === 'single') return (meeting.series_id !== null) === (kind === 'series');
  const people = await invitedTo(ws.db, meeting.id);
  if (kind === 'two') return people.length === 2;
  const houses = await ws.db
    .selectFrom('people')
    .select('organisation')
    .distinct()
    .where(sql<boolean>`id IN (SELECT value FROM json_each(${JSON.stringify([...people.map((p) => p.id), ws.asker.person])}))`)
    .where('organisation', '!=', '')
    .execute();
  return kind === 'outside' ? houses.length > 1 : houses.length <= 1;
}
