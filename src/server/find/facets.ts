import { daysBetween, type IsoDate, startOfWeek } from '../../core/dates/calendar.ts';
import { PASSAGE_KINDS } from '../../core/find/query.ts';
import type { Workspace } from '../people/workspace.ts';
import { visible } from '../people/workspace.ts';
import type { Candidate } from './candidates.ts';

export interface Facet {
  /** what the search is narrowed to with it */
  key: string;
  name: string;
  n: number;
}

/** How places spread: by who, kind, series or meeting, and week or month. */
export interface Facets {
  who: Facet[];
  kind: Facet[];
  in: Facet[];
  when: { from: IsoDate; n: number }[];
  by: 'week' | 'month';
}

/** From so many days on weeks would stand too close to be told apart. */
const BY_MONTH = 200;
const MOST = 8;

export async function facetsOf(ws: Workspace, candidates: readonly Candidate[]): Promise<Facets> {
  const people = new Map((await ws.db.selectFrom('people').select(['id', 'name']).execute()).map((p) => [p.id, p.name]));
  const meetings = new Map((await ws.db.selectFrom('meetings as m').leftJoin('series as s', 's.id', 'm.series_id').select(['m.id', 'm.title', 's.title as series']).where('m.project_id', 'in', visible(ws)).execute()).map((m) => [m.id, m.series ?? m.title]));
  const days = counted(candidates, (c) => c.on);
  const inOrder = [...days.keys()].sort();
  const by = inOrder.length && daysBetween(inOrder[0]!, inOrder.at(-1)!) > BY_MONTH ? 'month' : 'week';
  const when = new Map<string, number>();
  for (const [day, n] of days) {
    const from = by === 'week' ? startOfWeek(day) : `${day.slice(0, 8)}01`;
    when.set(from, (when.get(from) ?? 0) + n);
  }
  return {
    who: listed(counted(candidates, (c) => (c.person === null ? c.voice : (people.get(c.person) ?? c.person)))),
    kind: PASSAGE_KINDS.map((k) => ({ key: k, name: k, n: candidates.filter((c) => c.kind === k).length })).filter((k) => k.n > 0),
    in: listed(counted(candidates, (c) => (c.meeting === null ? null : (meetings.get(c.meeting) ?? null)))),
    when: [...when].map(([from, n]) => ({ from, n })).sort((a, b) => (a.from < b.from ? -1 : 1)),
    by,
  };
}

function counted(candidates: readonly Candidate[], key: (c: Candidate) => string | null): Map<string, number> {
  const out = new Map<string, number>();
  for (const c of candidates) {
    const k = key(c);
    if (k !== null) out.set(k, (out.get(k) ?? 0) + 1);
  }
  return out;
}

const listed = (counts: ReadonlyMap<string, number>): Facet[] =>
  [...counts]
    .map(([name, n]) => ({ key: name, name, n }))
    .sort((a, b) => b.n - a.n || a.name.localeCompare(b.name))
    .slice(0, MOST);
