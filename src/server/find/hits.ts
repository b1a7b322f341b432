import { sql } from 'kysely';
import type { IsoDate } from '../../core/dates/calendar.ts';
import { marksOf } from '../../core/find/highlight.ts';
import { readCuts, segmentAt } from '../../core/find/passages.ts';
import type { PassageKind, Term } from '../../core/find/query.ts';
import { type Piece, snippetOf } from '../../core/find/snippet.ts';
import { listOf } from '../../core/language/days.ts';
import type { Workspace } from '../people/workspace.ts';
import type { Candidate } from './candidates.ts';

/** A place where the words were found. */
export interface Hit {
  id: number;
  kind: PassageKind;
  who: { id: string | null; name: string } | null;
  on: IsoDate;
  /** seconds from the start of the record */
  start: number | null;
  pieces: Piece[];
  /** a reference of the registers */
  ref: string | null;
  href: string;
}

/** Places of one meeting, one letter, or one day's jottings, before their words are fetched. */
export interface Grouped {
  key: string;
  all: Candidate[];
}

/** Passages by what they stand in, in the order in which the first of each comes. */
export function grouped(candidates: readonly Candidate[], letters: ReadonlyMap<number, number>): Grouped[] {
  const groups = new Map<string, Grouped>();
  for (const c of candidates) {
    const key = keyOf(c, letters);
    const g = groups.get(key);
    if (g) g.all.push(c);
    else groups.set(key, { key, all: [c] });
  }
  return [...groups.values()];
}

function keyOf(c: Candidate, letters: ReadonlyMap<number, number>): string {
  if (c.kind === 'letter') return `letter ${c.source}`;
  if (c.kind === 'answer') return letters.has(c.source) ? `letter ${letters.get(c.source)}` : `answer ${c.source}`;
  if (c.kind === 'jotting') return `jottings ${c.on}`;
  return c.meeting === null ? `hand ${c.project}` : `meeting ${c.meeting}`;
}

const among = (ids: readonly number[]) => JSON.stringify(ids);

/** The letter that each answer answers, so that both stand together. */
export async function letterOfAnswers(ws: Workspace, candidates: readonly Candidate[]): Promise<Map<number, number>> {
  const ids = candidates.filter((c) => c.kind === 'answer').map((c) => c.source);
  if (ids.length === 0) return new Map();
  const rows = await ws.db
    .selectFrom('replies as r')
    .innerJoin('letter_recipients as l', 'l.id', 'r.recipient_id')
    .select(['r.id', 'l.letter_id'])
    .where(sql<boolean>`r.id IN (SELECT value FROM json_each(${among(ids)}))`)
    .execute();
  return new Map(rows.map((r) => [r.id, r.letter_id]));
}

export async function titlesOf(ws: Workspace, groups: readonly Grouped[]): Promise<Map<string, string>> {
  const numbers = (what: string) => groups.filter((g) => g.key.startsWith(`${what} `)).map((g) => Number(g.key.split(' ')[1]));
  const [meetings, letters] = [numbers('meeting'), numbers('letter')];
  const out = new Map<string, string>();
  for (const g of groups) out.set(g.key, g.key.startsWith('hand') ? 'Entered by hand' : g.key.startsWith('jottings') ? 'Your jottings' : 'An answer to no letter');
  if (meetings.length) for (const m of await ws.db.selectFrom('meetings').select(['id', 'title', 'number']).where('id', 'in', meetings).execute()) out.set(`meeting ${m.id}`, m.number === null ? m.title : `${m.title}, no. ${m.number}`);
  if (letters.length) {
    const rows = await ws.db.selectFrom('letter_recipients as r').leftJoin('people as p', 'p.id', 'r.person_id').select(['r.letter_id', 'p.name']).where('r.letter_id', 'in', letters).orderBy('r.id').execute();
    for (const id of letters) {
      const names = rows.filter((r) => r.letter_id === id).flatMap((r) => r.name ?? []);
      out.set(`letter ${id}`, names.length === 0 ? 'Message to the chat' : `Letter to ${names.length > 3 ? `${names.length} people` : listOf(names)}`);
    }
  }
  return out;
}

/** The words of some passages with those looked for marked, and where each leads. */
export async function hitsOf(ws: Workspace, candidates: readonly Candidate[], terms: readonly Term[]): Promise<Map<number, Hit>> {
  if (candidates.length === 0) return new Map();
  const rows = await ws.db
    .selectFrom('passages as p')
    .select(['p.id', 'p.cuts', 'p.text'])
    .where(sql<boolean>`p.id IN (SELECT value FROM json_each(${among(candidates.map((c) => c.id))}))`)
    .execute();
  const people = new Map((await ws.db.selectFrom('people').select(['id', 'name']).execute()).map((p) => [p.id, p.name]));
  const refs = await refsOf(ws, candidates);
  const by = new Map(candidates.map((c) => [c.id, c]));
  return new Map(
    rows.map((r) => {
      const c = by.get(r.id)!;
      const marks = marksOf(r.text, terms);
      const ref = refs.get(`${c.kind} ${c.source}`) ?? null;
      const who = c.person !== null ? { id: c.person, name: people.get(c.person) ?? c.person } : c.voice !== null ? { id: null, name: c.voice } : null;
      return [c.id, { id: c.id, kind: c.kind, who, on: c.on, start: c.start, pieces: snippetOf(r.text, marks), ref, href: hrefOf(c, ref, segmentAt(readCuts(r.cuts), marks[0]?.from ?? 0)) }];
    }),
  );
}

function hrefOf(c: Candidate, ref: string | null, segment: number | null): string {
  switch (c.kind) {
    case 'said':
      return `/meetings/${c.meeting}/sift?record=${c.source}#s${segment ?? 0}`;
    case 'commitment':
      return `/ledger/${ref}?project=${encodeURIComponent(c.project)}`;
    case 'minutes':
      return `/meetings/${c.meeting}/minutes`;
    case 'letter':
      return `/post/letters/${c.source}`;
    case 'answer':
      return '/post';
    case 'jotting':
      return '/jottings';
    default:
      return `/${c.kind}s#${ref}`;
  }
}

/** References of those that stand in a register. */
async function refsOf(ws: Workspace, candidates: readonly Candidate[]): Promise<Map<string, string>> {
  const of = (kinds: readonly PassageKind[]) => among(candidates.filter((c) => kinds.includes(c.kind)).map((c) => c.source));
  const commitments = await ws.db
    .selectFrom('commitments')
    .select(['id', 'number'])
    .where(sql<boolean>`id IN (SELECT value FROM json_each(${of(['commitment'])}))`)
    .execute();
  const statements = await ws.db
    .selectFrom('statements')
    .select(['id', 'number', 'kind'])
    .where(sql<boolean>`id IN (SELECT value FROM json_each(${of(['decision', 'question'])}))`)
    .execute();
  return new Map([...commitments.map((c) => [`commitment ${c.id}`, `C-${c.number}`] as const), ...statements.map((s) => [`${s.kind} ${s.id}`, `${s.kind === 'decision' ? 'D' : 'Q'}-${s.number}`] as const)]);
}
