import type { CloseReading, Settled } from '../reading.ts';
import type { Stretch } from './stretches.ts';

/**
 * What the numbers of a marker mean, as the model's manifest says: so many for the turn, for the job, for the commitment
 * and for what a matter is settled by (of a date, of a name, of a voice, of a word).
 * The vector of the job is learned with the rest and not read: on series left out it joined places no better than words do.
 */
export interface OutputShape {
  turn: number;
  job: number;
  about: number;
  settle: number;
}

/** Puts together what the encoder said of the stretches; in whatever order the answers come, a unit's is
 * taken from the stretch that it stands furthest inside of. */
export class Collected implements CloseReading {
  readonly nature: number[][];
  readonly about = new Map<string, Map<number, number[]>>();
  readonly settled = new Map<number, Settled>();
  /** how far from the end of its stretch the answer kept for a unit was given, and where that stretch begins */
  private readonly kept: { inside: number; from: number }[] = [];

  constructor(
    units: number,
    private readonly shape: OutputShape,
  ) {
    this.nature = Array.from({ length: units }, () => []);
  }

  /** @param markers the numbers of each place that {@link marksOf} names, one after the other */
  add(stretch: Stretch, markers: Float32Array): void {
    const { turn, job, about, settle } = this.shape;
    const width = turn + job + about + settle;
    if (stretch.settle) {
      const numbers = (k: number) => markers.subarray((k + 1) * width - settle, (k + 1) * width);
      this.settled.set(stretch.settle.unit, settledOf(stretch, stretch.settle, numbers));
      return;
    }
    const from = stretch.units[0]?.unit ?? 0;
    for (const [k, { unit }] of stretch.units.entries()) {
      const row = markers.subarray(k * width, (k + 1) * width);
      if (stretch.open !== null) {
        const said = rounded(row.subarray(turn + job, turn + job + about));
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

/** Of the settle numbers: what speaks for a date, for a person who is named, for the one who speaks, for a word. */
const [WHEN, NAMED, SPEAKS, WORD] = [0, 1, 2, 3];
/** Words less likely than this are not kept: nearly all of a stretch, and none of them names its matter. */
export const UNLIKELY_WORD = -3;

/** Likelihoods of dates and people from the numbers of their places; the first place stands for none of them. */
function settledOf(stretch: Stretch, { dates, people, words }: NonNullable<Stretch['settle']>, numbers: (k: number) => Float32Array): Settled {
  const whens = logShares([numbers(0)[WHEN]!, ...dates.map((_, k) => numbers(1 + k)[WHEN]!)]);
  const byPerson = new Map<string, number[]>();
  for (const [k, p] of people.entries()) byPerson.set(p.person, [...(byPerson.get(p.person) ?? []), numbers(1 + dates.length + k)[p.named ? NAMED : SPEAKS]!]);
  const persons = [...byPerson.keys()];
  const whose = logShares([numbers(0)[NAMED]!, ...persons.map((p) => logSum(byPerson.get(p)!))]);
  return {
    when: { none: whens[0]!, dates: dates.map((d, k) => [d.unit, d.which, whens[k + 1]!] as const) },
    who: { none: whose[0]!, people: persons.map((p, k) => [p, whose[k + 1]!] as const) },
    words: words.map((w, k) => [w.unit, w.word, round(numbers(1 + dates.length + people.length + k)[WORD]!)] as const).filter(([, , log]) => log > UNLIKELY_WORD),
    span: [stretch.units[0]!.unit, stretch.units.at(-1)!.unit],
  };
}

function logSum(xs: readonly number[]): number {
  const most = Math.max(...xs);
  return most + Math.log(xs.reduce((sum, x) => sum + Math.exp(x - most), 0));
}

function logShares(xs: readonly number[]): number[] {
  const all = logSum(xs);
  return xs.map((x) => round(x - all));
}

const round = (x: number) => Math.round(x * 1000) / 1000;
const rounded = (row: Float32Array) => [...row].map(round);
