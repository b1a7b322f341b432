import type { Features } from '../linear.ts';
import type { Reading, Settled } from '../reading.ts';
import type { Group } from '../shapes.ts';

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
