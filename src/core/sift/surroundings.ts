import { contentStems, wordsOf } from '../language/words.ts';
import type { Reading } from './reading.ts';
import type { Group } from './shapes.ts';

/**
 * The part of a text between two stops around a place: what belongs together where one sentence deals out several jobs
 * ("Ilse brings the list next time, Gregor opens the share by Wednesday").
 */
export function partAround(text: string, from: number, to: number): string {
  const before = text.slice(Math.max(0, from - 160), from);
  const after = text.slice(to, to + 160);
  const stops = [...before.matchAll(/[,.;?!]|\sand\s|\s–\s/g)];
  const last = stops[stops.length - 1];
  const start = last ? last.index + last[0].length : 0;
  const end = /[,.;?!]|\sand\s|\s–\s/.exec(after)?.index ?? after.length;
  return before.slice(start) + text.slice(from, to) + after.slice(0, end);
}

const around = new WeakMap<Reading, Map<number, ReadonlySet<string>>>();

/** Stems of a unit and of so many before and after it (at most 31 each way); kept, since neighbours are asked for again and again. */
export function stemsAround(reading: Reading, i: number, before: number, after: number): ReadonlySet<string> {
  let known = around.get(reading);
  if (!known) {
    known = new Map();
    around.set(reading, known);
  }
  const key = (i * 32 + before) * 32 + after;
  let out = known.get(key);
  if (!out) {
    const stems = new Set<string>();
    for (let k = i - before; k <= i + after; k++) for (const s of reading.units[k]?.stems ?? []) stems.add(s);
    out = stems;
    known.set(key, out);
  }
  return out;
}

/** Stems of a matter without one of its units, to compare that unit's parts with. */
export function stemsElsewhere(reading: Reading, group: Group, unit: number): Set<string> {
  const out = new Set<string>();
  for (const i of group.units) if (i !== unit) for (const s of reading.units[i]!.stems) out.add(s);
  return out;
}

/** How many stems of a part stand in a set. */
export function sharedStems(part: string, stems: ReadonlySet<string>): number {
  let n = 0;
  for (const s of new Set(contentStems(wordsOf(part)))) if (stems.has(s)) n++;
  return n;
}
