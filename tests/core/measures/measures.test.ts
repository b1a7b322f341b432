import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, daysBetween } from '../../../src/core/dates/calendar.ts';
import { agesOf, medianAge } from '../../../src/core/measures/ages.ts';
import { answeringOf } from '../../../src/core/measures/answers.ts';
import { behindOf } from '../../../src/core/measures/behind.ts';
import { flowOf } from '../../../src/core/measures/flow.ts';
import { forecastOf } from '../../../src/core/measures/forecast.ts';
import { keptBy, wasKept } from '../../../src/core/measures/kept.ts';
import type { Measured } from '../../../src/core/measures/measured.ts';
import { meetingWeeks } from '../../../src/core/measures/meetings.ts';
import { slipsOf } from '../../../src/core/measures/slips.ts';

const TODAY = '2026-03-05';
let next = 0;
const c = (over: Partial<Measured> = {}): Measured => {
  const madeOn = over.madeOn ?? '2026-02-01';
  const due = over.due === undefined ? '2026-02-10' : over.due;
  return { id: ++next, ref: `C-${next}`, project: 'p', series: 'a', owner: ['ada'], state: 'open', madeOn, endedOn: null, due, dues: [{ on: madeOn, due }], moved: 0, carried: 0, loose: false, ...over };
};

describe('made, ended, open and late', () => {
  it('day by day; late goes by the date it had then', () => {
    const moved = c({
      madeOn: '2026-02-01',
      due: '2026-02-08',
      dues: [
        { on: '2026-02-01', due: '2026-02-03' },
        { on: '2026-02-05', due: '2026-02-08' },
      ],
    });
    const flow = flowOf([moved, c({ madeOn: '2026-02-02', endedOn: '2026-02-04', state: 'done', due: null }), c({ state: 'merged', endedOn: '2026-02-03' })], '2026-02-01', '2026-02-10');
    expect(flow.map((p) => [p.made, p.ended, p.open, p.late])).toEqual([
      [1, 0, 1, 0],
      [2, 0, 2, 0],
      [2, 0, 2, 0],
      [2, 1, 1, 1],
      [2, 1, 1, 0],
      [2, 1, 1, 0],
      [2, 1, 1, 0],
      [2, 1, 1, 0],
      [2, 1, 1, 1],
      [2, 1, 1, 1],
    ]);
  });
  const some = fc.array(
    fc.record({ made: fc.integer({ min: 0, max: 60 }), lasts: fc.option(fc.integer({ min: 0, max: 50 })), due: fc.option(fc.integer({ min: 0, max: 40 })) }).map(({ made, lasts, due }) => {
      const madeOn = addDays('2026-01-01', made);
      const over = lasts !== null && addDays(madeOn, lasts) <= TODAY;
      return c({ madeOn, endedOn: over ? addDays(madeOn, lasts!) : null, state: over ? 'done' : 'open', due: due === null ? null : addDays(madeOn, due) });
    }),
    { maxLength: 30 },
  );
  it('each point is what counting one by one gives, and what lies behind it are those that were counted', () => {
    fc.assert(
      fc.property(some, (all) => {
        const from = '2026-01-20';
        for (const p of flowOf(all, from, TODAY)) {
          expect(p.open).toBe(all.filter((x) => x.madeOn <= p.on && (x.endedOn === null || x.endedOn > p.on)).length);
          const span = { from, today: TODAY, days: 1 };
          expect(behindOf(all, 'open', p.on, span)).toHaveLength(p.open);
          expect(behindOf(all, 'late', p.on, span)).toHaveLength(p.late);
        }
        const last = flowOf(all, from, TODAY).at(-1)!;
        expect(last.made).toBe(all.filter((x) => x.madeOn >= from && x.madeOn <= TODAY).length);
        expect(last.ended).toBe(all.filter((x) => x.endedOn !== null && x.endedOn >= from && x.endedOn <= TODAY).length);
      }),
    );
  });
  it('a long time is told week by week, and ends today', () => {
    const flow = flowOf([c({ madeOn: '2025-01-01' })], '2025-01-01', TODAY);
    expect(flow.at(-1)!.on).toBe(TODAY);
    expect(daysBetween(flow[0]!.on, flow[1]!.on)).toBe(7);
    expect(flowOf([], '2026-03-06', TODAY)).toEqual([]);
  });
});

describe('ages, promises kept, slips', () => {
  it('what is open by whole weeks, with the weeks between', () => {
    const rows = agesOf([c({ madeOn: TODAY }), c({ madeOn: '2026-02-20' }), c({ madeOn: '2024-01-01' }), c({ state: 'done', endedOn: TODAY })], TODAY);
    expect(rows.map((r) => r.open.length)).toEqual([1, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1]);
    expect(medianAge([c({ madeOn: '2026-03-01' }), c({ madeOn: '2026-02-01' })], TODAY)).toBe(32);
    expect(medianAge([], TODAY)).toBeNull();
  });
  it('kept is done by its date; late and open is not; what is to come or has no date is neither', () => {
    expect(wasKept(c({ state: 'done', endedOn: '2026-02-10' }), TODAY)).toBe(true);
    expect(wasKept(c({ state: 'done', endedOn: '2026-02-11' }), TODAY)).toBe(false);
    expect(wasKept(c(), TODAY)).toBe(false);
    expect(wasKept(c({ due: TODAY }), TODAY)).toBeNull();
    expect(wasKept(c({ due: null }), TODAY)).toBeNull();
    expect(wasKept(c({ state: 'dropped', endedOn: '2026-02-11' }), TODAY)).toBeNull();
  });
  it('by month, person and series; somebody with two holders counts for both, and once altogether', () => {
    const all = [c({ state: 'done', endedOn: '2026-02-09', owner: ['ada', 'ben'] }), c({ owner: ['ben'], due: '2026-01-20' }), c({ owner: [], series: null })];
    expect(keptBy(all, 'month', TODAY).rows.map((r) => [r.key, r.onTime, r.of])).toEqual([
      ['2026-01', 0, 1],
      ['2026-02', 1, 2],
    ]);
    const owners = keptBy(all, 'owner', TODAY);
    expect(Object.fromEntries(owners.rows.map((r) => [r.key, r.of]))).toEqual({ ada: 1, ben: 2, '': 1 });
    expect(owners.all).toMatchObject({ onTime: 1, of: 3 });
    expect(keptBy(all, 'series', TODAY).rows.map((r) => r.key)).toEqual(['a', '']);
    expect(behindOf(all, 'missed by owner', 'ben', { from: '2026-01-01', today: TODAY, days: 1 }).map((x) => x.id)).toEqual(owners.rows.find((r) => r.key === 'ben')!.missed);
  });
  it('carries and moves by series, the one that carries most first', () => {
    expect(slipsOf([c({ carried: 1, moved: 2 }), c({ series: 'b', carried: 3 }), c({ state: 'merged', endedOn: TODAY, carried: 9 })]).map((s) => [s.series, s.n, s.carries, s.moves])).toEqual([
      ['b', 1, 3, 0],
      ['a', 1, 1, 2],
    ]);
  });
});

describe('meetings and letters', () => {
  it('hours by week, weeks without any too; one without a length counts as an hour', () => {
    const weeks = meetingWeeks(
      [
        { id: 1, on: '2026-02-16', series: null, minutes: 90, there: 4 },
        { id: 2, on: '2026-03-04', series: null, minutes: null, there: 2 },
      ],
      '2026-02-16',
      TODAY,
    );
    expect(weeks.map((w) => [w.from, w.hours, w.personHours, w.size])).toEqual([
      ['2026-02-16', 1.5, 6, 4],
      ['2026-02-23', 0, 0, 0],
      ['2026-03-02', 1, 2, 2],
    ]);
  });
  it('answers by the week the letter went; silence since the first that was not answered', () => {
    const a = answeringOf(
      [
        { on: '2026-02-16', to: 'Ada', answeredOn: '2026-02-18' },
        { on: '2026-02-17', to: 'Ben', answeredOn: null },
        { on: '2026-02-24', to: 'Ben', answeredOn: null },
      ],
      TODAY,
    );
    expect(a).toMatchObject({ sent: 3, answered: 1, silent: [{ person: 'Ben', letters: 2, since: '2026-02-17' }] });
    expect(a.weeks.map((w) => [w.from, w.sent, w.answered])).toEqual([
      ['2026-02-16', 2, 1],
      ['2026-02-23', 1, 0],
    ]);
  });
});

describe('forecasts', () => {
  /** Two people over two years: one keeps four dates of five, the other one of five. */
  const history = Array.from({ length: 120 }, (_, i) => {
    const madeOn = addDays('2024-03-01', i * 6);
    const due = addDays(madeOn, 14);
    const good = i % 2 === 0;
    const kept = good ? i % 10 !== 0 : i % 10 === 1;
    const endedOn = addDays(due, kept ? -1 : 9);
    return endedOn <= TODAY ? c({ madeOn, due, owner: [good ? 'good' : 'bad'], state: 'done', endedOn }) : c({ madeOn, due, owner: [good ? 'good' : 'bad'] });
  });
  it('tell who misses dates from who keeps them, better than saying the usual share', () => {
    const open = [c({ madeOn: '2026-03-01', due: '2026-03-12', owner: ['good'] }), c({ madeOn: '2026-03-01', due: '2026-03-12', owner: ['bad'] })];
    const f = forecastOf([...history, ...open], TODAY);
    const of = (id: number) => f.misses.find((m) => m.id === id)!.miss;
    expect(of(open[0]!.id)).toBeLessThan(of(open[1]!.id) - 0.25);
    expect(f.score.n).toBeGreaterThan(100);
    expect(f.score.brier).toBeLessThan(f.score.base);
  });
  it('know nothing of what came later: another future leaves a past forecast as it was', () => {
    const early = history.filter((x) => x.madeOn < '2025-01-01');
    const dayOf = '2025-01-15';
    const a = forecastOf([...early, c({ madeOn: '2025-01-10', due: '2025-01-25', owner: ['bad'] })], dayOf).misses[0]!.miss;
    const b = forecastOf([...early, c({ madeOn: '2025-01-10', due: '2025-01-25', owner: ['bad'] }), ...history.filter((x) => x.madeOn > dayOf)], dayOf).misses.find((m) => m.miss === a);
    expect(b).toBeDefined();
  });
  it('of what is open more ends the longer one waits', () => {
    const ends = forecastOf([...history, c(), c({ madeOn: '2026-03-01' })], TODAY).ends.map((e) => e.expected);
    expect(ends).toEqual([...ends].sort((a, b) => a - b));
    expect(ends.at(-1)!).toBeGreaterThan(0);
  });
  it('are none where too little has happened', () => {
    expect(forecastOf([c({ due: '2026-03-20' })], TODAY)).toMatchObject({ misses: [], score: { n: 0 } });
  });
  it('is scored by the mean of squared differences (G. W. Brier, 1950): saying a half each time of what goes either way costs a quarter', () => {
    const f = forecastOf(history, TODAY);
    expect(f.score.base).toBeGreaterThan(0.2);
    expect(f.score.base).toBeLessThan(0.3);
  });
});
