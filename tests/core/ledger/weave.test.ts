import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../../../src/core/dates/calendar.ts';
import type { EventData, EventKind, LedgerEvent } from '../../../src/core/ledger/events.ts';
import { madeAndEnded, type WovenCommitment, weave } from '../../../src/core/ledger/weave.ts';

const TODAY = '2026-03-05';
let id = 0;
const event = (on: string, kind: EventKind, data: EventData = {}): LedgerEvent => ({ id: ++id, kind, on, at: `${on}T10:00:00Z`, by: 'ines', meeting: null, data, evidence: [] });
const thread = (ref: string, ...events: LedgerEvent[]): WovenCommitment => ({ id: Number(ref.slice(2)), ref, events, carried: 0 });
const one = (...events: LedgerEvent[]) => weave([thread('C-1', ...events)], 'age', TODAY, true)[0]!.rows[0]!;

describe('a thread', () => {
  it('runs from the day it was made to today, and late from its due date on', () => {
    const r = one(event('2026-02-05', 'made', { text: 'weights', owner: ['bram'], due: '2026-02-20' }));
    expect(r.stretches).toEqual([
      { from: '2026-02-05', to: '2026-02-20', look: 'plain' },
      { from: '2026-02-20', to: TODAY, look: 'late' },
    ]);
    expect(r).toMatchObject({ late: 13, open: true, due: '2026-02-20', ended: null });
  });
  it('is late only until it was moved, and was late before even when it is not now', () => {
    const r = one(event('2026-02-01', 'made', { text: 'x', due: '2026-02-10' }), event('2026-02-12', 'moved', { due: '2026-03-20' }));
    expect(r.stretches.map((s) => [s.from, s.look])).toEqual([
      ['2026-02-01', 'plain'],
      ['2026-02-10', 'late'],
      ['2026-02-12', 'plain'],
    ]);
    expect(r.late).toBe(0);
  });
  it('waits from the day it was blocked until somebody takes it up again', () => {
    const r = one(event('2026-02-01', 'made', { text: 'x' }), event('2026-02-08', 'blocked'), event('2026-02-20', 'restated'), event('2026-02-25', 'done'));
    expect(r.stretches.map((s) => s.look)).toEqual(['plain', 'waiting', 'plain']);
    expect(r).toMatchObject({ ended: 'done', open: false, due: null });
  });
  it('waits and is late at once', () => {
    expect(one(event('2026-02-01', 'made', { text: 'x', due: '2026-02-03' }), event('2026-02-08', 'blocked')).stretches.at(-1)!.look).toBe('late and waiting');
  });
  it('goes on when it is reopened', () => {
    const r = one(event('2026-02-01', 'made', { text: 'x' }), event('2026-02-05', 'done'), event('2026-02-10', 'reopened'));
    expect(r.stretches.at(-1)!.to).toBe(TODAY);
    expect(r.open).toBe(true);
  });
  it('that was taken back is none', () => {
    const made = event('2026-02-01', 'made', { text: 'x' });
    expect(weave([thread('C-1', made, event('2026-02-02', 'undone', { undoes: made.id }))], 'age', TODAY, true)[0]!.rows).toEqual([]);
  });
});

describe('by owner', () => {
  const handed = thread('C-2', event('2026-02-01', 'made', { text: 'trays', owner: ['bram'] }), event('2026-02-10', 'handed over', { owner: ['yusuf'] }));
  it('a hand-over crosses from the first holder’s group to the next one’s', () => {
    const groups = weave([handed], 'owner', TODAY, true);
    expect(groups.map((g) => g.holder)).toEqual(['bram', 'yusuf']);
    const [first, second] = groups.map((g) => g.rows[0]!);
    expect(first!.handedTo).toEqual({ row: second!.key, on: '2026-02-10' });
    expect(first!.stretches.at(-1)!.to).toBe('2026-02-10');
    expect(second!.stretches[0]!.from).toBe('2026-02-10');
    expect([first!.open, second!.open]).toEqual([false, true]);
  });
  it('a move that names a new owner is a hand-over too', () => {
    expect(weave([thread('C-3', event('2026-02-01', 'made', { text: 'x', owner: ['a'] }), event('2026-02-08', 'moved', { due: '2026-03-09', owner: ['b'] }))], 'owner', TODAY, true).map((g) => g.holder)).toEqual(['a', 'b']);
  });
  it('nobody’s come last', () => {
    expect(weave([thread('C-1', event('2026-02-01', 'made', { text: 'x' })), handed], 'owner', TODAY, true).map((g) => g.holder)).toEqual(['bram', 'yusuf', 'nobody']);
  });
});

describe('other orders', () => {
  const a = thread('C-1', event('2026-02-20', 'made', { text: 'young', due: '2026-03-06' }));
  const b = { ...thread('C-2', event('2026-01-20', 'made', { text: 'old', due: '2026-04-06' })), carried: 1 };
  const c = { ...thread('C-3', event('2026-02-01', 'made', { text: 'ended' }), event('2026-02-03', 'dropped')), carried: 4 };
  it.each([
    ['age', true, ['C-2', 'C-1', 'C-3']],
    ['due', true, ['C-1', 'C-2', 'C-3']],
    ['carried', true, ['C-3', 'C-2', 'C-1']],
    ['age', false, ['C-2', 'C-1']],
  ] as const)('%s, ended shown: %s', (order, closed, refs) => {
    expect(weave([a, b, c], order, TODAY, closed)[0]!.rows.map((r) => r.ref)).toEqual(refs);
  });
});

describe('made and ended', () => {
  it('are counted from each sitting to the next', () => {
    const cs = [thread('C-1', event('2026-02-05', 'made', { text: 'x' })), thread('C-2', event('2026-02-07', 'made', { text: 'y' }), event('2026-02-12', 'done'))];
    expect(madeAndEnded(cs, ['2026-02-05', '2026-02-12', '2026-02-19'])).toEqual([
      { made: 2, ended: 0 },
      { made: 0, ended: 1 },
      { made: 0, ended: 0 },
    ]);
    expect(madeAndEnded(cs, [])).toEqual([]);
  });
});

describe('whatever happened', () => {
  const kinds = fc.constantFrom<EventKind>('restated', 'moved', 'handed over', 'blocked', 'done', 'dropped', 'reopened', 'reworded');
  it('stretches follow each other without a gap, and every event has its knot', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(kinds, fc.integer({ min: 0, max: 9 }), fc.option(fc.integer({ min: -20, max: 60 }), { nil: undefined }), fc.constantFrom('a', 'b')), { maxLength: 14 }), (steps) => {
        let day = '2026-01-01';
        const events = [event(day, 'made', { text: 'x', owner: ['a'] })];
        for (const [kind, wait, due, owner] of steps) {
          day = addDays(day, wait) > TODAY ? TODAY : addDays(day, wait);
          events.push(event(day, kind, kind === 'moved' ? { due: due === undefined ? null : addDays(day, due) } : kind === 'handed over' ? { owner: [owner] } : {}));
        }
        for (const order of ['owner', 'age'] as const) {
          const rows = weave([thread('C-9', ...events)], order, TODAY, true)
            .flatMap((g) => g.rows)
            .sort((x, y) => (x.key < y.key ? -1 : 1));
          expect(rows.flatMap((r) => r.knots)).toHaveLength(events.length);
          const all = rows.flatMap((r) => r.stretches).sort((x, y) => (x.from < y.from ? -1 : x.from > y.from ? 1 : x.to < y.to ? -1 : 1));
          for (let i = 1; i < all.length; i++) expect(all[i]!.from).toBe(all[i - 1]!.to);
          for (const s of all) expect(s.from < s.to).toBe(true);
        }
      }),
      { numRuns: 300 },
    );
  });
});
