import { counts, type Measured } from './measured.ts';

/** How often the dates of a series were moved, and how often what it made was carried over. */
export interface Slips {
  series: string;
  n: number;
  /** ids of those that were moved at least once */
  moved: number[];
  /** ids of those that were carried over at least once */
  carried: number[];
  moves: number;
  carries: number;
}

/** By series, the one with most carries for each commitment first; what belongs to none stands under ''. */
export function slipsOf(all: readonly Measured[]): Slips[] {
  const by = new Map<string, Slips>();
  for (const c of all) {
    if (!counts(c)) continue;
    const key = c.series ?? '';
    const s = by.get(key) ?? by.set(key, { series: key, n: 0, moved: [], carried: [], moves: 0, carries: 0 }).get(key)!;
    s.n++;
    s.moves += c.moved;
    s.carries += c.carried;
    if (c.moved > 0) s.moved.push(c.id);
    if (c.carried > 0) s.carried.push(c.id);
  }
  return [...by.values()].sort((a, b) => b.carries / b.n - a.carries / a.n);
}
