import type { Group } from '../group.ts';
import { type Features, probability, steps } from '../linear.ts';
import { matterWords } from '../matter-words.ts';
import type { Reading, ReadUnit, Settled } from '../reading.ts';
import { UNLIKELY_WORD } from './collect.ts';

/** A likelihood below this says no more than this one does. */
const FLOOR = -6;

/** Adds what the close reader says, from the places of a job, of a person taking it on; of nobody there, for null. */
export function addWho(f: Features, reading: Reading, group: Group, person: string | null): void {
  addVotes(f, reading, group, ({ who }) => {
    if (person === null) return { own: who.none, best: Math.max(...who.people.map(([, log]) => log)) };
    const own = who.people.find(([p]) => p === person)?.[1];
    return own === undefined ? null : { own, best: Math.max(who.none, ...who.people.flatMap(([p, log]) => (p === person ? [] : [log]))) };
  });
}

/** Adds what the close reader says, from the places of a job, of a phrase being its date; of no date there, for null. */
export function addWhen(f: Features, reading: Reading, group: Group, phrase: { unit: number; which: number } | null): void {
  addVotes(f, reading, group, ({ when }) => {
    if (phrase === null) return { own: when.none, best: Math.max(...when.dates.map(([, , log]) => log)) };
    const day = reading.units[phrase.unit]!.dates[phrase.which]?.date;
    const same = (unit: number, which: number) => (unit === phrase.unit && which === phrase.which) || (!!day && reading.units[unit]!.dates[which]?.date === day);
    // phrases that mean one day speak for it together
    const own = Math.log(when.dates.reduce((sum, [unit, which, log]) => sum + (same(unit, which) ? Math.exp(log) : 0), 0));
    return own === Number.NEGATIVE_INFINITY ? null : { own, best: Math.max(when.none, ...when.dates.flatMap(([unit, which, log]) => (same(unit, which) ? [] : [log]))) };
  });
}

/** One place's word on an answer, and on the best of the others. */
type Vote = { own: number; best: number } | null;

function addVotes(f: Features, reading: Reading, group: Group, vote: (settled: Settled) => Vote): void {
  const all = reading.close?.settled;
  if (!all) return;
  const votes: NonNullable<Vote>[] = [];
  for (const i of group.units) {
    const settled = all.get(i);
    const given = settled ? vote(settled) : null;
    if (!given) continue;
    votes.push(given);
    if (i === group.core) {
      f.set('close:core', clip(given.own));
      if (given.own > given.best) f.set('close:core-first', 1);
    }
  }
  if (votes.length === 0) {
    if (group.units.some((i) => all.has(i))) f.set('close:out-of-sight', 1);
    return;
  }
  f.set('close:best', Math.max(...votes.map((v) => clip(v.own))));
  f.set('close:mean', votes.reduce((sum, v) => sum + clip(v.own), 0) / votes.length);
  f.set('close:first', votes.filter((v) => v.own > v.best).length / votes.length);
}

const clip = (x: number) => Math.max(FLOOR, x);

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
