import type { Selectable } from 'kysely';
import { z } from 'zod';
import { PARTS, type Part } from '../../core/meetings/parts.ts';
import { daysOf } from '../../core/meetings/recurrence.ts';
import { readRhythm, readWhen, rhythmInWords, startOf } from '../../core/meetings/rhythm.ts';
import { VISIBILITIES } from '../../core/people/rights.ts';
import { whole } from '../people/out-of-sight.ts';
import { resolveOwners } from '../people/owners.ts';
import { mustBeOfProject } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import type { Database } from '../store/schema.ts';
import { isBare, removeBare } from './bare.ts';

/** So many meetings of a series stand in the calendar ahead of today. */
const AHEAD = 8;

export const SeriesTitle = z.string().trim().min(2, 'needs a title').max(120);

/** What an entry says of a series. `when` as people say it: last Thursday of the month at 14:00 */
export const SeriesEntrySchema = z.object({
  title: SeriesTitle,
  short: z.string().trim().min(1, 'needs a short name').max(24),
  when: z.string().max(200),
  minutes: z
    .number()
    .int()
    .min(5)
    .max(24 * 60),
  place: z.string().trim().max(120),
  notes: z.string().trim().max(4000),
  visibility: z.enum(VISIBILITIES),
  people: z.array(z.object({ id: z.string().max(140), part: z.enum(PARTS) })).max(200),
});
export type SeriesEntry = z.infer<typeof SeriesEntrySchema>;

/** A meeting of a series as its page lists it. */
export interface SeriesMeeting {
  id: number;
  date: string;
  time: string | null;
  number: number | null;
  /** the day the rule gave it, where it was moved from there */
  movedFrom: string | null;
  cancelled: boolean;
  held: boolean;
}

export interface SeriesShown {
  id: string;
  project: string;
  entry: SeriesEntry;
  names: Record<string, string>;
  endedOn: string | null;
  meetings: SeriesMeeting[];
}

const rowOf = async (ws: Workspace, id: string) => {
  const row = await ws.db.selectFrom('series').selectAll().where('id', '=', id).executeTakeFirst();
  mustSee(ws, row?.project_id, 'series');
  return row!;
};

/** A series as its page shows it: what holds for it, who comes in which part, and its meetings, cancelled ones among them. */
export async function seriesShown(ws: Workspace, id: string): Promise<SeriesShown> {
  const row = await rowOf(ws, id);
  const [people, meetings] = await Promise.all([
    ws.db.selectFrom('series_people as s').innerJoin('people as p', 'p.id', 's.person_id').select(['p.id', 'p.name', 's.part']).where('s.series_id', '=', id).orderBy('p.name').execute(),
    ws.db
      .selectFrom('meetings as m')
      .select((eb) => ['m.id', 'm.date', 'm.time', 'm.number', 'm.slot', 'm.cancelled_at', eb.exists(eb.selectFrom('records').select('records.id').whereRef('records.meeting_id', '=', 'm.id')).as('recorded')])
      .where('m.series_id', '=', id)
      .orderBy('m.date')
      .orderBy('m.id')
      .execute(),
  ]);
  const order = (part: Part) => PARTS.indexOf(part);
  return {
    id,
    project: row.project_id,
    entry: {
      title: row.title,
      short: row.short,
      when: rhythmInWords(row),
      minutes: row.minutes,
      place: row.place,
      notes: row.notes,
      visibility: row.visibility,
      people: people.map((p) => ({ id: p.id, part: p.part })).sort((a, b) => order(a.part) - order(b.part)),
    },
    names: Object.fromEntries(people.map((p) => [p.id, p.name])),
    endedOn: row.ended_on,
    meetings: meetings.map((m) => ({ id: m.id, date: m.date, time: m.time, number: m.number, movedFrom: m.slot !== null && m.slot !== m.date ? m.slot : null, cancelled: m.cancelled_at !== null, held: m.recorded === 1 || m.date < ws.today })),
  };
}

/** What a change did: what the entry said before, and days that stay though the rule no longer gives them. */
export interface SeriesChanged {
  before: SeriesEntry;
  stayed: string[];
}

/** Changes what holds for a series. Meetings to come that nothing hangs on follow its rhythm; the others stay and are named. */
export async function changeSeries(ws: Workspace, id: string, to: SeriesEntry): Promise<SeriesChanged> {
  return ws.transaction(async (ws) => {
    const row = await rowOf(ws, id);
    const { entry: before } = await seriesShown(ws, id);
    const rhythm = readRhythm(to.when, ws.today);
    if (!rhythm) throw new Refusal('bad-input', `“${to.when}” does not say when the series meets.`, 'Type a day and a time: every second Tuesday at 10:00.');
    const same = await ws.db.selectFrom('series').select('title').where('project_id', '=', row.project_id).where('id', '!=', id).execute();
    if (same.some((s) => s.title.toLowerCase() === to.title.toLowerCase())) throw new Refusal('conflict', `There is a series “${to.title}” already.`, 'Choose another title.');
    const people = await attending(ws, row.project_id, to.people);
    await ws.db.deleteFrom('series_people').where('series_id', '=', id).execute();
    if (people.length)
      await ws.db
        .insertInto('series_people')
        .values(people.map((p) => ({ series_id: id, person_id: p.id, part: p.part })))
        .execute();
    const { title, short, minutes, place, notes, visibility } = to;
    const stayed = await setSeries(ws, id, { title, short, minutes, place, notes, visibility, time: rhythm.time, rule: rhythm.rule, ...(rhythm.rule === row.rule ? {} : { starts_on: startOf(rhythm.rule, ws.today) }) });
    return { before, stayed };
  });
}

/** Sets what a series says of itself; what is to come follows. Gives the days that stay though the rule gives them no more. */
export async function setSeries(ws: Workspace, id: string, to: Partial<Pick<Selectable<Database['series']>, 'title' | 'short' | 'rule' | 'starts_on' | 'time' | 'minutes' | 'place' | 'notes' | 'visibility'>>): Promise<string[]> {
  const was = await ws.db.selectFrom('series').select(['rule', 'title', 'time']).where('id', '=', id).executeTakeFirstOrThrow();
  await ws.db.updateTable('series').set(to).where('id', '=', id).execute();
  const stayed = await followEntry(ws.db, id, { turned: to.rule !== undefined && to.rule !== was.rule, title: was.title, time: was.time }, ws.today);
  await fillAhead(ws.db, id, ws.today);
  return stayed;
}

/** People with their parts; those named as new become people of the project. Named twice, somebody has the first part given. */
async function attending(ws: Workspace, project: string, people: SeriesEntry['people']): Promise<SeriesEntry['people']> {
  const parts = new Map<string, Part>();
  for (const { id, part } of people) for (const known of await resolveOwners(ws, project, [id])) if (!parts.has(known)) parts.set(known, part);
  await mustBeOfProject(ws.db, project, [...parts.keys()]);
  return [...parts].map(([id, part]) => ({ id, part }));
}

/** Coming meetings take on what the entry says now. Gives the days of those that stay where the rule gives none. */
async function followEntry(tx: Db, id: string, was: { turned: boolean; title: string; time: string }, today: string): Promise<string[]> {
  const now = await tx.selectFrom('series').selectAll().where('id', '=', id).executeTakeFirstOrThrow();
  const coming = await whole(tx).selectFrom('meetings').selectAll().where('series_id', '=', id).where('date', '>=', today).execute();
  const given = new Set(
    daysOf(now.rule, now.starts_on, {
      from: today,
      to:
        coming
          .map((m) => m.date)
          .sort()
          .at(-1) ?? today,
    }),
  );
  const stayed: string[] = [];
  for (const m of coming) {
    const byRule = m.slot === m.date && m.cancelled_at === null;
    if (was.turned && byRule && !given.has(m.date)) {
      if (await isBare(tx, m.id)) {
        await removeBare(tx, m.id);
        continue;
      }
      stayed.push(m.date);
    }
    await tx
      .updateTable('meetings')
      .set({ title: m.title === was.title ? now.title : m.title, time: m.time === was.time ? now.time : m.time, minutes: now.minutes, place: now.place, visibility: now.visibility })
      .where('id', '=', m.id)
      .execute();
  }
  return stayed;
}

/** Puts the next meetings of a series into the calendar, where its rule gives more than there are. Gives the new days. */
export async function fillAhead(tx: Db, id: string, today: string): Promise<string[]> {
  const s = await tx.selectFrom('series').selectAll().where('id', '=', id).executeTakeFirstOrThrow();
  if (s.ended_on !== null) return [];
  const there = await whole(tx).selectFrom('meetings').select(['slot', 'date']).where('series_id', '=', id).execute();
  const taken = new Set(there.flatMap((m) => [m.slot, m.date]));
  const days = daysOf(s.rule, s.starts_on, { from: today, count: AHEAD }).filter((day) => !taken.has(day));
  for (const date of days) await tx.insertInto('meetings').values({ project_id: s.project_id, series_id: id, title: s.title, date, slot: date, time: s.time, minutes: s.minutes, number: null, place: s.place, visibility: s.visibility, sifted_at: null, next: null, author_id: null }).execute();
  await renumber(tx, id, today);
  return days;
}

/** Coming meetings are counted on from the last one that was; a cancelled one has no number. */
async function renumber(tx: Db, id: string, today: string): Promise<void> {
  const all = await whole(tx)
    .selectFrom('meetings as m')
    .select((eb) => ['m.id', 'm.number', 'm.cancelled_at', eb.exists(eb.selectFrom('records').select('records.id').whereRef('records.meeting_id', '=', 'm.id')).as('recorded'), 'm.date'])
    .where('m.series_id', '=', id)
    .orderBy('m.date')
    .orderBy('m.id')
    .execute();
  let n = 0;
  for (const m of all) {
    const settled = m.date < today || m.recorded === 1;
    const number = m.cancelled_at !== null ? null : settled ? m.number : n + 1;
    if (number !== null) n = number;
    if (number !== m.number) await tx.updateTable('meetings').set({ number }).where('id', '=', m.id).execute();
  }
}

/** Puts the next meetings of every running series into the calendar. Gives how many were new. */
export async function fillEverySeries(db: Db, today: string): Promise<number> {
  const running = await db.selectFrom('series as s').innerJoin('projects as p', 'p.id', 's.project_id').select('s.id').where('s.ended_on', 'is', null).where('p.archived_at', 'is', null).execute();
  let n = 0;
  for (const { id } of running) n += (await db.transaction().execute((tx) => fillAhead(tx, id, today))).length;
  return n;
}

/** Ends a series: what is to come and bare is taken out of the calendar, what was held stays. Undone by going on. */
export async function endSeries(ws: Workspace, id: string, how: 'end' | 'go on'): Promise<{ days: string[] }> {
  return ws.transaction(async (ws) => {
    await rowOf(ws, id);
    if (how === 'go on') {
      await ws.db.updateTable('series').set({ ended_on: null }).where('id', '=', id).execute();
      return { days: await fillAhead(ws.db, id, ws.today) };
    }
    const coming = await whole(ws.db).selectFrom('meetings').select(['id', 'date']).where('series_id', '=', id).where('date', '>', ws.today).where('cancelled_at', 'is', null).execute();
    const days: string[] = [];
    for (const m of coming) {
      if (!(await isBare(ws.db, m.id))) continue;
      await removeBare(ws.db, m.id);
      days.push(m.date);
    }
    await ws.db.updateTable('series').set({ ended_on: ws.today }).where('id', '=', id).execute();
    return { days };
  });
}

export const MeetingChangeSchema = z.discriminatedUnion('do', [
  /** `when` as people say it: Friday at 9:00 */
  z.object({ do: z.literal('move'), when: z.string().max(200) }),
  z.object({ do: z.literal('cancel') }),
  z.object({ do: z.literal('hold after all') }),
]);

/** Where a meeting is now, where it was before, and who was told of it as it was. */
export interface MeetingChanged {
  date: string;
  time: string | null;
  cancelled: boolean;
  before: { date: string; time: string | null };
  /** names of those whose invitation has gone: they still have the old day */
  invited: string[];
}

/** Moves one meeting to another day or time, cancels it, or holds it after all. One that has a record stays as it was held. */
export async function changeMeeting(ws: Workspace, id: number, change: z.infer<typeof MeetingChangeSchema>): Promise<MeetingChanged> {
  return ws.transaction(async (ws) => {
    const m = await ws.db.selectFrom('meetings').selectAll().where('id', '=', id).executeTakeFirst();
    mustSee(ws, m?.project_id, 'meeting');
    const { date, time, series_id } = m!;
    if (await ws.db.selectFrom('records').select('id').where('meeting_id', '=', id).executeTakeFirst()) throw new Refusal('conflict', 'This meeting was held: it has a record.', 'It stays on its day.');
    const to = change.do === 'move' ? readWhen(change.when, ws.today) : { date, time };
    if (!to) throw new Refusal('bad-input', `“${change.do === 'move' ? change.when : ''}” names no day.`, 'Type a day, with a time if that changes too: Friday at 9:00.');
    if (change.do === 'move' && to.date < ws.today) throw new Refusal('bad-input', `${to.date} is past.`, 'A meeting is moved to a day to come.');
    const clash = series_id === null ? undefined : await whole(ws.db).selectFrom('meetings').select('id').where('series_id', '=', series_id).where('date', '=', to.date).where('id', '!=', id).where('cancelled_at', 'is', null).executeTakeFirst();
    if (clash && change.do !== 'cancel') throw new Refusal('conflict', `The series meets on ${to.date} already.`, 'Choose another day.');
    await ws.db
      .updateTable('meetings')
      .set({ date: to.date, time: to.time ?? time, cancelled_at: change.do === 'cancel' ? new Date().toISOString() : null })
      .where('id', '=', id)
      .execute();
    if (series_id !== null) await renumber(ws.db, series_id, ws.today);
    const invited = await ws.db.selectFrom('letters as l').innerJoin('letter_recipients as r', 'r.letter_id', 'l.id').innerJoin('people as p', 'p.id', 'r.person_id').select('p.name').where('l.sitting_id', '=', id).where('r.state', 'in', ['queued', 'sending', 'sent']).orderBy('p.name').execute();
    return { date: to.date, time: to.time ?? time, cancelled: change.do === 'cancel', before: { date, time }, invited: [...new Set(invited.map((p) => p.name))] };
  });
}
