import { type Features, probability, steps } from '../linear.ts';
import { matterWords } from '../matter-words.ts';
import type { Reading, ReadUnit, Settled } from '../reading.ts';
import type { Group } from '../shapes.ts';
import { UNLIKELY_WORD } from './collect.ts';

/** By settled place, what it says of words: by the unit they stand in and their number there. */
const wordVotes = new WeakMap<Settled, ReadonlyMap<number, number>>();
/** No unit has more words than this that are looked at. */
const MOST_WORDS = 4096;

function votesOfWords(settled: Settled): ReadonlyMap<number, number> {
  let votes = wordVotes.get(settled);
  if (!votes) {
    votes = new Map(settled.words.map(([unit, at, log]) => [unit * MOST_WORDS + at, log]));
    wordVotes.set(settled, votes);
  }
  return votes;
}

/** Adds what the close reader says, from the places of a matter, of its being named with a word that is said at some places. */
export function addNaming(f: Features, reading: Reading, group: Group, places: readonly { unit: number; at: number }[]): void {
  const all = reading.close?.settled;
  if (!all) return;
  const votes: number[] = [];
  for (const i of group.units) {
    const settled = all.get(i);
    if (!settled) continue;
    const [from, to] = settled.span;
    const seen = places.filter((p) => p.unit >= from && p.unit <= to);
    if (seen.length === 0) continue;
    const said = votesOfWords(settled);
    const log = Math.max(...seen.map((p) => said.get(p.unit * MOST_WORDS + p.at) ?? UNLIKELY_WORD));
    votes.push(log);
    if (i === group.core) f.set('close:core', log);
  }
  if (votes.length === 0) {
    f.set(group.units.some((i) => all.has(i)) ? 'close:out-of-sight' : 'close:not-asked', 1);
    return;
  }
  const best = Math.max(...votes);
  f.set('close:best', best);
  f.set('close:mean', votes.reduce((sum, v) => sum + v, 0) / votes.length);
  f.set('close:likely', votes.filter((v) => v > 0).length / votes.length);
  steps(f, 'close:best', best, [-2, -1, 0, 1, 2]);
}

/** By stem, how likely it is, of the likelier places of a matter, that it is named with a word of one unit. */
export function namedWith(reading: Reading, group: Group, unit: ReadUnit): ReadonlyMap<string, number> | null {
  const all = reading.close?.settled;
  const asked = all ? group.units.flatMap((i) => all.get(i) ?? []).filter(({ span: [from, to] }) => unit.index >= from && unit.index <= to) : [];
  if (asked.length === 0) return null;
  const said = asked.map(votesOfWords);
  const out = new Map<string, number>();
  for (const w of matterWords(reading, unit)) {
    const p = probability(Math.max(...said.map((votes) => votes.get(unit.index * MOST_WORDS + w.at) ?? UNLIKELY_WORD)));
    out.set(w.stem, Math.max(p, out.get(w.stem) ?? 0));
  }
  return out;
}

/** What one place says its matter is: likelihoods of naming words by stem, of people and of days; the empty name stands for none. */
interface Answers {
  words: ReadonlyMap<string, number>;
  who: ReadonlyMap<string, number>;
  when: ReadonlyMap<string, number>;
}

const answered = new WeakMap<Settled, Answers>();

function answersOf(reading: Reading, settled: Settled): Answers {
  const known = answered.get(settled);
  if (known) return known;
  const words = new Map<string, number>();
  for (const [unit, at, log] of settled.words) {
    const word = matterWords(reading, reading.units[unit]!).find((w) => w.at === at);
    if (word) words.set(word.stem, Math.max(words.get(word.stem) ?? 0, probability(log)));
  }
  const { who, when } = settled;
  const days = new Map([['', Math.exp(when.none)]]);
  for (const [unit, which, log] of when.dates) {
    const day = reading.units[unit]!.dates[which]?.date ?? '';
    days.set(day, (days.get(day) ?? 0) + Math.exp(log));
  }
  const out = { words, who: new Map([['', Math.exp(who.none)], ...who.people.map(([p, log]) => [p, Math.exp(log)] as const)]), when: days };
  answered.set(settled, out);
  return out;
}

/** How much two places agree, 0 to 1: what both give a likelihood, of what the one that gives less of it does. */
function agreement(a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): number {
  let both = 0;
  for (const [what, p] of a) both += Math.min(p, b.get(what) ?? 0);
  const sum = (x: ReadonlyMap<string, number>) => [...x.values()].reduce((s, p) => s + p, 0);
  return both / Math.max(1, Math.min(sum(a), sum(b)));
}

/** Adds whether two places give one answer to what their matter is called, whose it is and when it is due. */
export function addAgreement(f: Features, reading: Reading, a: number, b: number): void {
  const [one, other] = [reading.close?.settled.get(a), reading.close?.settled.get(b)];
  if (!one || !other) return;
  const [x, y] = [answersOf(reading, one), answersOf(reading, other)];
  f.set('close:asked', 1);
  const words = agreement(x.words, y.words);
  f.set('close:words', words);
  steps(f, 'close:words', words, [0.1, 0.2, 0.35, 0.5, 0.7]);
  const who = agreement(x.who, y.who);
  f.set('close:who', who);
  if (who > 0.6) f.set('close:same-who', 1);
  const when = agreement(x.when, y.when);
  f.set('close:when', when);
  if (when > 0.6) f.set('close:same-when', 1);
}
