import { describe, expect, it } from 'vitest';
import { inSigns, readCapture, USUAL_LEGEND } from '../../src/core/meetings/live/capture.ts';
import type { Mark } from '../../src/core/meetings/live/clock.ts';
import type { LedgerRow } from '../../src/server/ledger/commitments.ts';
import type { Room, RoomLine } from '../../src/server/meetings/live/room.ts';
import { liveKeys } from '../../src/views/live/live-keys.ts';
import { initials, type LiveState, type LiveTold, liveReducer, nextKind, soFar, spokenOf } from '../../src/views/live/live-state.ts';

const read = (text: string) => readCapture(text, { legend: USUAL_LEGEND, people: [], writer: 'ines', date: '2026-03-05', next: null });
const line = (id: string, text: string): RoomLine => ({ id, n: 1, item: null, text, words: text, read: read(text), seconds: 60, by: 'ines', byName: 'Ines Falk', changedBy: null, confirmedBy: null, revision: 1 });
const room = (now: number, rest: Partial<Room> = {}): Room => ({ meeting: { id: 13 } as Room['meeting'], state: 'running', began: null, points: [], marks: [], lines: [], walked: {}, votes: [], now, legend: USUAL_LEGEND, stamp: '', ...rest });
const row = (id: number) => ({ id, ref: `C-${id}` }) as LedgerRow;
const start: LiveState = { room: room(1), walk: [row(1), row(2), row(3)], at: null, unsent: [], typed: '', editing: null, reading: false, offline: false };
const told = (state: LiveState, ...acts: LiveTold[]) => acts.reduce(liveReducer, state);
const unsent = (id: string) => ({ id, text: '! one', point: null, refused: null });

describe('the page of a meeting that is held', () => {
  it('loses nothing that was typed: it is in the field, on its way, refused with why, or kept', () => {
    const written = told(start, { do: 'typed', text: '! one' }, { do: 'write', line: unsent('a') }, { do: 'write', line: unsent('b') });
    expect([written.typed, written.unsent.map((u) => u.id)]).toEqual(['', ['a', 'b']]);
    const away = told(written, { do: 'offline', is: true });
    expect(away.unsent).toHaveLength(2);
    const back = told(away, { do: 'sent', id: 'a', room: room(2, { lines: [line('a', '! one')] }) }, { do: 'refused', id: 'b', why: 'The meeting has ended.' });
    expect([back.offline, back.room.lines.length, back.unsent]).toEqual([false, 1, [{ ...unsent('b'), refused: 'The meeting has ended.' }]]);
    expect(told(back, { do: 'drop', id: 'b' }).unsent).toEqual([]);
  });
  it('is not turned back by an answer that was overtaken', () => {
    const now = told(start, { do: 'room', room: room(5, { lines: [line('a', 'x')] }) }, { do: 'room', room: room(4) });
    expect(now.room.lines).toHaveLength(1);
  });
  it('leaves a line that was opened, and keeps words that were not', () => {
    const opened = told(start, { do: 'edit', line: line('a', '! one'), typed: '! one' });
    expect([opened.editing, told(opened, { do: 'leave' }).typed, told(start, { do: 'typed', text: 'new' }, { do: 'leave' }).typed]).toEqual([{ id: 'a', revision: 1 }, '', 'new']);
  });
  it('walks from one commitment to the next nothing was said about, whoever said it', () => {
    expect(spokenOf(start)!.id).toBe(1);
    const one = told(start, { do: 'walked', row: row(1) });
    expect(spokenOf(one)!.id).toBe(2);
    const others = told(one, { do: 'room', room: room(2, { walked: { 1: { kind: 'done', event: 1, by: 'Ines' }, 3: { kind: 'done', event: 2, by: 'Sam' } } }) }, { do: 'walked', row: row(2) });
    expect(spokenOf(others)!.id).toBe(2);
    expect(told(start, { do: 'walk', by: -1 }).at).toBe(1);
    expect(told(start, { do: 'walk', by: 1 }, { do: 'walk', by: 1 }, { do: 'walk', by: 1 }).at).toBe(3);
  });
  it('says how far it is', () => {
    const marks: Mark[] = [
      { kind: 'tick', item: 1, at: 1 },
      { kind: 'tick', item: 2, at: 2 },
      { kind: 'untick', item: 2, at: 3 },
    ];
    expect(soFar(room(1, { points: [{ id: 1 }, { id: 2 }] as Room['points'], marks, lines: [line('a', '! x'), line('b', '= y'), line('c', '= z')], walked: { 4: { kind: 'done', event: 1, by: 'x' } } }))).toBe('1 of 2 points, 2 decisions, 1 action, 0 questions, 1 of before spoken of');
  });
});

it('no two of its keys are one, and none does something before the meeting begins or after it ends', () => {
  for (const reading of [true, false]) {
    const keys = liveKeys({ ...start, reading }, false).map((k) => k.key);
    expect(new Set(keys).size).toBe(keys.length);
    expect(keys.includes('e')).toBe(reading);
  }
  expect(liveKeys({ ...start, room: room(1, { state: 'before' }) }, false).map((k) => k.key)).toEqual(['b']);
  expect(liveKeys({ ...start, room: room(1, { state: 'over' }) }, false)).toEqual([]);
  expect(liveKeys(start, true).map((k) => k.key)).toEqual(['Escape']);
});

it('what was written stays what it was when somebody chooses other signs', () => {
  const own = { action: 'A', decision: '!!', question: '!', point: '*' };
  expect(['A call Kit', '!! settled', '! who pays', 'talk', '* talk'].map((l) => inSigns(l, own, USUAL_LEGEND))).toEqual(['! call Kit', '= settled', '? who pays', '- talk', '- talk']);
  expect(inSigns(inSigns('!! a ! b', own, USUAL_LEGEND), USUAL_LEGEND, own)).toBe('!! a ! b');
});

it('goes through the kinds in a ring, and shortens names', () => {
  expect(['action', 'decision', 'question', 'point'].map((k) => nextKind(k as 'action'))).toEqual(['decision', 'question', 'point', 'action']);
  expect([initials('Ines Falk'), initials('Anna Maria van Dyk')]).toEqual(['IF', 'AMV']);
});
