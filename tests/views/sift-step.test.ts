import { describe, expect, it } from 'vitest';
import type { KeptFind } from '../../src/server/sift/finds.ts';
import { siftStepLine, siftStepWords } from '../../src/views/parts/sift-step.ts';
import { settlingOf } from '../../src/views/sift/use-settling.ts';

const find = (over: Partial<KeptFind>): KeptFind => ({ kind: 'action', verdict: 'open', owner: ['ines'], due: '2026-03-12', ...over }) as KeptFind;

describe('the step Sift', () => {
  it('counts what is left, and what was taken without owner or date', () => {
    expect(settlingOf([])).toEqual({ finds: 0, left: 0, loose: 0 });
    const finds = [find({}), find({ verdict: 'passed', due: null }), find({ verdict: 'taken' }), find({ verdict: 'taken', owner: [] }), find({ verdict: 'taken', due: null }), find({ verdict: 'taken', kind: 'decision', owner: [], due: null })];
    expect(settlingOf(finds)).toEqual({ finds: 6, left: 1, loose: 2 });
  });
  it('says so', () => {
    expect(siftStepWords({ finds: 16, left: 13, loose: 0 })).toBe('13 of 16 finds left');
    expect(siftStepWords({ finds: 16, left: 0, loose: 0 })).toBe('16 finds settled');
    expect(siftStepWords({ finds: 16, left: 0, loose: 2 })).toBe('16 finds settled, 2 loose');
  });
  it('is drawn as far as they are settled, and whole where there were none', () => {
    const end = (left: number, finds: number) => siftStepLine({ finds, left }).drawn.split('H')[1];
    const [none, half, all] = [end(8, 8), end(4, 8), end(0, 8)].map(Number);
    expect(half).toBe((none! + all!) / 2);
    expect(Number(end(0, 0))).toBe(all);
    expect(siftStepLine({ finds: 8, left: 4 }).ahead.startsWith(`M${half} `)).toBe(true);
  });
});
