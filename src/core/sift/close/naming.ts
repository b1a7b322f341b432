import type { Group } from '../group.ts';
import { type Features, probability, steps } from '../linear.ts';
import { matterWords } from '../matter-words.ts';
import type { Reading, ReadUnit, Settled } from '../reading.ts';
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
