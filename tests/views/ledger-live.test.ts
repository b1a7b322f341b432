import { expect, it } from 'vitest';
import type { LedgerRow } from '../../src/server/ledger/commitments.ts';
import { changedSince } from '../../src/views/ledger/use-ledger-live.ts';

const row = (id: number, more: Partial<LedgerRow> = {}): LedgerRow => ({ id, ref: `C-${id}`, text: 'Bolts', owner: [], due: null, state: 'open', putOff: null, waitsFor: null, endedOn: null, life: [], last: 1, ...more }) as LedgerRow;

it('what happened elsewhere is told in a few words, and what is shown already is not', () => {
  const shown = [row(1), row(2), row(3)];
  expect(changedSince(shown, [row(1, { last: 9, life: [{ on: '2026-03-05', kind: 'written' }] })], [])).toBeNull();
  expect(changedSince(shown, [row(2, { due: '2026-03-09' })], [])).toBe('C-2 was changed elsewhere');
  expect(changedSince(shown, [row(7)], [])).toBe('C-7 came in');
  expect(changedSince(shown, [], [3])).toBe('C-3 was taken back elsewhere');
  expect(changedSince(shown, [row(1, { state: 'done' }), row(2, { state: 'done' })], [])).toBe('C-1, C-2 were changed elsewhere');
  expect(
    changedSince(
      shown,
      [4, 5, 6, 7].map((id) => row(id)),
      [],
    ),
  ).toBe('4 lines were changed elsewhere');
});
