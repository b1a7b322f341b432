import { type RawBuilder, sql } from 'kysely';
import type { IsoDate } from '../../core/dates/calendar.ts';
import { type FindQuery, matchOf, type PassageKind, type Term } from '../../core/find/query.ts';
import { scorer } from '../../core/find/rank.ts';
import { meantBy } from '../../core/find/typing.ts';
import { fold } from '../../core/language/fold.ts';
import type { Workspace } from '../people/workspace.ts';
import { visible } from '../people/workspace.ts';

/** A passage that was found, before its words are fetched. */
export interface Candidate {
  id: number;
  kind: PassageKind;
  source: number;
  project: string;
  meeting: number | null;
  person: string | null;
  voice: string | null;
  on: IsoDate;
  start: number | null;
  score: number;
}

/** Of all passages that have the words the newest so many are weighed against each other: where there are more, the words tell little. */
export const WEIGHED = 1000;

/** What a search is narrowed to, as a condition on passages, and the people its words may name. */
export interface Narrowed {
  where: RawBuilder<boolean>;
  /** people by the words of their names, in small letters */
  names: ReadonlyMap<string, readonly string[]>;
}

/** The filters of a query, among what whoever asks may see. */
export async function narrowed(ws: Workspace, query: FindQuery): Promise<Narrowed> {
  const { filters: f } = query;
  const conditions: RawBuilder<boolean>[] = [sql<boolean>`p.project_id IN (${sql.join(visible(ws))})`, sql<boolean>`(p.kind != 'jotting' OR p.person_id = ${ws.asker.person})`];
  const among = (column: string, ids: readonly (string | number)[]) => conditions.push(ids.length ? sql<boolean>`${sql.ref(column)} IN (${sql.join(ids)})` : sql<boolean>`0`);
  const people = await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.name']).distinct().where('m.project_id', 'in', visible(ws)).execute();
  if (f.project !== null && fold(f.project) !== 'all') {
    const rows = await ws.db.selectFrom('projects').select(['id', 'name']).where('id', 'in', visible(ws)).execute();
    among(
      'p.project_id',
      matching(rows, f.project, (r) => r.name).map((r) => r.id),
    );
  }
  if (f.who !== null) {
    const ids = fold(f.who) === 'me' ? [ws.asker.person] : matching(people, f.who, (r) => r.name).map((r) => r.id);
    conditions.push(ids.length ? sql<boolean>`p.person_id IN (${sql.join(ids)})` : sql<boolean>`p.voice = ${f.who}`);
  }
  if (f.in !== null) {
    const rows = await ws.db.selectFrom('meetings as m').leftJoin('series as s', 's.id', 'm.series_id').select(['m.id', 'm.title', 's.title as series', 's.short']).where('m.project_id', 'in', visible(ws)).execute();
    among(
      'p.meeting_id',
      matching(rows, f.in, (r) => `${r.title} ${r.series ?? ''} ${r.short ?? ''}`).map((r) => r.id),
    );
  }
  if (f.kind) conditions.push(sql<boolean>`p.kind = ${f.kind}`);
  // passages are numbered as they come: the first and last number of a time keep the engine from looking at all others
  if (f.when?.from) conditions.push(sql<boolean>`p.on_day >= ${f.when.from}`, sql<boolean>`passages_fts.rowid >= (SELECT min(id) FROM passages WHERE on_day >= ${f.when.from})`);
  if (f.when?.to) conditions.push(sql<boolean>`p.on_day <= ${f.when.to}`, sql<boolean>`passages_fts.rowid <= (SELECT max(id) FROM passages WHERE on_day <= ${f.when.to})`);
  return { where: sql<boolean>`${sql.join(conditions, sql` AND `)}`, names: namesOf(people) };
}

const matching = <T>(rows: readonly T[], part: string, name: (row: T) => string) => rows.filter((r) => fold(name(r)).includes(fold(part.trim())));

function namesOf(people: readonly { id: string; name: string }[]): Map<string, string[]> {
  const out = new Map<string, string[]>();
  for (const p of people) for (const word of fold(p.name).split(/[\s-]+/)) if (word.length > 1) out.set(word, [...(out.get(word) ?? []), p.id]);
  return out;
}

const COLUMNS = ['p.id', 'p.kind', 'p.source', 'p.project_id as project', 'p.meeting_id as meeting', 'p.person_id as person', 'p.voice', 'p.on_day as on', 'p.start'] as const;

/** Passages joined with the words that are asked of them. */
const found = (ws: Workspace, match: string) =>
  ws.db
    .selectFrom('passages_fts')
    .innerJoin('passages as p', (j) => j.on(sql<boolean>`p.id = passages_fts.rowid`))
    .where(sql<boolean>`passages_fts MATCH ${match}`);

/**
 * Passages that have what a query asks for, unordered.
 * @param any that one of its terms is enough
 */
export async function candidatesOf(ws: Workspace, query: Pick<FindQuery, 'all' | 'none' | 'filters'>, { where, names }: Narrowed, any = false): Promise<Candidate[]> {
  const match = matchOf(query, any);
  if (match === null) {
    // filters alone: what fits them, the newest first
    if (query.none.length || Object.values(query.filters).every((f) => f === null)) return [];
    const rows = await ws.db
      .selectFrom('passages as p')
      .innerJoin('passages_fts', (j) => j.on(sql<boolean>`passages_fts.rowid = p.id`))
      .select(COLUMNS)
      .where(where)
      .orderBy('p.on_day', 'desc')
      .orderBy('p.id', 'desc')
      .limit(WEIGHED)
      .execute();
    return rows.map((r) => ({ ...r, score: 0 }));
  }
  const score = scorer(ws.today);
  const weighed = async (match: string, also: RawBuilder<boolean> = sql<boolean>`1`) =>
    (
      await found(ws, match)
        .select(COLUMNS)
        // the words a commitment rests on count less than its own
        .select(sql<number>`bm25(passages_fts, 1.0, 0.4)`.as('bm25'))
        .where(where)
        .where(also)
        .orderBy(sql`passages_fts.rowid`, 'desc')
        .limit(WEIGHED)
        .execute()
    ).map(({ bm25, ...r }) => ({ ...r, score: score({ kind: r.kind, on: r.on, bm25 }) }));
  const all = await weighed(match);
  const spoken = speakerIn(query, names);
  if (!spoken) return all;
  // “plinth Dele” is also what Dele said of the plinth
  const bySpeaker = await weighed(matchOf(spoken.rest)!, sql<boolean>`p.person_id IN (${sql.join(spoken.people)})`);
  const known = new Set(all.map((c) => c.id));
  return [...all, ...bySpeaker.filter((c) => !known.has(c.id))];
}

/** Somebody a word of the query names, and the query without that word; null where nobody is named or nothing else is asked. */
function speakerIn(query: Pick<FindQuery, 'all' | 'none'>, names: Narrowed['names']): { people: readonly string[]; rest: Pick<FindQuery, 'all' | 'none'> } | null {
  const at = query.all.findIndex(([t, ...more]) => more.length === 0 && t?.is === 'word' && names.has(fold(t.word)));
  if (at < 0 || query.all.length < 2) return null;
  const term = query.all[at]![0]! as Term & { is: 'word' };
  return { people: names.get(fold(term.word))!, rest: { all: query.all.filter((_, i) => i !== at), none: query.none } };
}

/** Puts words that are nowhere right, in the query itself, where a word near to them is found by whoever asks. @param slips most letters that may be wrong */
export async function asMeant(ws: Workspace, query: FindQuery, narrow: Narrowed, slips = 2): Promise<{ typed: string; taken: string }[]> {
  const out: { typed: string; taken: string }[] = [];
  for (const terms of query.all) {
    const [t] = terms;
    if (terms.length !== 1 || t?.is !== 'word' || (await exists(ws, t, narrow))) continue;
    const other = (await nearTo(ws, t.word, true, narrow, slips)) ?? (await nearTo(ws, t.word, false, narrow, slips));
    if (!other) continue;
    out.push({ typed: t.word, taken: other });
    terms[0] = { is: 'word', word: other, prefix: false };
  }
  return out;
}

/** @param sameStart that the first letter is taken to be right, as it nearly always is: few words are looked at then */
async function nearTo(ws: Workspace, word: string, sameStart: boolean, narrow: Narrowed, slips: number): Promise<string | null> {
  const first = word[0]!;
  const known = await ws.db
    .selectFrom('passage_words')
    .select('word')
    .where(sql<boolean>`length(word) BETWEEN ${word.length - 3} AND ${word.length + 2}`)
    .$if(sameStart, (q) => q.where('word', '>=', first).where('word', '<', String.fromCodePoint(first.codePointAt(0)! + 1)))
    .execute();
  for (const near of meantBy(
    word,
    known.map((k) => k.word),
    slips,
  ))
    if (await exists(ws, { is: 'word', word: near, prefix: false }, narrow)) return near;
  return null;
}

/** Whether a word stands anywhere whoever asks may look: what others know is not given away by a guess. */
async function exists(ws: Workspace, term: Term, { where }: Narrowed): Promise<boolean> {
  const row = await found(ws, matchOf({ all: [[term]], none: [] })!)
    .select('p.id')
    .where(where)
    .limit(1)
    .executeTakeFirst();
  return row !== undefined;
}
