import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../../src/core/dates/calendar.ts';
import type { WeaveRow } from '../../src/core/ledger/weave.ts';
import { AFTER, BETWEEN_GROUPS, crossing, endWords, placeRows, ROW, scaleOf } from '../../src/views/weave/drawing.ts';

const row = (more: Partial<WeaveRow> = {}): WeaveRow => ({ key: 'C-1.0', id: 1, ref: 'C-1', text: 't', holder: ['ines'], stretches: [], knots: [], due: '2026-03-09', late: 0, open: true, ended: null, handedTo: null, ...more });
const weekly = (n: number) => Array.from({ length: n }, (_, i) => addDays('2026-01-01', i * 7));

describe('days across', () => {
  it('fill the page where there is room, and scroll where there is not', () => {
    const few = weekly(8);
    expect(scaleOf(few[0]!, few[7]!, few, 780).width).toBeLessThanOrEqual(900);
    const many = weekly(60);
    const wide = scaleOf(many[0]!, many[59]!, many, 780);
    expect(wide.width).toBeGreaterThan(3000);
    expect(wide.x(many[1]!) - wide.x(many[0]!)).toBeGreaterThanOrEqual(57);
  });
  it('keep their order and stay inside the drawing', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 40 }), fc.integer({ min: 200, max: 1800 }), (days, at, room) => {
        const from = '2026-01-01';
        const to = addDays(from, days);
        const dates = [...new Set(at.map((d) => Math.min(d, days)))].sort((a, b) => a - b).map((d) => addDays(from, d));
        const s = scaleOf(from, to, dates, room);
        for (let i = 1; i < dates.length; i++) expect(s.x(dates[i]!)).toBeGreaterThan(s.x(dates[i - 1]!));
        expect(s.x(to) + AFTER).toBeLessThanOrEqual(s.width + 1);
        expect(s.x(addDays(from, -30))).toBe(s.x(from));
        expect(s.x(addDays(to, 30))).toBe(s.x(to));
      }),
    );
  });
  it('of one single day are drawn too', () => {
    expect(scaleOf('2026-03-05', '2026-03-05', ['2026-03-05'], 780).x('2026-03-05')).toBe(20);
  });
});

describe('rows', () => {
  it('stand one under the other, groups apart', () => {
    const { placed, tops, height } = placeRows([
      { holder: 'a', rows: [row(), row({ key: 'C-2.0' })] },
      { holder: 'b', rows: [row({ key: 'C-3.0' })] },
    ]);
    expect(placed[1]!.y - placed[0]!.y).toBe(ROW);
    expect(placed[2]!.y - placed[1]!.y).toBe(ROW + BETWEEN_GROUPS);
    expect(tops[1]!.y).toBe(tops[0]!.y + tops[0]!.height);
    expect(height).toBeGreaterThan(placed[2]!.y + ROW / 2);
  });
  it('of nothing take no height to speak of', () => {
    expect(placeRows([])).toMatchObject({ placed: [], tops: [] });
  });
});

describe('a hand-over', () => {
  it.each([
    ['down', 100, 150],
    ['up', 150, 100],
  ])('crosses %s from the one row to the other, with its stroke in the middle', (_, from, to) => {
    const c = crossing(50, from, to);
    expect(c.path.startsWith(`M32 ${from}`)).toBe(true);
    expect(c.path.endsWith(`68 ${to}`)).toBe(true);
    expect(c.stroke).toBe('M45 129L55 121');
  });
});

describe('what stands at the end of a thread', () => {
  const day = (d: string) => d.slice(5);
  it.each([
    [{}, { text: '03-09', look: 'plain' }],
    [{ late: 1 }, { text: '1 day late', look: 'late' }],
    [{ late: 6 }, { text: '6 days late', look: 'late' }],
    [{ due: null }, { text: 'no date', look: 'soon' }],
    [{ holder: [] }, { text: '03-09, no owner', look: 'soon' }],
    [
      { holder: [], due: null },
      { text: 'no owner, no date', look: 'soon' },
    ],
    [{ open: false, ended: 'done' as const }, null],
  ])('%o: %o', (more, words) => {
    expect(endWords(row(more), day)).toEqual(words);
  });
});
