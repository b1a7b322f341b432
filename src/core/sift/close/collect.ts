import type { CloseReading } from '../reading.ts';
import type { Stretch } from './stretches.ts';

/**
 * What the numbers of a marker mean, as the model's manifest says: so many for the turn, for the job and for the commitment.
 * The vector of the job is learned with the rest and not read: on series left out it joined places no better than words do.
 */
export interface OutputShape {
  turn: number;
  job: number;
  about: number;
}

/** Puts together what the encoder said of the stretches; in whatever order the answers come, a unit's is
 * taken from the stretch that it stands furthest inside of. */
export class Collected implements CloseReading {
  readonly nature: number[][];
  readonly about = new Map<string, Map<number, number[]>>();
  /** how far from the end of its stretch the answer kept for a unit was given, and where that stretch begins */
  private readonly kept: { inside: number; from: number }[] = [];

  constructor(
    units: number,
    private readonly shape: OutputShape,
  ) {
    this.nature = Array.from({ length: units }, () => []);
  }

  /** @param markers the numbers of each of the stretch's units, one unit after the other */
  add(stretch: Stretch, markers: Float32Array): void {
    const { turn, job, about } = this.shape;
    const width = turn + job + about;
    const from = stretch.units[0]?.unit ?? 0;
    for (const [k, { unit }] of stretch.units.entries()) {
      const row = markers.subarray(k * width, (k + 1) * width);
      if (stretch.open !== null) {
        const said = rounded(row.subarray(turn + job));
        const rows = this.about.get(stretch.open) ?? new Map<number, number[]>();
        const before = rows.get(unit);
        if (!before || said[0]! > before[0]!) rows.set(unit, said);
        this.about.set(stretch.open, rows);
      } else {
        const inside = Math.min(k, stretch.units.length - 1 - k);
        const before = this.kept[unit];
        if (before && (before.inside > inside || (before.inside === inside && before.from > from))) continue;
        this.kept[unit] = { inside, from };
        this.nature[unit] = rounded(row.subarray(0, turn));
      }
    }
  }
}

const rounded = (row: Float32Array) => [...row].map((x) => Math.round(x * 1000) / 1000);
