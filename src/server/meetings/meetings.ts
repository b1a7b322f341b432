import { dayOfWeek } from '../../core/dates/calendar.ts';
import { rhythmInWords } from '../../core/meetings/rhythm.ts';
import { predicates } from '../ledger/predicates.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee, visible } from '../people/workspace.ts';
import type { Db } from '../store/database.ts';
import { SUPERSEDED } from '../store/schema.ts';

export interface MeetingRow {
  id: number;
  project: string;
  series: string | null;
  title: string;
  date: string;
  time: string | null;
  minutes: number | null;
  number: number | null;
  place: string;
  records: number;
  findsLeft: number;
  finds: number;
  /** its commitments that lack an owner or a date */
  loose: number;
  siftedAt: string | null;
  /** minutes issued so far */
  versions: number;
  letter: 'none' | 'draft' | 'queued' | 'sent' | 'part sent';
  sentAt: string | null;
  there: number;
  absent: number;
  cancelled: boolean;
  /** the day the rule of its series gave it, where it was moved from there */
  movedFrom: string | null;
}

/** Meetings of a stretch of days with what each still lacks, in order of date and time; cancelled ones where they are asked for. */
export async function meetingRows(ws: Workspace, where: { project?: string; from?: string; to?: string; id?: number; series?: string; cancelled?: true }): Promise<MeetingRow[]> {
  let query = ws.db
    .selectFrom('meetings as m')
    .select((eb) => [
      'm.id',
      'm.project_id',
      'm.series_id',
      'm.title',
      'm.date',
      'm.time',
      'm.minutes',
      'm.number',
      'm.place',
      'm.sifted_at',
      'm.slot',
      'm.cancelled_at',
      eb
        .selectFrom('records')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('meeting_id', '=', 'm.id')
        .as('records'),
      eb
        .selectFrom('finds')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('meeting_id', '=', 'm.id')
        .where('reader', '!=', SUPERSEDED)
        .where('twin_of', 'is', null)
        .where('verdict', '=', 'open')
        .as('left'),
      eb
        .selectFrom('finds')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('meeting_id', '=', 'm.id')
        .where('reader', '!=', SUPERSEDED)
        .where('twin_of', 'is', null)
        .as('finds'),
      eb
        .selectFrom('commitments as c')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('c.meeting_id', '=', 'm.id')
        .where(predicates(ws.today).loose)
        .as('loose'),
      eb
        .selectFrom('minutes_versions')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('meeting_id', '=', 'm.id')
        .as('versions'),
      eb.selectFrom('letters').select('state').whereRef('meeting_id', '=', 'm.id').where('state', '!=', 'withdrawn').orderBy('id', 'desc').limit(1).as('letter'),
      eb.selectFrom('letters').select('sent_at').whereRef('meeting_id', '=', 'm.id').orderBy('id', 'desc').limit(1).as('sent_at'),
      eb
        .selectFrom('attendance')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('meeting_id', '=', 'm.id')
        .where('present', '=', 1)
        .as('there'),
      eb
        .selectFrom('attendance')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('meeting_id', '=', 'm.id')
        .where('present', '=', 0)
        .as('absent'),
    ])
    .where('m.project_id', 'in', visible(ws));
  if (where.project) query = query.where('m.project_id', '=', where.project);
  if (where.from) query = query.where('m.date', '>=', where.from);
  if (where.to) query = query.where('m.date', '<=', where.to);
  if (!where.cancelled && where.id === undefined) query = query.where('m.cancelled_at', 'is', null);
  if (where.id !== undefined) query = query.where('m.id', '=', where.id);
  if (where.series) query = query.where('m.series_id', '=', where.series);
  const rows = await query.orderBy('m.date').orderBy('m.time').orderBy('m.id').execute();
  return rows.map((r) => ({
    id: r.id,
    project: r.project_id,
    series: r.series_id,
    title: r.title,
    date: r.date,
    time: r.time,
    minutes: r.minutes,
    number: r.number,
    place: r.place,
    records: r.records ?? 0,
    findsLeft: r.left ?? 0,
    finds: r.finds ?? 0,
    loose: r.loose ?? 0,
    siftedAt: r.sifted_at,
    versions: r.versions ?? 0,
    letter: r.letter === null || r.letter === 'withdrawn' ? 'none' : r.letter,
    sentAt: r.sent_at,
    there: r.there ?? 0,
    absent: r.absent ?? 0,
    cancelled: r.cancelled_at !== null,
    movedFrom: r.slot !== null && r.slot !== r.date ? r.slot : null,
  }));
}

export async function meetingRow(ws: Workspace, id: number): Promise<MeetingRow> {
  const [row] = await meetingRows(ws, { id });
  mustSee(ws, row?.project, 'meeting');
  return row!;
}

export interface Attendee {
  id: string;
  name: string;
  mail: string | null;
  organisation: string;
  present: boolean;
}

export async function attendeesOf(ws: Workspace, meeting: number): Promise<Attendee[]> {
  await meetingRow(ws, meeting);
  const rows = await ws.db.selectFrom('attendance as a').innerJoin('people as p', 'p.id', 'a.person_id').select(['p.id', 'p.name', 'p.mail', 'p.organisation', 'a.present']).where('a.meeting_id', '=', meeting).orderBy('p.name').execute();
  return rows.map((r) => ({ ...r, present: r.present === 1 }));
}

/** Who is asked to a sitting: those named for it, else everybody of its series. */
export async function invitedTo(db: Db, meeting: number): Promise<{ id: string; name: string; mail: string | null }[]> {
  const named = await db.selectFrom('attendance as a').innerJoin('people as p', 'p.id', 'a.person_id').select(['p.id', 'p.name', 'p.mail']).where('a.meeting_id', '=', meeting).orderBy('p.name').execute();
  if (named.length) return named;
  return db.selectFrom('meetings as m').innerJoin('series_people as s', 's.series_id', 'm.series_id').innerJoin('people as p', 'p.id', 's.person_id').select(['p.id', 'p.name', 'p.mail']).where('m.id', '=', meeting).orderBy('p.name').execute();
}

export interface SeriesRow {
  id: string;
  title: string;
  short: string;
  /** how often it meets, in words */
  often: string;
  endedOn: string | null;
  dates: { date: string; id: number; held: boolean }[];
  open: number;
  late: number;
}

export async function seriesRows(ws: Workspace, project: string): Promise<SeriesRow[]> {
  mustSee(ws, project, 'project');
  const [series, meetings, commitments] = await Promise.all([
    ws.db.selectFrom('series').selectAll().where('project_id', '=', project).execute(),
    ws.db.selectFrom('meetings as m').select(['m.id', 'm.series_id', 'm.date']).where('project_id', '=', project).where('series_id', 'is not', null).where('cancelled_at', 'is', null).orderBy('date').execute(),
    ws.db.selectFrom('commitments').select(['series_id', 'due']).where('project_id', '=', project).where('state', 'in', ['open', 'blocked']).execute(),
  ]);
  return series.map((s) => ({
    id: s.id,
    title: s.title,
    short: s.short,
    often: rhythmInWords(s),
    endedOn: s.ended_on,
    dates: meetings.filter((m) => m.series_id === s.id).map((m) => ({ id: m.id, date: m.date, held: m.date <= ws.today })),
    open: commitments.filter((c) => c.series_id === s.id).length,
    late: commitments.filter((c) => c.series_id === s.id && c.due !== null && c.due < ws.today).length,
  }));
}

export const weekOf = (date: string) => ({ from: dayOfWeek(date, 1), to: dayOfWeek(date, 7) });

/** Meetings whose record waits to be sifted, newest first. */
export async function waitingMeetings(ws: Workspace, project: string): Promise<MeetingRow[]> {
  return (await meetingRows(ws, { project })).filter((m) => m.records > 0 && m.findsLeft > 0).reverse();
}
