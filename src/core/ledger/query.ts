import { daysBetween, isIsoDate } from '../dates/calendar.ts';
import { fold } from '../language/fold.ts';
import { type DueWindow, fallsIn } from './due.ts';
import { isLoose, isPutOff } from './predicates.ts';
import { type CommitmentState, isEnded } from './state.ts';

/** What a query is asked of: one line of the Ledger. */
export interface Queried {
  ref: string;
  text: string;
  owner: readonly { id: string; name: string }[];
  due: string | null;
  state: CommitmentState;
  madeOn: string;
  endedOn: string | null;
  moved: number;
  carried: number;
  lastOn: string;
  awaiting: boolean;
  putOff: string | null;
  undated: boolean;
  series: string | null;
  from: string;
  /** the whole name of its series */
  seriesTitle?: string | null;
}

export interface QueryContext {
  today: string;
  me: string;
}

/** One thing a query asks for. */
export interface Term {
  key: string;
  value: string;
  not: boolean;
  /** the words as they were typed */
  typed: string;
}

export interface Query {
  terms: Term[];
  /** what was not understood, in words */
  wrong: string[];
}

/** Keys of the query language, with what they mean and an example. The grammar is in docs/ledger.md. */
export const QUERY_KEYS: readonly { key: string; means: string; example: string }[] = [
  { key: 'owner', means: 'who holds it: part of a name, me, or nobody', example: 'owner:aoife' },
  { key: 'series', means: 'where it comes from: part of the name', example: 'series:"works call"' },
  { key: 'is', means: 'open, done, dropped, merged, ended, waiting, late, loose, awaiting (a confirmation), off (put off), backlog, mine', example: 'is:late' },
  { key: 'due', means: 'today, tomorrow, week, next-week, none, a day, or before and after one', example: 'due:<2026-05-01' },
  { key: 'age', means: 'days since it was taken on', example: 'age:>30' },
  { key: 'quiet', means: 'days since anything was heard of it', example: 'quiet:>10' },
  { key: 'carried', means: 'how often it was carried over', example: 'carried:>2' },
  { key: 'moved', means: 'how often its date was moved', example: 'moved:>1' },
  { key: 'ref', means: 'its reference', example: 'ref:C-12' },
];

/** Words that may stand alone for `is:`. */
const FLAGS = new Set(['open', 'done', 'dropped', 'merged', 'ended', 'waiting', 'late', 'loose', 'awaiting', 'off', 'backlog', 'mine', 'all']);
const KEYS = new Set(QUERY_KEYS.map((k) => k.key));
const DUE: Record<string, string> = { today: 'today', tomorrow: 'tomorrow', week: 'this week', 'next-week': 'next week', later: 'later', none: 'no date', late: 'late' };
const NUMBERS = new Set(['age', 'quiet', 'carried', 'moved']);

const TOKEN = /(-?)(?:([a-z]+):)?(?:"([^"]*)"?|(\S+))/giu;

/**
 * Reads a typed query: words, flags such as `late`, and `key:value` pairs; quotation marks hold words together and a
 * minus sign before a term turns it round. Everything asked for must hold.
 */
export function readQuery(text: string): Query {
  const terms: Term[] = [];
  const wrong: string[] = [];
  for (const m of text.slice(0, 500).matchAll(TOKEN)) {
    const typed = m[0];
    const not = m[1] === '-' && typed.length > 1;
    const key = m[2]?.toLowerCase();
    const value = (m[3] ?? m[4] ?? '').trim();
    if (value === '' || value === '-') continue;
    if (key === undefined) {
      const flag = value.toLowerCase();
      terms.push(FLAGS.has(flag) && m[3] === undefined ? { key: 'is', value: flag, not, typed } : { key: 'words', value, not, typed });
      continue;
    }
    if (!KEYS.has(key)) {
      wrong.push(`“${key}:” is no filter; there are ${[...KEYS].map((k) => `${k}:`).join(' ')}`);
      continue;
    }
    const problem = problemWith(key, value);
    if (problem) wrong.push(problem);
    else terms.push({ key, value, not, typed });
  }
  return { terms, wrong };
}

function problemWith(key: string, value: string): string | null {
  if (NUMBERS.has(key) && !/^[<>]?=?\d{1,5}$/.test(value)) return `“${key}:${value}” needs a number, such as ${key}:>3`;
  if (key === 'due' && !(value.toLowerCase() in DUE) && !isIsoDate(value.replace(/^[<>]=?/, ''))) return `“due:${value}” needs a day such as 2026-05-01, or ${Object.keys(DUE).join(', ')}`;
  if (key === 'is' && !FLAGS.has(value.toLowerCase())) return `“is:${value}” is not known; there are ${[...FLAGS].join(', ')}`;
  return null;
}

/** Whether anything in a query says which states are meant; without it a list shows what is open. */
export const namesState = (q: Query) => q.terms.some((t) => t.key === 'is' && ['open', 'done', 'dropped', 'merged', 'ended', 'all'].includes(t.value.toLowerCase()) && !t.not);

/** Whether a line is what a query asks for. */
export function answers(row: Queried, query: Query, context: QueryContext): boolean {
  if (!namesState(query) && ended(row)) return false;
  // what is put off or in the backlog is out of sight unless it is asked for
  if (isPutOff(row, context.today) && !ended(row) && !query.terms.some((t) => t.key === 'ref' || (t.key === 'is' && ['off', 'backlog', 'all'].includes(t.value.toLowerCase())))) return false;
  return query.terms.every((t) => holds(row, t, context) !== t.not);
}

const remembered = new WeakMap<Queried, string>();

/** The words of a line, folded once: a query is asked anew with every letter that is typed. */
function foldedWords(row: Queried): string {
  let words = remembered.get(row);
  if (words === undefined) {
    // a reference is found as it is written, whatever becomes of hyphens
    words = `${fold(row.ref)} ${plain(`${row.ref} ${row.text} ${row.owner.map((o) => o.name).join(' ')} ${row.from}`)}`;
    remembered.set(row, words);
  }
  return words;
}

/** Folded, hyphens and spaces alike: “cable tray” finds the cable-tray. */
const plain = (text: string) =>
  fold(text)
    .replace(/[-\u2010-\u2013\s]+/g, ' ')
    .trim();

const ended = (r: Queried) => isEnded(r.state);

function holds(row: Queried, t: Term, { today, me }: QueryContext): boolean {
  const value = fold(t.value);
  switch (t.key) {
    case 'owner':
      if (value === 'nobody') return row.owner.length === 0;
      if (value === 'me') return row.owner.some((o) => o.id === me);
      return row.owner.some((o) => o.id === t.value || plain(o.name).includes(plain(value)));
    case 'series':
      return [row.from, row.series, row.seriesTitle].some((name) => name && plain(name).includes(plain(value)));
    case 'ref':
      return row.ref.toLowerCase() === t.value.toLowerCase();
    case 'age':
      return compare(daysBetween(row.madeOn, row.endedOn ?? today), t.value);
    case 'quiet':
      return compare(daysBetween(row.lastOn, today), t.value);
    case 'carried':
      return compare(row.carried, t.value);
    case 'moved':
      return compare(row.moved, t.value);
    case 'due':
      return due(row, t.value.toLowerCase(), today);
    case 'is':
      return flag(row, value, today, me);
    default:
      return foldedWords(row).includes(plain(value));
  }
}

function flag(row: Queried, value: string, today: string, me: string): boolean {
  switch (value) {
    case 'all':
      return true;
    case 'open':
      return !ended(row);
    case 'ended':
      return ended(row);
    case 'waiting':
      return row.state === 'blocked';
    case 'late':
      return !ended(row) && row.due !== null && row.due < today;
    case 'loose':
      return isLoose(row);
    case 'awaiting':
      return !ended(row) && row.awaiting;
    case 'off':
      return isPutOff(row, today) && row.putOff !== 'backlog';
    case 'backlog':
      return row.putOff === 'backlog';
    case 'mine':
      return row.owner.some((o) => o.id === me);
    default:
      return row.state === value;
  }
}

function due(row: Queried, value: string, today: string): boolean {
  const window = DUE[value];
  if (window !== undefined) return !ended(row) && fallsIn(row.due, window as DueWindow, today);
  if (row.due === null) return false;
  const m = /^([<>]?=?)(.*)$/.exec(value)!;
  const day = m[2]!;
  if (m[1] === '<') return row.due < day;
  if (m[1] === '<=') return row.due <= day;
  if (m[1] === '>') return row.due > day;
  if (m[1] === '>=') return row.due >= day;
  return row.due === day;
}

function compare(n: number, value: string): boolean {
  const m = /^([<>]?=?)(\d+)$/.exec(value)!;
  const wanted = Number(m[2]);
  if (m[1] === '<') return n < wanted;
  if (m[1] === '<=') return n <= wanted;
  if (m[1] === '>') return n > wanted;
  if (m[1] === '>=') return n >= wanted;
  return n === wanted;
}
