import type { Insertable } from 'kysely';
import { z } from 'zod';
import { readRhythm, readWhen, startOf } from '../../core/meetings/rhythm.ts';
import { idFrom } from '../people/ids.ts';
import { resolveOwners } from '../people/owners.ts';
import { mustBeOfProject } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import type { Database } from '../store/schema.ts';
import { isBare, removeBare } from './bare.ts';
import { fillAhead } from './series.ts';

const ONE_MEETING = 60;

const Planned = {
  title: z.string().trim().min(2, 'needs a title').max(120),
  place: z.string().trim().max(120),
  people: z.array(z.string().max(140)).max(200),
  minutes: z
    .number()
    .int()
    .min(5)
    .max(24 * 60)
    .default(ONE_MEETING),
};

/** A series as it is begun; `when` as people say it: every second Tuesday at 10:00 */
export const BeginSeriesSchema = z.object({ when: z.string().max(200), ...Planned });

export const PlanningSchema = z.discriminatedUnion('do', [
  BeginSeriesSchema.extend({ do: z.literal('series') }),
  /** `when` as people say it: next Tuesday at 14:00 */
  z.object({ do: z.literal('meeting'), when: z.string().max(200), ...Planned }),
  z.object({ do: z.literal('remove series'), series: z.string().max(140) }),
  z.object({ do: z.literal('remove meeting'), meeting: z.number().int() }),
]);
type Planning = z.infer<typeof PlanningSchema>;

/** What was planned or taken away: the series, or the one meeting, and the days of it. */
export interface PlannedNow {
  series: string | null;
  meeting: number | null;
  days: string[];
}

/** Begins a series, plans one meeting, or takes either back while nothing hangs on it. */
export async function plan(ws: Workspace, project: string, change: Planning): Promise<PlannedNow> {
  mustSee(ws, project, 'project');
  return ws.transaction((ws) => {
    switch (change.do) {
      case 'series':
        return beginSeries(ws, project, change);
      case 'meeting':
        return planMeeting(ws, project, change);
      case 'remove series':
        return removeSeries(ws.db, project, change.series);
      default:
        return removeMeeting(ws.db, project, change.meeting);
    }
  });
}

type SeriesPlan = Extract<Planning, { do: 'series' }>;
type MeetingPlan = Extract<Planning, { do: 'meeting' }>;

async function beginSeries(ws: Workspace, project: string, { title, when, minutes, place, people }: SeriesPlan): Promise<PlannedNow> {
  const rhythm = readRhythm(when, ws.today);
  if (!rhythm) throw new Refusal('bad-input', `“${when}” does not say when the series meets.`, 'Type a day and a time: every second Tuesday at 10:00.');
  const everybody = await attendees(ws, project, people);
  const id = await insertSeries(ws, project, { title, rule: rhythm.rule, starts_on: startOf(rhythm.rule, ws.today), time: rhythm.time, minutes, place, notes: '' }, everybody);
  return { series: id, meeting: null, days: await fillAhead(ws.db, id, ws.today) };
}

type SeriesValues = Pick<Insertable<Database['series']>, 'title' | 'rule' | 'starts_on' | 'time' | 'minutes' | 'place' | 'notes'>;

/** Keeps a series with its people. Its meetings come by fillAhead. */
export async function insertSeries(ws: Workspace, project: string, values: SeriesValues, people: readonly string[]): Promise<string> {
  const { title } = values;
  const same = await ws.db.selectFrom('series').select('title').where('project_id', '=', project).execute();
  if (same.some((s) => s.title.toLowerCase() === title.toLowerCase())) throw new Refusal('conflict', `There is a series “${title}” already.`, 'Choose another title.');
  const id = await idFrom(title, 'series', async (wanted) => (await ws.db.selectFrom('series').select('id').where('id', '=', wanted).executeTakeFirst()) !== undefined);
  await ws.db
    .insertInto('series')
    .values({ id, project_id: project, short: title.slice(0, 24).trim(), ...values })
    .execute();
  if (people.length)
    await ws.db
      .insertInto('series_people')
      .values(people.map((person_id) => ({ series_id: id, person_id })))
      .execute();
  return id;
}

async function planMeeting(ws: Workspace, project: string, { title, when, minutes, place, people }: MeetingPlan): Promise<PlannedNow> {
  const read = readWhen(when, ws.today);
  if (!read) throw new Refusal('bad-input', `“${when}” names no day.`, 'Type a day and a time: next Tuesday at 14:00.');
  const { date, time } = read;
  if (date < ws.today) throw new Refusal('bad-input', `${date} is past.`, 'Bring in the record of a meeting that was held.');
  const everybody = await attendees(ws, project, people);
  const meeting = await insertMeeting(ws.db, { project_id: project, series_id: null, title, date, time, minutes, number: null, place });
  await ws.db
    .insertInto('attendance')
    .values(everybody.map((person_id) => ({ meeting_id: meeting, person_id, present: 1 })))
    .execute();
  return { series: null, meeting, days: [date] };
}

/** Whoever plans is there; others by id, or by name where they are new. */
async function attendees(ws: Workspace, project: string, people: readonly string[]): Promise<string[]> {
  const named = await resolveOwners(ws, project, people);
  await mustBeOfProject(ws.db, project, named);
  return [...new Set([ws.asker.person, ...named])];
}

export type NewMeeting = { project_id: string; series_id: string | null; title: string; date: string; time: string | null; minutes: number; number: number | null; place: string };

export const insertMeeting = async (tx: Db, m: NewMeeting) =>
  (
    await tx
      .insertInto('meetings')
      .values({ ...m, sifted_at: null, next: null, author_id: null })
      .returning('id')
      .executeTakeFirstOrThrow()
  ).id;

async function removeSeries(tx: Db, project: string, series: string): Promise<PlannedNow> {
  const row = await tx.selectFrom('series').select('title').where('id', '=', series).where('project_id', '=', project).executeTakeFirst();
  if (!row) throw new Refusal('not-found', 'There is no such series.');
  const meetings = await tx.selectFrom('meetings').select(['id', 'date']).where('series_id', '=', series).execute();
  for (const m of meetings) if (!(await isBare(tx, m.id))) throw new Refusal('conflict', `${row.title} has met already.`, 'It stays. End it instead.');
  if (await tx.selectFrom('commitments').select('id').where('series_id', '=', series).executeTakeFirst()) throw new Refusal('conflict', `${row.title} holds commitments.`, 'It stays.');
  for (const m of meetings) await removeBare(tx, m.id);
  await tx.deleteFrom('series_people').where('series_id', '=', series).execute();
  await tx.deleteFrom('series_agenda').where('series_id', '=', series).execute();
  await tx.deleteFrom('series_minutes').where('series_id', '=', series).execute();
  await tx.deleteFrom('series_voices').where('series_id', '=', series).execute();
  await tx.deleteFrom('letter_templates').where('series_id', '=', series).execute();
  await tx.deleteFrom('calendar_ids').where('series_id', '=', series).execute();
  await tx.deleteFrom('series').where('id', '=', series).execute();
  return { series, meeting: null, days: meetings.map((m) => m.date) };
}

async function removeMeeting(tx: Db, project: string, meeting: number): Promise<PlannedNow> {
  const row = await tx.selectFrom('meetings').select(['title', 'date']).where('id', '=', meeting).where('project_id', '=', project).executeTakeFirst();
  if (!row) throw new Refusal('not-found', 'There is no such meeting.');
  if (!(await isBare(tx, meeting))) throw new Refusal('conflict', `${row.title} of ${row.date} has something to show already.`, 'It stays.');
  await removeBare(tx, meeting);
  return { series: null, meeting, days: [row.date] };
}
