import { z } from 'zod';
import { addDays, daysBetween, isIsoDate } from '../../core/dates/calendar.ts';
import { turnsOf } from '../../core/gist/turns.ts';
import { type AgeRow, agesOf, medianAge } from '../../core/measures/ages.ts';
import { type Answering, answeringOf } from '../../core/measures/answers.ts';
import { behindOf, POINTS } from '../../core/measures/behind.ts';
import { type FlowPoint, flowOf } from '../../core/measures/flow.ts';
import { type Forecast, forecastOf } from '../../core/measures/forecast.ts';
import { type Kept, keptBy } from '../../core/measures/kept.ts';
import { counts, type Measured } from '../../core/measures/measured.ts';
import { type MeetingWeek, meetingWeeks } from '../../core/measures/meetings.ts';
import { type Slips, slipsOf } from '../../core/measures/slips.ts';
import { naiveMedian, type Survival, survivalOf } from '../../core/measures/survival.ts';
import { type TalkMeasures, talkMeasures } from '../../core/measures/talk.ts';
import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import { type MeasuredOf, measured } from '../ledger/measured.ts';
import type { Workspace } from '../people/workspace.ts';
import { visible } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { spokenRecord } from '../store/segments.ts';

/** What the figures are narrowed to. */
export interface MeasuresAsked {
  /** one project, or all of them */
  projects: 'this' | 'all';
  series: string | null;
  person: string | null;
  /** from this day on: what was made, was due, was held and was sent since */
  since: string | null;
}

export interface Named {
  id: string;
  name: string;
}

export interface MeasuresShown {
  today: string;
  asked: MeasuresAsked;
  from: string;
  series: Named[];
  people: Named[];
  /** how many were made, done, dropped and are open */
  totals: { made: number; done: number; dropped: number; open: number; late: number };
  flow: FlowPoint[];
  /** days from one point of the flow to the next */
  step: number;
  ages: { weeks: number; open: { ref: string; href: string; late: boolean; loose: boolean }[]; more: number }[];
  medianAge: number | null;
  kept: { all: Kept; month: Kept[]; owner: Kept[]; series: Kept[] };
  survival: Survival & { naive: number | null };
  slips: Slips[];
  forecast: Omit<Forecast, 'misses'> & { misses: { ref: string; href: string; text: string; owner: string; due: string; miss: number }[] };
  meetings: MeetingWeek[];
  letters: Answering;
}

/** Refs that are shown of one age, and dates that are told to be doubtful. */
const [AGES, DOUBTFUL] = [24, 8];

/** Every figure of a project, a series or a person. */
export async function measuresPage(ws: Workspace, asked: MeasuresAsked): Promise<MeasuresShown> {
  const of = measuredOf(ws, asked);
  const all = await measured(ws, of);
  const first = all.map((c) => c.madeOn).sort()[0] ?? ws.today;
  const from = asked.since !== null && isIsoDate(asked.since) && asked.since <= ws.today ? asked.since : first;
  // what is told of a time goes by what was made or due in it; what is open is open whenever it was made
  const since = all.filter((c) => c.madeOn >= from);
  const due = all.filter((c) => c.due !== null && c.due >= from);
  const lasted = since.filter(counts).map((c) => ({ days: Math.max(0, daysBetween(c.madeOn, c.endedOn ?? ws.today)), ended: c.state === 'done' }));
  const kept = { month: keptBy(due, 'month', ws.today), owner: keptBy(due, 'owner', ws.today), series: keptBy(due, 'series', ws.today) };
  const flow = flowOf(all, from, ws.today);
  const forecast = forecastOf(all, ws.today);
  const projects = of.project === null ? visible(ws) : [of.project];
  const [series, people, meetings, letters] = await Promise.all([
    ws.db.selectFrom('series').select(['id', 'title as name']).where('project_id', 'in', projects).orderBy('title').execute(),
    ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.name']).distinct().where('m.project_id', 'in', projects).orderBy('p.name').execute(),
    meetingsOf(ws, of, projects, from),
    lettersOf(ws, of, projects, from),
  ]);
  return {
    today: ws.today,
    asked,
    from,
    series,
    people,
    totals: { made: since.filter(counts).length, done: since.filter((c) => c.state === 'done').length, dropped: since.filter((c) => c.state === 'dropped').length, open: flow.at(-1)?.open ?? 0, late: flow.at(-1)?.late ?? 0 },
    flow,
    step: flow.length > 1 ? daysBetween(flow[flow.length - 2]!.on, flow[flow.length - 1]!.on) : 1,
    ages: agesOf(all, ws.today).map((row) => ageShown(row, ws.today)),
    medianAge: medianAge(all, ws.today),
    kept: { all: kept.month.all, month: kept.month.rows, owner: kept.owner.rows.slice(0, 12), series: kept.series.rows.slice(0, 12) },
    survival: { ...survivalOf(lasted), naive: naiveMedian(lasted) },
    slips: slipsOf(since).slice(0, 12),
    forecast: { ...forecast, misses: await missesShown(ws, forecast) },
    meetings,
    letters,
  };
}

function measuredOf(ws: Workspace, asked: MeasuresAsked): MeasuredOf {
  return { project: asked.projects === 'all' ? null : ws.project, series: asked.series, person: asked.person };
}

const hrefOf = (c: { ref: string; project: string }) => `/ledger/${c.ref}?project=${encodeURIComponent(c.project)}`;

function ageShown(row: AgeRow, today: string): MeasuresShown['ages'][number] {
  return { weeks: row.weeks, more: Math.max(0, row.open.length - AGES), open: row.open.slice(0, AGES).map((c) => ({ ref: c.ref, href: hrefOf(c), late: c.due !== null && c.due < today, loose: c.loose })) };
}

async function missesShown(ws: Workspace, forecast: Forecast): Promise<MeasuresShown['forecast']['misses']> {
  const top = forecast.misses.slice(0, DOUBTFUL);
  const rows = new Map((await ledgerRows(ws, { state: 'all', ids: top.map((m) => m.id), lives: false })).map((r) => [r.id, r]));
  return top.flatMap((m) => {
    const r = rows.get(m.id);
    return r ? [{ ref: r.ref, href: hrefOf(r), text: r.text, owner: r.owner.map((o) => o.name).join(', ') || 'nobody', due: r.due!, miss: m.miss }] : [];
  });
}

async function meetingsOf(ws: Workspace, of: MeasuredOf, projects: readonly string[], from: string): Promise<MeetingWeek[]> {
  let query = ws.db
    .selectFrom('meetings as m')
    .select((eb) => [
      'm.id',
      'm.date as on',
      'm.series_id as series',
      'm.minutes',
      eb
        .selectFrom('attendance as a')
        .select(({ fn }) => fn.countAll<number>().as('n'))
        .whereRef('a.meeting_id', '=', 'm.id')
        .where('a.present', '=', 1)
        .as('there'),
    ])
    .where('m.project_id', 'in', [...projects])
    .where('m.date', '>=', from)
    .where('m.date', '<=', ws.today)
    .where('m.cancelled_at', 'is', null);
  if (of.series !== null) query = query.where('m.series_id', '=', of.series);
  if (of.person !== null) query = query.where('m.id', 'in', ws.db.selectFrom('attendance').select('meeting_id').where('person_id', '=', of.person).where('present', '=', 1));
  const rows = await query.execute();
  return meetingWeeks(
    rows.map((r) => ({ ...r, there: r.there ?? 0 })),
    from,
    ws.today,
  );
}

/** Letters that look for an answer, with the first answer to each. */
async function lettersOf(ws: Workspace, of: MeasuredOf, projects: readonly string[], from: string): Promise<Answering> {
  let query = ws.db
    .selectFrom('letter_recipients as r')
    .innerJoin('letters as l', 'l.id', 'r.letter_id')
    .leftJoin('people as p', 'p.id', 'r.person_id')
    .select((eb) => [
      'r.sent_at',
      'p.name',
      eb
        .selectFrom('replies as x')
        .select(({ fn }) => fn.min('x.received_at').as('at'))
        .whereRef('x.recipient_id', '=', 'r.id')
        .where('x.nature', '=', 'answer')
        .as('answered'),
    ])
    .where('l.project_id', 'in', [...projects])
    .where('r.sent_at', '>=', from)
    .where('r.person_id', 'is not', null)
    .where('l.kind', 'not in', ['round-up', 'thanks', 'invitation', 'escalation']);
  if (of.person !== null) query = query.where('r.person_id', '=', of.person);
  if (of.series !== null) query = query.where('l.id', 'in', ws.db.selectFrom('letter_items as i').innerJoin('commitments as c', 'c.id', 'i.commitment_id').select('i.letter_id').where('c.series_id', '=', of.series));
  const rows = await query.execute();
  return answeringOf(
    rows.map((r) => ({ on: r.sent_at!.slice(0, 10), to: r.name ?? '', answeredOn: r.answered === null ? null : String(r.answered).slice(0, 10) })),
    ws.today,
  );
}

export const BehindSchema = z.object({ point: z.enum(POINTS), key: z.string().max(140), projects: z.enum(['this', 'all']), series: z.string().max(140).nullable(), person: z.string().max(140).nullable(), from: z.string().refine(isIsoDate, 'is not a date'), days: z.coerce.number().int().min(1).max(400) });

/** Most commitments that are listed behind a point. */
const LISTED = 200;

/** The commitments behind a point of a figure. */
export async function behindPoint(ws: Workspace, asked: z.infer<typeof BehindSchema>): Promise<{ rows: Pick<LedgerRow, 'ref' | 'text' | 'owner' | 'due' | 'state' | 'project'>[]; more: number }> {
  const all = await measured(ws, measuredOf(ws, { ...asked, since: null }));
  const behind: Measured[] = behindOf(all, asked.point, asked.key, { from: asked.from, today: ws.today, days: asked.days });
  const rows = await ledgerRows(ws, { state: 'all', ids: behind.slice(0, LISTED).map((c) => c.id), lives: false });
  return { rows: rows.map(({ ref, text, owner, due, state, project }) => ({ ref, text, owner, due, state, project })), more: Math.max(0, behind.length - LISTED) };
}

/** Meetings of a series whose talk is measured, the last ones. */
const TALKS = 12;

/** Who spoke how long and what of, across the last meetings of a series. */
export async function talkPage(ws: Workspace, series: string): Promise<TalkMeasures> {
  const known = await ws.db.selectFrom('series').select('project_id').where('id', '=', series).where('project_id', 'in', visible(ws)).executeTakeFirst();
  if (!known) throw new Refusal('not-found', 'There is no such series.');
  const rows = await ws.db
    .selectFrom('records as r')
    .innerJoin('meetings as m', 'm.id', 'r.meeting_id')
    .select(['r.id', 'm.id as meeting', 'm.date'])
    .where('m.series_id', '=', series)
    .where('r.replaced_by', 'is', null)
    .where('r.gone_at', 'is', null)
    .where('m.date', '>=', addDays(ws.today, -400))
    .orderBy('m.date', 'desc')
    .orderBy('r.id')
    .execute();
  const people = await ws.db.selectFrom('people').select(['id', 'name']).execute();
  const talks = [];
  // of several records of a meeting the first one: the same words are not counted twice
  for (const r of rows
    .filter((r, i) => rows.findIndex((o) => o.meeting === r.meeting) === i)
    .slice(0, TALKS)
    .reverse())
    talks.push({ meeting: r.meeting, on: r.date, talk: turnsOf(await spokenRecord(ws.db, r.id, people)) });
  return talkMeasures(talks);
}
