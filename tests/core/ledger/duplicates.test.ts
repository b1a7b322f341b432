import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Comparable, duplicatePairs } from '../../../src/core/ledger/duplicates.ts';
import { COLUMNS, readColumns, shifted, toggled, USUAL } from '../../../src/core/ledger/look.ts';

const c = (id: number, text: string, over: Partial<Comparable> = {}): Comparable => ({ id, text, owner: [], due: null, ...over });

describe('commitments that may be the same', () => {
  it.each<[string, Comparable, Comparable, boolean]>([
    ['in other order', c(1, 'Send the fire plan to the inspectorate'), c(2, 'Fire plan: send to inspectorate'), true],
    ['one of them shorter', c(1, 'Order twelve spare cells from the maker'), c(2, 'Order spare cells'), true],
    ['for two owners, half the words apart', c(1, 'Read the draft contract', { owner: ['a'] }), c(2, 'Sign the draft contract', { owner: ['b'] }), false],
    ['with one word in common', c(1, 'Paint the crane'), c(2, 'Sell the crane and the barge'), false],
    ['without any word in common', c(1, 'Paint the shed'), c(2, 'Book the tug'), false],
  ])('%s', (_, a, b, same) => expect(duplicatePairs([a, b]).length === 1).toBe(same));
  it('the older one stays, the most alike come first', () => {
    const pairs = duplicatePairs([c(9, 'Fire plan to the inspectorate'), c(3, 'Fire plan to the inspectorate'), c(5, 'Fire plan, sheet three, to the inspectorate by post')]);
    expect(pairs[0]).toMatchObject({ keep: 3, other: 9, like: 1 });
    expect(pairs.every((p) => p.keep < p.other)).toBe(true);
  });
  it('whatever they say: no pair twice, none with itself, every likeness a share', () => {
    const word = fc.constantFrom('crane', 'papers', 'rope', 'quay', 'lamp', 'send', 'order');
    const one = fc.record({ text: fc.array(word, { maxLength: 5 }).map((w) => w.join(' ')), owner: fc.subarray(['a', 'b']), due: fc.constantFrom(null, '2026-03-06', '2026-03-09') });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 25 }), (list) => {
        const pairs = duplicatePairs(list.map((x, id) => ({ id, ...x })));
        expect(new Set(pairs.map((p) => `${p.keep} ${p.other}`)).size).toBe(pairs.length);
        for (const p of pairs) {
          expect(p.keep).toBeLessThan(p.other);
          expect(p.like).toBeGreaterThanOrEqual(0.6);
          expect(p.like).toBeLessThanOrEqual(1);
        }
      }),
    );
  });
});

describe('the columns of the Ledger', () => {
  it('are the usual ones until somebody chooses, and never none', () => {
    expect(readColumns(null)).toBeNull();
    expect(readColumns('nonsense')).toBeNull();
    expect(readColumns('due owner due')).toEqual(['due', 'owner']);
    expect(toggled(['due'], 'due')).toEqual(['due']);
    expect(toggled(['due', 'owner'], 'due')).toEqual(['owner']);
    expect(toggled(['due'], 'state')).toEqual(['due', 'state']);
  });
  it('stay the same ones in whatever order they are moved', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom(...COLUMNS), fc.constantFrom(-1 as const, 1 as const)), { maxLength: 30 }), (moves) => {
        const end = moves.reduce((all, [column, by]) => shifted(all, column, by), [...USUAL]);
        expect([...end].sort()).toEqual([...USUAL].sort());
      }),
    );
    expect(shifted(['due', 'owner'], 'due', -1)).toEqual(['due', 'owner']);
    expect(shifted(['due', 'owner'], 'due', 1)).toEqual(['owner', 'due']);
  });
});
