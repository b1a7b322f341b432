import type { Features } from './linear.ts';

/** What a unit can be part of. A unit can be part of several. */
export const NATURES = ['action', 'decision', 'question', 'update'] as const;
export type Nature = (typeof NATURES)[number];

/** What every unit was taken for. */
export interface Natures {
  features: Features[];
  /** log-odds by nature, by unit */
  odds: Record<Nature, Float64Array>;
}

/** Units that are taken to be about one matter, best first look at `core`. */
export interface Group {
  /** in order of the record */
  units: number[];
  /** the unit that says it best: highest odds */
  core: number;
  /** units that speak of another matter of the same nature */
  others?: ReadonlySet<number>;
}
