import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carriedOver, daysAway, dueWindow, relativeDay } from '../../../src/core/ledger/due.ts';
import { EVENT_KINDS, type EventKind, type LedgerEvent, standingEvents } from '../../../src/core/ledger/events.ts';
import { isLoose } from '../../../src/core/ledger/predicates.ts';
import { standingOf } from '../../../src/core/ledger/state.ts';

let id = 0;
const event = (kind: EventKind, on: string, data: LedgerEvent['data'] = {}): LedgerEvent => ({ id: ++id, kind, on, at: `${on}T12:00:00Z`, by: 'ines', meeting: null, data, evidence: [] });
const made = () => event('made', '2026-02-05', { text: 'Pour the plinth', owner: ['dele'], due: '2026-02-20' });

describe('a commitment’s life', () => {
  it('begins with what was said', () => {
    expect(standingOf([made()])).toMatchObject({ text: 'Pour the plinth', owner: ['dele'], due: '2026-02-20', state: 'open', moved: 0, madeOn: '2026-02-05', endedOn: null });
  });
  it('counts moves and keeps the last date', () => {
    const s = standingOf([made(), event('moved', '2026-02-19', { due: '2026-02-27' }), event('restated', '2026-02-26'), event('moved', '2026-03-05', { due: '2026-03-13' })]);
    expect(s).toMatchObject({ due: '2026-03-13', moved: 2, state: 'open', lastOn: '2026-03-05' });
  });
  it('does not count a first date as a move', () => {
    expect(standingOf([event('made', '2026-02-05', { text: 'x', owner: [] }), event('moved', '2026-02-06', { due: '2026-02-20' })]).moved).toBe(0);
  });
  it('is handed over, waits, goes on, ends and is reopened', () => {
    const events = [made(), event('handed over', '2026-02-12', { owner: ['wim', 'kit'] }), event('blocked', '2026-02-13')];
    expect(standingOf(events)).toMatchObject({ owner: ['wim', 'kit'], state: 'blocked', handedOver: 1 });
    expect(standingOf([...events, event('restated', '2026-02-14')]).state).toBe('open');
    const done = [...events, event('done', '2026-02-15')];
    expect(standingOf(done)).toMatchObject({ state: 'done', endedOn: '2026-02-15' });
    expect(standingOf([...done, event('reopened', '2026-02-16')])).toMatchObject({ state: 'open', endedOn: null });
  });
  it('takes back what is undone, and the undoing itself', () => {
    const first = made();
    const move = event('moved', '2026-02-19', { due: '2026-02-27' });
    const undo = event('undone', '2026-02-20', { undoes: move.id });
    expect(standingOf([first, move, undo])).toMatchObject({ due: '2026-02-20', moved: 0 });
    expect(standingOf([first, move, undo, event('undone', '2026-02-21', { undoes: undo.id })])).toMatchObject({ due: '2026-02-27', moved: 1 });
  });
  it('is withdrawn when its making is taken back', () => {
    const first = made();
    expect(standingOf([first, event('undone', '2026-02-06', { undoes: first.id })]).state).toBe('withdrawn');
  });
  it('never loses its text or makes a number negative, whatever happens to it', () => {
    const kinds = fc.array(fc.constantFrom(...EVENT_KINDS.filter((k) => k !== 'made')), { maxLength: 25 });
    fc.assert(
      fc.property(kinds, (list) => {
        const events = [made(), ...list.map((k) => event(k, '2026-03-01', k === 'undone' ? { undoes: id } : k === 'moved' ? { due: '2026-03-09' } : {}))];
        const s = standingOf(events);
        expect(s.text).toBe('Pour the plinth');
        expect(s.moved).toBeGreaterThanOrEqual(0);
        expect(s.endedOn === null).toBe(s.state !== 'done' && s.state !== 'dropped');
        expect(standingEvents(events).every((e) => e.kind !== 'undone')).toBe(true);
      }),
    );
  });
  it('needs at least one event', () => {
    expect(() => standingOf([])).toThrow(/at least/);
  });
});

describe('where a date stands', () => {
  it.each([
    ['2026-03-04', 'late'],
    ['2026-03-05', 'today'],
    ['2026-03-06', 'tomorrow'],
    ['2026-03-08', 'this week'],
    ['2026-03-09', 'next week'],
    ['2026-03-15', 'next week'],
    ['2026-03-16', 'later'],
    [null, 'no date'],
  ])('%s is %s', (due, window) => {
    expect(dueWindow(due, '2026-03-05')).toBe(window);
  });
  it('says how far', () => {
    expect(['2026-03-01', '2026-03-04', '2026-03-05', '2026-03-06', '2026-03-09'].map((d) => relativeDay(d, '2026-03-05'))).toEqual(['4 days late', '1 day late', 'today', 'tomorrow', 'in 4 days']);
    expect(['2026-03-01', '2026-03-04', '2026-03-09'].map((d) => daysAway(d, '2026-03-05'))).toEqual(['4 days ago', 'yesterday', 'in 4 days']);
  });
  it('counts the sittings it was carried over', () => {
    expect(carriedOver('2026-02-05', null, ['2026-02-05', '2026-02-12', '2026-02-19'])).toBe(2);
    expect(carriedOver('2026-02-05', '2026-02-19', ['2026-02-12', '2026-02-19', '2026-02-26'])).toBe(1);
  });
  it('is loose without owner or date while open', () => {
    expect(isLoose({ undated: false, owner: [], due: '2026-03-05', state: 'open' })).toBe(true);
    expect(isLoose({ undated: false, owner: ['a'], due: null, state: 'blocked' })).toBe(true);
    expect(isLoose({ undated: false, owner: [], due: null, state: 'done' })).toBe(false);
  });
});
