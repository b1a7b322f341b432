import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type AgendaInput, buildAgenda, fitAgenda, POINT_KINDS, readStanding, reviewOrder } from '../../../src/core/meetings/agenda.ts';

const EMPTY: AgendaInput = { today: '2026-03-05', minutes: 60, open: [], questions: [], missed: [], standing: [] };
const open = (n: number, late: number) => Array.from({ length: n }, (_, id) => ({ id, owner: ['a'], late: id < late, miss: null }));

describe('an agenda', () => {
  it('has what is open, what was not reached, what stands, what was parked longest, and the read-back, each with its reason', () => {
    const points = buildAgenda({
      ...EMPTY,
      open: open(13, 6),
      questions: [
        { ref: 'Q-9', text: 'New?', on: '2026-03-01' },
        { ref: 'Q-1', text: 'Old?', on: '2026-01-29' },
        { ref: 'Q-4', text: 'Middle?', on: '2026-02-12' },
        { ref: 'Q-5', text: 'Later?', on: '2026-02-19' },
      ],
      missed: [{ id: 7, title: 'Shore power', minutes: 14, on: '2026-02-26' }],
      standing: [{ title: 'Safety', minutes: 5 }],
    });
    expect(points.map((p) => [p.kind, p.title, p.minutes, p.why])).toEqual([
      ['review', 'Open from before', 13, '13 open, 6 late'],
      ['carried', 'Shore power', 14, 'not reached on Thu 26 Feb'],
      ['standing', 'Safety', 5, 'every time'],
      ['question', 'Old?', 4, 'Q-1, parked on Thu 29 Jan'],
      ['question', 'Middle?', 4, 'Q-4, parked on Thu 12 Feb'],
      ['question', 'Later?', 4, 'Q-5, parked on Thu 19 Feb'],
      ['read-back', 'Read-back', 5, 'who does what by when, before it ends'],
    ]);
  });
  it('gives the review no more than its part of the meeting, however much is open', () => {
    expect(buildAgenda({ ...EMPTY, open: open(400, 300) })[0]!.minutes).toBe(24);
    expect(buildAgenda(EMPTY).map((p) => p.kind)).toEqual(['read-back']);
  });
});

describe('minutes', () => {
  const p = (kind: (typeof POINT_KINDS)[number], minutes: number) => ({ kind, minutes, title: `${kind} ${minutes}` });
  it('are as asked for where they fit, and what nobody asked for is free', () => {
    expect(fitAgenda([p('review', 12), p('own', 10), p('read-back', 5)], 60)).toMatchObject({ free: 33, without: [], points: [{ given: 12 }, { given: 10 }, { given: 5 }] });
  });
  it('give way evenly, and then questions do without first', () => {
    const short = fitAgenda([p('review', 20), p('own', 20), p('question', 4), p('read-back', 5)], 40);
    expect(short.points.reduce((n, x) => n + x.given, 0)).toBe(40);
    expect(short.without).toEqual([]);
    const tiny = fitAgenda([p('review', 20), p('own', 20), p('question', 4), p('carried', 9), p('read-back', 5)], 12);
    expect(tiny.without.map((x) => x.title)).toEqual(['question 4', 'carried 9']);
  });
  it('never come to more than the meeting has, nor to more than a point asked for', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ kind: fc.constantFrom(...POINT_KINDS), minutes: fc.integer({ min: 1, max: 90 }) }), { maxLength: 14 }), fc.integer({ min: 5, max: 240 }), (points, minutes) => {
        const fitted = fitAgenda(points, minutes);
        expect(fitted.points.reduce((n, x) => n + x.given, 0)).toBeLessThanOrEqual(minutes);
        for (const x of fitted.points) expect(x.given).toBeLessThanOrEqual(x.minutes);
        expect(fitted.points.filter((x) => !x.fits)).toHaveLength(fitted.without.length);
        // nothing is left over while somebody still asks for it
        const given = fitted.points.reduce((n, x) => n + x.given, 0);
        const wanted = fitted.points.filter((x) => x.fits).reduce((n, x) => n + x.minutes, 0);
        expect(given).toBe(Math.min(wanted, fitted.without.length ? given : minutes, wanted));
      }),
    );
  });
});

it('those least likely to be done in time are spoken of first', () => {
  const order = reviewOrder([
    { id: 1, owner: ['kit'], late: false, miss: 0.2 },
    { id: 2, owner: ['ruth'], late: false, miss: 0.8 },
    { id: 3, owner: ['kit', 'ruth'], late: true, miss: null },
    { id: 4, owner: [], late: false, miss: null },
  ]);
  expect(order.map((g) => [g.owner, g.brought.map((c) => c.id)])).toEqual([
    ['kit', [3, 1]],
    ['ruth', [2]],
    ['', [4]],
  ]);
});

it('standing points are typed a line each', () => {
  expect(readStanding('Round the table, 10\n\nSafety 5 min\nBerth 12 (8)\nBesides\nx')).toEqual([
    { title: 'Round the table', minutes: 10 },
    { title: 'Safety', minutes: 5 },
    { title: 'Berth 12', minutes: 8 },
    { title: 'Besides', minutes: 5 },
  ]);
});
