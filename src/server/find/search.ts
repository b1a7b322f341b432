import type { IsoDate } from '../../core/dates/calendar.ts';
import { readFindQuery, type Term } from '../../core/find/query.ts';
import type { Workspace } from '../people/workspace.ts';
import { asMeant, type Candidate, candidatesOf, narrowed, WEIGHED } from './candidates.ts';
import { type Facets, facetsOf } from './facets.ts';
import { grouped, type Hit, hitsOf, letterOfAnswers, titlesOf } from './hits.ts';
import { freshen } from './index.ts';

/** Places of one meeting, one letter, or one day's jottings. */
export interface Group {
  key: string;
  title: string;
  on: IsoDate;
  project: string;
  hits: Hit[];
  /** places there are beside those shown */
  more: number;
}

export interface Found {
  groups: Group[];
  /** groups there are beside those shown */
  moreGroups: number;
  total: number;
  /** there may be older ones, which were not looked at */
  capped: boolean;
  facets: Facets;
  /** words that are nowhere, and what was looked for in their place */
  meant: { typed: string; taken: string }[];
  /** no passage has all of the words: these have some of them */
  loosened: boolean;
  wrong: string[];
}

export const ORDERS = ['best', 'newest'] as const;
export type Order = (typeof ORDERS)[number];

/** Groups that are shown, places of each, and places of one that is unfolded. */
const [GROUPS, A_GROUP, UNFOLDED] = [20, 4, 200];

/**
 * Finds passages in everything whoever asks may see: those that have all that is asked for; where there are none, words that
 * are nowhere are read as one near to them, and then as much as there is.
 *
 * @param how.typing that the last word is still being typed
 * @param how.open   key of the group that is shown whole
 */
export async function find(ws: Workspace, text: string, how: { order?: Order | undefined; typing?: boolean; open?: string | undefined } = {}): Promise<Found> {
  await freshen(ws.db);
  const query = readFindQuery(text, ws.today, how.typing ?? false);
  const narrow = await narrowed(ws, query);
  let candidates = await candidatesOf(ws, query, narrow);
  let meant: Found['meant'] = [];
  let loosened = false;
  if (candidates.length === 0 && query.all.length) {
    meant = await asMeant(ws, query, narrow);
    if (meant.length) candidates = await candidatesOf(ws, query, narrow);
    if (candidates.length === 0 && query.all.length > 1) {
      candidates = await candidatesOf(ws, query, narrow, true);
      loosened = candidates.length > 0;
    }
  }
  inOrder(candidates, how.order ?? (query.all.length ? 'best' : 'newest'));
  const groups = grouped(candidates, await letterOfAnswers(ws, candidates));
  return {
    groups: await shown(ws, groups.slice(0, GROUPS), query.all.flat(), how.open),
    moreGroups: Math.max(0, groups.length - GROUPS),
    total: candidates.length,
    capped: candidates.length >= WEIGHED,
    facets: await facetsOf(ws, candidates),
    meant,
    loosened,
    wrong: query.wrong,
  };
}

function inOrder(candidates: Candidate[], order: Order): void {
  const newer = (a: Candidate, b: Candidate) => (a.on < b.on ? 1 : a.on > b.on ? -1 : b.id - a.id);
  candidates.sort((a, b) => (order === 'newest' ? newer(a, b) : b.score - a.score || newer(a, b)));
}

async function shown(ws: Workspace, groups: readonly { key: string; all: Candidate[] }[], terms: readonly Term[], open: string | undefined): Promise<Group[]> {
  const some = groups.map((g) => ({ ...g, own: g.all.slice(0, g.key === open ? UNFOLDED : A_GROUP) }));
  const titles = await titlesOf(ws, groups);
  const hits = await hitsOf(
    ws,
    some.flatMap((g) => g.own),
    terms,
  );
  // inside a meeting in the order in which it was said
  const said = (a: Hit, b: Hit) => (a.start ?? -1) - (b.start ?? -1) || a.id - b.id;
  return some.map((g) => ({ key: g.key, title: titles.get(g.key) ?? '', on: g.all[0]!.on, project: g.all[0]!.project, hits: g.own.flatMap((c) => hits.get(c.id) ?? []).sort(said), more: g.all.length - g.own.length }));
}
