/**
 * How well a text was cut into topics, by the published measures, and what `src/core/gist` reaches on records whose
 * topics are known for certain: stretches of different meetings, one after the other (the way of F. Y. Y. Choi, 2000).
 */
import { cuts } from '../src/core/gist/segmentation.ts';
import { turnsOf } from '../src/core/gist/turns.ts';
import { annotatedMeetings } from './meetings.ts';

/** Share of windows of `k` places in which two cuts disagree. A cut is a string of 0 and 1, a 1 for each place with a boundary. */
function disagreement(reference: string, given: string, k: number, differs: (a: number, b: number) => boolean): number {
  if (reference.length !== given.length) throw new RangeError('Both cuts must be of the same text.');
  const windows = reference.length - k + 1;
  if (windows < 1) throw new RangeError(`The text is shorter than a window of ${k}.`);
  const boundaries = (cut: string, at: number) => {
    let n = 0;
    for (let i = at; i < at + k; i++) if (cut[i] === '1') n++;
    return n;
  };
  let wrong = 0;
  for (let i = 0; i < windows; i++) if (differs(boundaries(reference, i), boundaries(given, i))) wrong++;
  return wrong / windows;
}

/** Pk: a window is wrong when one cut has a boundary in it and the other has none (D. Beeferman, A. Berger and J. Lafferty, 1999). */
export function pk(reference: string, given: string, k: number): number {
  return disagreement(reference, given, k, (a, b) => a > 0 !== b > 0);
}

/** WindowDiff: a window is wrong when the numbers of boundaries in it differ (L. Pevzner and M. Hearst, 2002). */
export function windowDiff(reference: string, given: string, k: number): number {
  return disagreement(reference, given, k, (a, b) => a !== b);
}

/** Half the mean length of a reference stretch, the usual window. */
export function usualWindow(reference: string): number {
  const ones = [...reference].filter((c) => c === '1').length;
  return Math.max(2, Math.round(reference.length / (Math.max(1, ones) * 2)));
}

const asCut = (length: number, starts: readonly number[]) => {
  const at = new Set(starts.filter((s) => s > 0));
  return Array.from({ length }, (_, i) => (at.has(i) ? '1' : '0')).join('');
};

/** Mean Pk and WindowDiff over mixed records: ours, no cut at all, and as many cuts evenly spread. */
export function segmentationScores(): { name: string; pk: number; windowDiff: number }[] {
  const talks = annotatedMeetings()
    .filter((m) => m.input.record.voices.length > 1)
    .map((m) => turnsOf(m.input.record).turns.map((t) => t.stems));
  const sums = new Map<string, { pk: number; wd: number }>();
  const records = Math.floor(talks.length / 2);
  for (let r = 0; r < records; r++) {
    const units: (readonly string[])[] = [];
    const starts: number[] = [];
    for (let p = 0; p < 8; p++) {
      const talk = talks[(r * 5 + p * 3) % talks.length]!;
      const length = 8 + ((r * 7 + p * 11) % 17);
      const from = Math.max(0, Math.min(talk.length - length, (r * 13) % Math.max(1, talk.length)));
      starts.push(units.length);
      units.push(...talk.slice(from, from + length));
    }
    const reference = asCut(units.length, starts);
    const k = usualWindow(reference);
    const evenly = starts.map((_, i) => Math.round((i * units.length) / starts.length));
    for (const [name, given] of [
      ['topics', cuts(units)],
      ['no cut', []],
      ['as many cuts, evenly', evenly],
    ] as const) {
      const cut = asCut(units.length, given);
      const sum = sums.get(name) ?? { pk: 0, wd: 0 };
      sum.pk += pk(reference, cut, k) / records;
      sum.wd += windowDiff(reference, cut, k) / records;
      sums.set(name, sum);
    }
  }
  return [...sums].map(([name, s]) => ({ name, pk: s.pk, windowDiff: s.wd }));
}
