import type { IsoDate } from '../dates/calendar.ts';
import { isEmptyWord } from '../language/words.ts';
import { type Period, readPeriod } from './period.ts';

/** What can be found, and what each is called on screen. */
export const PASSAGE_KINDS = ['said', 'decision', 'question', 'commitment', 'minutes', 'letter', 'answer', 'jotting'] as const;
export type PassageKind = (typeof PASSAGE_KINDS)[number];

/** One thing a passage must have. */
export type Term =
  | { is: 'word'; word: string; prefix: boolean }
  /** these words, one after the other */
  | { is: 'phrase'; words: string[] }
  /** these words, with at most `within` others between them */
  | { is: 'near'; words: string[]; within: number };

export interface Filters {
  /** part of a name; `me` */
  who: string | null;
  /** part of the name of a series or a meeting */
  in: string | null;
  /** part of the name of a project */
  project: string | null;
  kind: PassageKind | null;
  when: Period | null;
}

/** What was typed into the field, read. */
export interface FindQuery {
  /** each must hold, by one of its terms */
  all: Term[][];
  none: Term[];
  filters: Filters;
  /** what was not understood, in words */
  wrong: string[];
}

/** Filters that can be typed, with what they mean and an example. The grammar is in docs/find.md. */
export const FILTER_KEYS: readonly { key: string; means: string; example: string }[] = [
  { key: 'who', means: 'who said or wrote it: part of a name, or me', example: 'who:bram' },
  { key: 'in', means: 'the series or meeting: part of its name', example: 'in:"works call"' },
  { key: 'project', means: 'another project, or all', example: 'project:all' },
  { key: 'kind', means: PASSAGE_KINDS.join(', '), example: 'kind:decision' },
  { key: 'when', means: 'a day or a stretch of time', example: 'when:"last week"' },
  { key: 'since', means: 'from a day on', example: 'since:monday' },
  { key: 'before', means: 'up to the day before', example: 'before:"1 march"' },
];

const TOKEN = /(-?)(?:([a-z]+):)?(?:"([^"]*)"?|(\S+))(\*?)/giu;
const WORD = /[\p{L}\p{N}]+(?:['’][\p{L}\p{N}]+)*/gu;
/** Between two words: `near` itself allows ten others, `near/3` three. */
const NEAR = /^near(?:\/(\d{1,2}))?$/i;
const NEAR_USUALLY = 10;
const LONGEST = 300;

/**
 * Reads a search: words, "phrases", beginnings of words with a star, `a near b`, `a or b`, `-not`, and filters such as
 * `who:bram`. All that is asked for must hold. Words that carry no matter are left out where others are there.
 *
 * @param typing that the last word is still being typed, and stands for its beginnings too
 */
export function readFindQuery(text: string, today: IsoDate, typing = false): FindQuery {
  const query: FindQuery = { all: [], none: [], filters: { who: null, in: null, project: null, kind: null, when: null }, wrong: [] };
  const cut = text.slice(0, LONGEST);
  let joint: { near: number } | 'or' | null = null;
  for (const m of cut.matchAll(TOKEN)) {
    const quoted = m[3] !== undefined;
    const value = (m[3] ?? m[4] ?? '').trim();
    if (m[2] !== undefined && filter(query, m[2].toLowerCase(), value, today)) continue;
    const bare = m[2] === undefined ? value : m[0];
    const near = !quoted && query.all.length ? NEAR.exec(bare) : null;
    if (near) {
      joint = { near: Math.min(50, Number(near[1] ?? NEAR_USUALLY)) };
      continue;
    }
    if (!quoted && query.all.length && /^or$/i.test(bare)) {
      joint = 'or';
      continue;
    }
    const term = termOf(bare, quoted, m[5] === '*' || bare.endsWith('*'));
    if (!term) continue;
    if (m[1] === '-') query.none.push(term);
    else add(query, term, joint);
    joint = null;
  }
  const last = query.all.at(-1)?.at(-1);
  if (typing && last?.is === 'word' && /[\p{L}\p{N}]$/u.test(cut)) last.prefix = true;
  leaveEmptyOut(query);
  return query;
}

function termOf(typed: string, quoted: boolean, prefix: boolean): Term | null {
  const words = (typed.toLowerCase().match(WORD) ?? []).map((w) => w.replace(/’/g, "'"));
  if (words.length === 0) return null;
  // C-28 and half-done are two words to the index that stand together
  if (quoted || words.length > 1) return { is: 'phrase', words };
  return { is: 'word', word: words[0]!, prefix };
}

function add(query: FindQuery, term: Term, joint: { near: number } | 'or' | null): void {
  const before = query.all.at(-1);
  if (joint === 'or' && before) before.push(term);
  else if (joint !== null && joint !== 'or' && before?.length === 1) {
    const words = [...wordsOfTerm(before[0]!), ...wordsOfTerm(term)];
    query.all[query.all.length - 1] = [{ is: 'near', words, within: joint.near }];
  } else query.all.push([term]);
}

/** The words of a term, in its order. */
export const wordsOfTerm = (t: Term): string[] => (t.is === 'word' ? [t.word] : t.words);

function filter(query: FindQuery, key: string, value: string, today: IsoDate): boolean {
  if (!FILTER_KEYS.some((f) => f.key === key)) return false;
  if (value === '') return true;
  const f = query.filters;
  if (key === 'who' || key === 'in' || key === 'project') f[key] = value;
  else if (key === 'kind') {
    const kind = PASSAGE_KINDS.find((k) => k === value.toLowerCase().replace(/s$/, '') || k === value.toLowerCase());
    if (kind) f.kind = kind;
    else query.wrong.push(`“${value}” is no kind; choose one of ${PASSAGE_KINDS.join(', ')}`);
  } else {
    const read = readPeriod(key === 'when' ? value : `${key} ${value}`, today);
    if (read) f.when = { from: read.from ?? f.when?.from ?? null, to: read.to ?? f.when?.to ?? null };
    else query.wrong.push(`“${value}” names no time; try last week, March or 2026-03-05`);
  }
  return true;
}

/** Words without matter find everything and tell nothing: they count only where nothing else was asked for. */
function leaveEmptyOut(query: FindQuery): void {
  const carries = (terms: Term[]) => terms.some((t) => t.is !== 'word' || t.prefix || !isEmptyWord(t.word));
  if (query.all.some(carries)) query.all = query.all.filter(carries);
}

/**
 * The query in the database engine's full-text language.
 * @param any that one of the terms is enough
 * @returns null where nothing is asked of the words
 * @source SQLite, “FTS5 Full-text Query Syntax”
 */
export function matchOf(query: Pick<FindQuery, 'all' | 'none'>, any = false): string | null {
  if (query.all.length === 0) return null;
  const wanted = query.all.map((terms) => `(${terms.map(expression).join(' OR ')})`).join(any ? ' OR ' : ' AND ');
  return query.none.length ? `(${wanted}) NOT (${query.none.map(expression).join(' OR ')})` : wanted;
}

const quote = (words: string) => `"${words.replaceAll('"', '')}"`;

function expression(t: Term): string {
  if (t.is === 'near') return `NEAR(${t.words.map(quote).join(' ')}, ${t.within})`;
  if (t.is === 'phrase') return quote(t.words.join(' '));
  // the whole word counts once more than its beginning, so that “car” finds cars before carpets
  return t.prefix ? `(${quote(t.word)} OR ${quote(t.word)}*)` : quote(t.word);
}
