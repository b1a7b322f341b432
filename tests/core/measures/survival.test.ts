import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { naiveMedian, shareAfter, survivalOf } from '../../../src/core/measures/survival.ts';

/**
 * Weeks of remission of the patients given 6-mercaptopurine in the trial of E. J. Freireich and others, Blood 21, 1963; the data
 * and the estimate are the standard example of textbooks (D. R. Cox, D. Oakes, “Analysis of Survival Data”, 1984). `+` were still in
 * remission. From memory.
 */
const REMISSION = '6 6 6 6+ 7 9+ 10 10+ 11+ 13 16 17+ 19+ 20+ 22 23 25+ 32+ 32+ 34+ 35+'.split(' ').map((w) => ({ days: Number.parseInt(w, 10), ended: !w.endsWith('+') }));

describe('time until something ends', () => {
  const s = survivalOf(REMISSION);
  it('is the published estimate, with Greenwood’s standard error', () => {
    const published: [days: number, atRisk: number, share: number, error: number][] = [
      [6, 21, 0.857, 0.0764],
      [7, 17, 0.807, 0.0869],
      [10, 15, 0.753, 0.0963],
      [13, 12, 0.69, 0.1068],
      [16, 11, 0.627, 0.1141],
      [22, 7, 0.538, 0.1282],
      [23, 6, 0.448, 0.1346],
    ];
    expect(s.steps.slice(1).map((p) => [p.days, p.atRisk])).toEqual(published.map(([days, atRisk]) => [days, atRisk]));
    for (const [i, [, , share, error]] of published.entries()) {
      expect(s.steps[i + 1]!.share).toBeCloseTo(share, 3);
      expect(s.steps[i + 1]!.error).toBeCloseTo(error, 3);
    }
    expect(s).toMatchObject({ n: 21, ended: 9, median: 23, medianFrom: 13, medianTo: null });
  });
  it('what is still open makes it longer than what is done alone says', () => {
    expect(naiveMedian(REMISSION)).toBe(10);
    expect(naiveMedian([])).toBeNull();
    expect(
      naiveMedian([
        { days: 4, ended: true },
        { days: 8, ended: true },
        { days: 90, ended: false },
      ]),
    ).toBe(6);
  });
  it('between steps it stays where it is', () => {
    expect([0, 5, 6, 9, 100].map((d) => Math.round(shareAfter(s, d) * 1000))).toEqual([1000, 1000, 857, 807, 448]);
  });
  it('nobody watched, all ended, none ended', () => {
    expect(survivalOf([])).toMatchObject({ n: 0, median: null });
    expect(
      survivalOf([
        { days: 3, ended: true },
        { days: 3, ended: true },
      ]).steps.at(-1),
    ).toMatchObject({ share: 0, from: 0, to: 0 });
    expect(survivalOf([{ days: 3, ended: false }])).toMatchObject({ ended: 0, median: null });
  });
  it('without anything left open it is the share not ended yet, never rises, and its interval holds it', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ days: fc.integer({ min: 0, max: 60 }), ended: fc.boolean() }), { maxLength: 80 }), (all) => {
        const t = survivalOf(all);
        for (const [i, p] of t.steps.entries()) {
          if (i) expect(p.share).toBeLessThanOrEqual(t.steps[i - 1]!.share);
          expect(p.from).toBeLessThanOrEqual(p.share + 1e-12);
          expect(p.to).toBeGreaterThanOrEqual(p.share - 1e-12);
        }
        if (all.length && all.every((a) => a.ended)) for (const p of t.steps.slice(1)) expect(p.share).toBeCloseTo(all.filter((a) => a.days > p.days).length / all.length, 9);
      }),
    );
  });
  it('what is watched from later on is at risk from then on alone', () => {
    const late = survivalOf([
      { days: 2, ended: true },
      { days: 5, ended: true },
      { days: 6, ended: true, since: 3 },
    ]);
    expect(late.steps.slice(1).map((p) => [p.days, p.atRisk])).toEqual([
      [2, 2],
      [5, 2],
      [6, 1],
    ]);
  });
});
