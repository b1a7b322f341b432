import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { adjust, bandOf, learn, type Settled, traitsOf } from '../../../src/core/sift/learned.ts';

const settled = (n: number, right: number, confidence = 0.8, traits: string[] = ['decision']): Settled[] => Array.from({ length: n }, (_, i) => ({ traits, confidence, right: i < right ? 1 : 0 }));

describe('what is learned from settled finds', () => {
  /** By hand: 20 finds at 0.8, 4 right. (4 + 12·0.8) / (20 + 12) = 0.425; its log-odds −0.302, less 1.386 is −1.688, held at −0.8. */
  it('is the share that was right against the share that was expected', () => {
    const [habit] = learn(settled(20, 4));
    expect(habit).toMatchObject({ trait: 'decision', count: 20, right: 4 });
    expect(habit!.expected).toBeCloseTo(16, 9);
    expect(habit!.shift).toBeCloseTo(-0.8, 9);
    // 10 at 0.5, 7 right: (7 + 6) / 22 = 0.5909, log-odds 0.3677
    expect(learn(settled(10, 7, 0.5))[0]!.shift).toBeCloseTo(0.3677, 3);
  });
  it('is nothing while there are few, or all went as expected', () => {
    expect(learn(settled(4, 0))[0]!.shift).toBe(0);
    expect(Math.abs(learn(settled(20, 16))[0]!.shift)).toBeLessThan(1e-9);
    expect(adjust(0.7, ['decision'], [])).toBe(0.7);
  });
  it('is told of kinds first; other traits have what these leave over', () => {
    const all = [...settled(20, 10, 0.7, ['action', 'action without date']), ...settled(20, 20, 0.7, ['action', 'action with date'])];
    const by = new Map(learn(all).map((h) => [h.trait, h.shift]));
    expect(by.get('action without date')!).toBeLessThan(-0.3);
    expect(by.get('action with date')!).toBeGreaterThan(0.3);
    expect(adjust(0.6, ['action', 'action without date'], learn(all))).toBeLessThan(adjust(0.6, ['action', 'action with date'], learn(all)));
  });
  it('of sure finds tells nothing of unsure ones', () => {
    const habits = learn(settled(20, 0, 0.9));
    expect(adjust(0.9, ['decision'], habits)).toBeLessThan(0.9);
    expect(adjust(0.4, ['decision'], habits)).toBe(0.4);
    expect(bandOf(0.55)).toBe('fairly sure');
  });
  it('keeps every confidence between 0 and 1 and moves the same for the same finds', () => {
    const one = fc.record({ traits: fc.constantFrom(['action', 'action of one'], ['question'], ['update', 'update: done']), confidence: fc.double({ min: 0, max: 1, noNaN: true }), right: fc.double({ min: 0, max: 1, noNaN: true }) });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 60 }), fc.double({ min: 0, max: 1, noNaN: true }), (all, p) => {
        const habits = learn(all);
        expect(learn([...all])).toEqual(habits);
        const q = adjust(p, ['action', 'action of one'], habits);
        expect(q).toBeGreaterThanOrEqual(0);
        expect(q).toBeLessThanOrEqual(1);
        for (const h of habits) expect(Math.abs(h.shift)).toBeLessThanOrEqual(0.8);
      }),
    );
  });
  it.each([
    [{ kind: 'action' as const, owner: [], due: null, update: null }, ['action', 'action without owner', 'action without date']],
    [{ kind: 'action' as const, owner: ['a', 'b'], due: '2026-03-06', update: null }, ['action', 'action of several', 'action with date']],
    [{ kind: 'update' as const, owner: ['a'], due: null, update: { open: '1', kind: 'moved' as const, due: null, owner: null } }, ['update', 'update: moved']],
    [{ kind: 'question' as const, owner: [], due: null, update: null }, ['question']],
  ])('the traits of %j', (find, traits) => expect(traitsOf(find)).toEqual(traits));
});
