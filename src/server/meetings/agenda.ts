import { z } from 'zod';
import { isLate } from '../../core/ledger/predicates.ts';
import { forecastOf } from '../../core/measures/forecast.ts';
import { buildAgenda, type Fitted, fitAgenda, type Point, reviewOrder } from '../../core/meetings/agenda.ts';
import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import { measured } from '../ledger/measured.ts';
import { registerOf } from '../ledger/registers.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { type MeetingRow, meetingRow } from './meetings.ts';

/** A meeting without a length is planned for an hour. */
export const USUAL_LENGTH = 60;

/** A point as the agenda shows it; those of an agenda nobody has touched yet have no number. */
export interface AgendaPoint extends Point {
  id: number | null;
  note: string;
  by: string | null;
}

export interface AgendaShown {
  meeting: number;
  minutes: number;
  /** somebody has changed it: it no longer follows what is open */
  kept: boolean;
  points: Fitted<AgendaPoint>['points'];
  free: number;
  without: string[];
  /** what is reviewed, by who holds it, the most doubtful first */
  review: { owner: string; rows: { id: number; ref: string; text: string; due: string | null; late: boolean; miss: number | null }[] }[];
  /** what stands on every agenda of the series; null for a single meeting */
  standing: { title: string; minutes: number }[] | null;
  history: { at: string; by: string; what: string }[];
}

/** The agenda of a meeting: as somebody left it, or built from what is open. */
export async function agendaOf(ws: Workspace, id: number): Promise<AgendaShown> {
  const m = await meetingRow(ws, id);
  const minutes = m.minutes ?? USUAL_LENGTH;
  const { open, groups } = await reviewed(ws, m);
  const kept = await pointsOf(ws, id);
  const points: AgendaPoint[] = kept.length ? kept : (await built(ws, m, minutes, open)).map((p) => ({ ...p, id: null, note: '', by: null }));
  const { points: fitted, free, without } = fitAgenda(points, minutes);
  const history = await ws.db.selectFrom('agenda_changes as c').innerJoin('people as p', 'p.id', 'c.by_person').select(['c.at', 'p.name as by', 'c.what']).where('c.meeting_id', '=', id).orderBy('c.id', 'desc').limit(40).execute();
  return { meeting: id, minutes, kept: kept.length > 0, points: fitted, free, without: without.map((p) => p.title), review: groups, standing: m.series === null ? null : await standingOf(ws, m.series), history };
}

/** The points of an agenda that somebody keeps, in order. */
export async function pointsOf(ws: Workspace, meeting: number): Promise<(AgendaPoint & { id: number })[]> {
  const rows = await ws.db.selectFrom('agenda_points as a').innerJoin('people as p', 'p.id', 'a.by_person').selectAll('a').select('p.name').where('a.meeting_id', '=', meeting).where('a.removed_at', 'is', null).orderBy('a.position').orderBy('a.id').execute();
  return rows.map((r) => ({ id: r.id, kind: r.kind, title: r.title, minutes: r.minutes, why: r.why, about: r.about, note: r.note, by: r.name }));
}

const standingOf = (ws: Workspace, series: string) => ws.db.selectFrom('series_agenda').select(['title', 'minutes']).where('series_id', '=', series).orderBy('position').execute();

/** Commitments that are brought to a meeting: those of its series, or of a single meeting those of the people asked to it. */
async function reviewed(ws: Workspace, m: MeetingRow): Promise<{ open: LedgerRow[]; groups: AgendaShown['review'] }> {
  const all = await ledgerRows(ws, { project: m.project, state: 'open', lives: false });
  const there = new Set(m.series === null ? (await ws.db.selectFrom('attendance').select('person_id').where('meeting_id', '=', m.id).execute()).map((a) => a.person_id) : []);
  const open = all.filter((r) => (m.series === null ? r.owner.some((o) => there.has(o.id)) : r.series === m.series) && (r.putOff === null || r.putOff <= ws.today) && r.madeOn < m.date);
  const misses = new Map(forecastOf(await measured(ws, { project: m.project, series: null, person: null }), ws.today).misses.map((x) => [x.id, x.miss]));
  const groups = reviewOrder(open.map((r) => ({ id: r.id, owner: r.owner.map((o) => o.name), late: isLate(r, ws.today), miss: misses.get(r.id) ?? null, row: r })));
  return { open, groups: groups.map((g) => ({ owner: g.owner || 'nobody yet', rows: g.brought.map((b) => ({ id: b.id, ref: b.row.ref, text: b.row.text, due: b.row.due, late: b.late, miss: b.miss })) })) };
}

async function built(ws: Workspace, m: MeetingRow, minutes: number, open: readonly LedgerRow[]): Promise<Point[]> {
  const last = m.series === null ? undefined : await ws.db.selectFrom('meetings').select(['id', 'date']).where('series_id', '=', m.series).where('date', '<', m.date).where('cancelled_at', 'is', null).orderBy('date', 'desc').limit(1).executeTakeFirst();
  const held = last === undefined ? false : (await ws.db.selectFrom('live_marks').select('id').where('meeting_id', '=', last.id).executeTakeFirst()) !== undefined;
  // what was never talked about in a meeting that was held here
  const missed = held
    ? await ws.db
        .selectFrom('agenda_points as a')
        .select(['a.id', 'a.title', 'a.minutes'])
        .where('a.meeting_id', '=', last!.id)
        .where('a.removed_at', 'is', null)
        .where('a.kind', 'in', ['own', 'carried', 'question'])
        .where(({ not, exists, selectFrom }) => not(exists(selectFrom('live_marks as k').select('k.id').whereRef('k.point_id', '=', 'a.id').where('k.kind', 'in', ['point', 'tick']))))
        .orderBy('a.position')
        .execute()
    : [];
  const series = m.series;
  const questions = (await registerOf(ws, m.project, 'question')).filter((q) => q.open && q.on < m.date);
  const own = series === null ? [] : await questionsOf(ws, series, questions);
  return buildAgenda({
    today: ws.today,
    minutes,
    open: open.map((r) => ({ id: r.id, owner: r.owner.map((o) => o.id), late: isLate(r, ws.today), miss: null })),
    questions: own.map((q) => ({ ref: q.ref, text: q.text, on: q.on })),
    missed: missed.map((p) => ({ ...p, on: last!.date })),
    standing: series === null ? [] : await standingOf(ws, series),
  });
}

/** Open questions that came up in meetings of a series. */
async function questionsOf<T extends { meeting: { id: number } }>(ws: Workspace, series: string, questions: readonly T[]): Promise<T[]> {
  const ids = new Set((await ws.db.selectFrom('meetings').select('id').where('series_id', '=', series).execute()).map((m) => m.id));
  return questions.filter((q) => ids.has(q.meeting.id));
}

const Title = z.string().trim().min(2, 'needs words').max(200);
const Minutes = z.number().int().min(1).max(600);

export const AgendaChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('add'), title: Title, minutes: Minutes.default(5) }),
  z.object({ do: z.literal('edit'), at: z.number().int().min(0), title: Title, minutes: Minutes, note: z.string().trim().max(2000) }),
  z.object({ do: z.literal('move'), at: z.number().int().min(0), to: z.number().int().min(0) }),
  z.object({ do: z.literal('remove'), at: z.number().int().min(0) }),
  z.object({ do: z.literal('put back'), point: z.number().int() }),
  /** built anew from what is open; what people added stays */
  z.object({ do: z.literal('build') }),
  z.object({ do: z.literal('standing'), points: z.array(z.object({ title: Title, minutes: Minutes })).max(30) }),
]);
export type AgendaChange = z.infer<typeof AgendaChangeSchema>;

/** Changes an agenda. The first change keeps it as it was built, so that it is everybody's from then on. */
export async function changeAgenda(ws: Workspace, id: number, change: AgendaChange, now: Date): Promise<AgendaShown & { removed: number | null }> {
  const m = await meetingRow(ws, id);
  const removed = await ws.transaction(async (ws) => {
    if (change.do === 'standing') {
      if (m.series === null) throw new Refusal('bad-input', 'This meeting is in no series.', 'Only a series has points that stand every time.');
      await ws.db.deleteFrom('series_agenda').where('series_id', '=', m.series).execute();
      for (const [position, p] of change.points.entries())
        await ws.db
          .insertInto('series_agenda')
          .values({ series_id: m.series, position, ...p })
          .execute();
      await note(ws, id, null, `what stands every time: ${change.points.map((p) => p.title).join(', ') || 'nothing'}`, now);
      return null;
    }
    if (change.do === 'build') {
      await ws.db.updateTable('agenda_points').set({ removed_at: now.toISOString() }).where('meeting_id', '=', id).where('kind', '!=', 'own').where('removed_at', 'is', null).execute();
      const own = await pointsOf(ws, id);
      await keepPoints(ws, id, own.length ? await builtWith(ws, m) : [], own.length);
      if (own.length === 0) await ws.db.updateTable('agenda_points').set({ removed_at: now.toISOString() }).where('meeting_id', '=', id).where('removed_at', 'is', null).execute();
      await note(ws, id, null, 'built anew from what is open', now);
      return null;
    }
    const points = await keptPoints(ws, m);
    if (change.do === 'put back') {
      const back = await ws.db.updateTable('agenda_points').set({ removed_at: null }).where('id', '=', change.point).where('meeting_id', '=', id).where('removed_at', 'is not', null).returning('title').executeTakeFirst();
      if (!back) throw new Refusal('conflict', 'That point is on the agenda already.');
      await note(ws, id, change.point, `“${back.title}” put back`, now);
      return null;
    }
    if (change.do === 'add') {
      const readBack = points.find((p) => p.kind === 'read-back');
      const position = readBack ? readBack.position - 0.5 : (points.at(-1)?.position ?? 0) + 1;
      const { id: point } = await ws.db.insertInto('agenda_points').values({ meeting_id: id, position, kind: 'own', title: change.title, minutes: change.minutes, why: '', about: null, by_person: ws.asker.person }).returning('id').executeTakeFirstOrThrow();
      await renumber(ws, id);
      await note(ws, id, point, `“${change.title}” added`, now);
      return null;
    }
    const point = points[change.at];
    if (!point) throw new Refusal('conflict', 'That point is not on the agenda any more.', 'It is shown now as it stands.');
    if (change.do === 'edit') {
      await ws.db.updateTable('agenda_points').set({ title: change.title, minutes: change.minutes, note: change.note }).where('id', '=', point.id).execute();
      const what = [point.title === change.title ? null : `“${point.title}” is called “${change.title}”`, point.minutes === change.minutes ? null : `“${change.title}” gets ${change.minutes} min instead of ${point.minutes}`, point.note === change.note ? null : `note on “${change.title}”`].filter(Boolean).join('; ');
      if (what) await note(ws, id, point.id, what, now);
      return null;
    }
    if (change.do === 'remove') {
      await ws.db.updateTable('agenda_points').set({ removed_at: now.toISOString() }).where('id', '=', point.id).execute();
      await note(ws, id, point.id, `“${point.title}” taken out`, now);
      return point.id;
    }
    const to = Math.min(change.to, points.length - 1);
    const others = points.filter((p) => p.id !== point.id);
    const position = to === 0 ? others[0]!.position - 1 : to >= others.length ? others.at(-1)!.position + 1 : (others[to - 1]!.position + others[to]!.position) / 2;
    if (others.length === 0 || to === change.at) return null;
    await ws.db.updateTable('agenda_points').set({ position }).where('id', '=', point.id).execute();
    await renumber(ws, id);
    await note(ws, id, point.id, `“${point.title}” moved to place ${to + 1}`, now);
    return null;
  });
  return { ...(await agendaOf(ws, id)), removed };
}

const note = (ws: Workspace, meeting: number, point: number | null, what: string, now: Date) => ws.db.insertInto('agenda_changes').values({ meeting_id: meeting, point_id: point, what, at: now.toISOString(), by_person: ws.asker.person }).execute();

const builtWith = async (ws: Workspace, m: MeetingRow): Promise<Point[]> => built(ws, m, m.minutes ?? USUAL_LENGTH, (await reviewed(ws, m)).open);

/** The points of an agenda, kept from now on where they were only built. */
export async function keptPoints(ws: Workspace, m: MeetingRow): Promise<{ id: number; kind: Point['kind']; title: string; minutes: number; note: string; position: number }[]> {
  const rows = () => ws.db.selectFrom('agenda_points').select(['id', 'kind', 'title', 'minutes', 'note', 'position']).where('meeting_id', '=', m.id).where('removed_at', 'is', null).orderBy('position').orderBy('id').execute();
  const there = await rows();
  if (there.length) return there;
  await keepPoints(ws, m.id, await builtWith(ws, m), 0);
  return rows();
}

/** What was built goes before what people added, and the read-back after it. */
async function keepPoints(ws: Workspace, meeting: number, points: readonly Point[], added: number): Promise<void> {
  for (const [n, p] of points.entries()) {
    const position = p.kind === 'read-back' ? points.length + added + 1 : n - points.length;
    await ws.db
      .insertInto('agenda_points')
      .values({ meeting_id: meeting, position, ...p, by_person: ws.asker.person })
      .execute();
  }
  await renumber(ws, meeting);
}

async function renumber(ws: Workspace, meeting: number): Promise<void> {
  const rows = await ws.db.selectFrom('agenda_points').select('id').where('meeting_id', '=', meeting).where('removed_at', 'is', null).orderBy('position').orderBy('id').execute();
  for (const [position, { id }] of rows.entries()) await ws.db.updateTable('agenda_points').set({ position }).where('id', '=', id).execute();
}
