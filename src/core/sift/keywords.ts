import { stem, wordsOf } from '../language/words.ts';
import { addNaming } from './close/naming.ts';
import { type Features, keyed, type LinearModel, logOdds, probability, steps } from './linear.ts';
import { matterWords, saidWords, type WordPlace } from './matter-words.ts';
import type { Reading } from './reading.ts';
import type { Group } from './shapes.ts';

/** A word that may name the matter, with every place near the matter where it was said. */
export interface Keyword {
  stem: string;
  word: string;
  places: WordPlace[];
}

/** What a matter is called is said up to this many units before its places, and right after them. */
const [BEFORE, AFTER] = [6, 2];
/** Places looked at: those at the start, the core and the end of a matter; the rest are repeats. */
const [FROM_THE_START, FROM_THE_END] = [10, 3];

/** Words of matter said in the places of a matter and around them, each once. */
export function keywordsOf(reading: Reading, group: Group): Keyword[] {
  const { units, core } = group;
  const looked = units.length > FROM_THE_START + FROM_THE_END + 1 ? [...units.slice(0, FROM_THE_START), core, ...units.slice(-FROM_THE_END)] : units;
  const near = new Set<number>();
  for (const i of looked) for (let k = Math.max(0, i - BEFORE); k <= Math.min(reading.units.length - 1, i + AFTER); k++) if (!reading.units[k]!.heading) near.add(k);
  const out = new Map<string, Keyword>();
  for (const i of [...near].sort((a, b) => a - b)) {
    for (const place of matterWords(reading, reading.units[i]!)) {
      const known = out.get(place.stem);
      if (known) known.places.push(place);
      else out.set(place.stem, { stem: place.stem, word: place.word, places: [place] });
    }
  }
  return [...out.values()];
}

interface Counts {
  /** in how many units of the record a stem is said */
  units: ReadonlyMap<string, number>;
  inOpen: ReadonlySet<string>;
}

const counted = new WeakMap<Reading, Counts>();

function countsOf(reading: Reading): Counts {
  let counts = counted.get(reading);
  if (!counts) {
    const units = new Map<string, number>();
    for (const u of reading.units) for (const s of new Set(matterWords(reading, u).map((w) => w.stem))) units.set(s, (units.get(s) ?? 0) + 1);
    counts = { units, inOpen: new Set(reading.input.open.flatMap((o) => wordsOf(o.text).map(stem))) };
    counted.set(reading, counts);
  }
  return counts;
}

/** Part of a record, from its end, in which meetings tend to go through what was agreed once more. */
export const WRAP_UP_FROM = 0.88;

/** What a matter's words are weighed with, worked out once for all of them. */
export interface KeywordContext {
  odds: Float64Array;
  group: Group;
  /** by unit, how likely its best sentence says what the matter is; null where sentences were not ranked */
  sentences: ReadonlyMap<number, number> | null;
}

/** What speaks for a word standing in a careful reader's wording of the matter. */
export function keywordFeatures(reading: Reading, k: Keyword, { odds, group, sentences }: KeywordContext): Features {
  const f: Features = new Map();
  f.set('always', 1);
  f.set(keyed('word', k.stem), 1);
  addNaming(f, reading, group, k.places);
  const inside = new Set(group.units);
  const units = [...new Set(k.places.map((p) => p.unit))];
  const within = units.filter((u) => inside.has(u));
  const away = nearest(units, group.units);
  f.set(`away:${away}`, 1);
  steps(f, 'units', units.length, [2, 3, 4, 6]);
  steps(f, 'inside', within.length, [1, 2, 3, 4]);
  f.set('share-inside', within.length / group.units.length);
  const { units: everywhere, inOpen } = countsOf(reading);
  const total = everywhere.get(k.stem) ?? 1;
  const here = Math.min(1, units.length / total);
  f.set('here', here);
  if (here >= 0.99) f.set('only-here', 1);
  if (units.length >= 2 && here >= 0.6) f.set('mostly-here', 1);
  steps(f, 'total', total, [2, 3, 5, 8, 12, 20]);
  if (units.includes(group.core)) f.set('core', 1);
  if (units.includes(group.units[0]!)) f.set('first', 1);
  f.set('odds', Math.max(-4, Math.min(4, Math.max(...units.map((u) => odds[u]!)))));
  f.set(
    'odds-sum',
    Math.min(
      3,
      units.reduce((s, u) => s + probability(odds[u]!), 0),
    ),
  );
  if (sentences) f.set('sentence', Math.max(...units.map((u) => sentences.get(u) ?? 0)));
  wrapUp(f, reading, group, units);
  if (inOpen.has(k.stem)) f.set('in-open', 1);
  let past = true;
  for (const p of k.places) {
    for (const sign of p.signs) f.set(sign, 1);
    if (inside.has(p.unit)) for (const sign of p.signsInside) f.set(sign, 1);
    past &&= p.past;
  }
  if (past) f.set('all-past', 1);
  for (const sign of spelling(k.word)) f.set(sign, 1);
  if (k.places[0]!.name) {
    const people = reading.roster.mentions(k.word).map((m) => m.person);
    f.set('name', 1);
    if (group.units.some((i) => people.includes(reading.units[i]!.speaker ?? ''))) f.set('name-speaks', 1);
    if (people.includes(reading.units[group.core]!.speaker ?? '')) f.set('name-speaks-core', 1);
    if (within.length) f.set('name-inside', 1);
  }
  return f;
}

/** Signed distance from the places of the matter to the nearest of some units; before them where both sides are as near. */
function nearest(units: readonly number[], places: readonly number[]): number {
  let best = Number.POSITIVE_INFINITY;
  for (const u of units) {
    for (const p of places) {
      const d = u - p;
      if (Math.abs(d) < Math.abs(best) || (d < 0 && d === -best)) best = d;
    }
  }
  return best;
}

/** A matter that comes up again in the wrap-up is named there in the few words that tell it from the others. */
function wrapUp(f: Features, reading: Reading, group: Group, units: readonly number[]): void {
  const from = reading.units.length * WRAP_UP_FROM;
  if (!group.units.some((i) => i > from) || !group.units.some((i) => i <= from)) return;
  const [early, late] = [units.some((u) => u <= from), units.some((u) => u > from)];
  f.set(late ? (early ? 'talk-and-wrap-up' : 'wrap-up-only') : 'talk-only', 1);
}

const spelled = new Map<string, readonly string[]>();

/** What a word's letters tell; the same for a word wherever it stands. */
function spelling(word: string): readonly string[] {
  const known = spelled.get(word);
  if (known) return known;
  const low = word.toLowerCase();
  const f: Features = new Map();
  if (/\d/.test(low)) f.set('digit', 1);
  steps(f, 'long', low.length, [4, 5, 7, 10]);
  for (const ending of ['ing', 'ed', 'ly', 's']) if (low.endsWith(ending)) f.set(`-${ending}`, 1);
  if (/(?:tion|ment|ness|ance|er|ist|age|ure|ity)s?$/.test(low)) f.set('noun-like', 1);
  if (TIME.test(low)) f.set('time', 1);
  const names = [...f.keys()];
  if (spelled.size > 20_000) spelled.clear();
  spelled.set(word, names);
  return names;
}

const TIME =
  /^(?:(?:mon|tues|wednes|thurs|fri|satur|sun)day|today|tonight|tomorrow|yesterday|morning|evening|afternoon|week|weeks|month|months|day|days|minute|minutes|hour|hours|next|january|february|march|april|june|july|august|september|october|november|december|first|second|third|fourth|fifth|sixth|seventh|eighth|ninth|tenth|eleventh|twelfth|\w+teenth|twentieth|thirtieth|twenty[- ]?\w*|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirty|mid-\w+|o'clock|early|late|later|soon|end)$/;

/** A keyword and how likely a careful reader's wording has it. */
export interface RankedKeyword {
  keyword: Keyword;
  p: number;
}

/** Words of a matter, likeliest first. */
export function rankKeywords(reading: Reading, context: KeywordContext, model: LinearModel): RankedKeyword[] {
  return keywordsOf(reading, context.group)
    .map((keyword) => ({ keyword, p: probability(logOdds(model, keywordFeatures(reading, keyword, context))) }))
    .sort((a, b) => b.p - a.p || (a.keyword.stem < b.keyword.stem ? -1 : 1));
}

/** By stem, how likely a careful reader names the matter with it. */
export type Naming = ReadonlyMap<string, number>;

/** Keywords kept as what a matter is called; the long tail after them is chance. */
const MOST_NAMING = 24;

export function namingOf(ranked: readonly RankedKeyword[]): Naming {
  return new Map(ranked.slice(0, MOST_NAMING).map((r) => [r.keyword.stem, r.p]));
}

const stemmed = new Map<string, ReadonlySet<string>>();

/** How much of what a matter is called stands in some words: the sum of the likelihoods of the naming words among them. */
export function relevance(naming: Naming, text: string): number {
  let stems = stemmed.get(text);
  if (!stems) {
    stems = new Set(saidWords(text).map((w) => stem(w.low)));
    if (stemmed.size > 5_000) stemmed.clear();
    stemmed.set(text, stems);
  }
  let sum = 0;
  for (const s of stems) sum += naming.get(s) ?? 0;
  return sum;
}
