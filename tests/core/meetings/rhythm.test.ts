import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { weekday } from '../../../src/core/dates/calendar.ts';
import { dayCode } from '../../../src/core/meetings/recurrence.ts';
import { firstDays, readRhythm, readWhen, rhythmInWords, timeIn } from '../../../src/core/meetings/rhythm.ts';

describe('a rhythm', () => {
  it.each([
    ['every second Tuesday at 10:00', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', '10:00'],
    ['Thursdays, 9.30', 'FREQ=WEEKLY;BYDAY=TH', '09:30'],
    ['every 3 weeks on Friday at 2pm', 'FREQ=WEEKLY;INTERVAL=3;BYDAY=FR', '14:00'],
    ['each other wed 12am', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=WE', '00:00'],
    ['Weekly on Monday 08:05', 'FREQ=WEEKLY;BYDAY=MO', '08:05'],
    ['every fortnight, Sunday, 14h30', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=SU', '14:30'],
    ['every 2nd Monday 12pm', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO', '12:00'],
    ['Tuesdays and Thursdays at 10', 'FREQ=WEEKLY;BYDAY=TU,TH', '10:00'],
    ['Mon, Wed and Fri, 9am', 'FREQ=WEEKLY;BYDAY=MO,WE,FR', '09:00'],
    ['every weekday at 9:15', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', '09:15'],
    ['daily at noon', 'FREQ=DAILY', '12:00'],
    ['last Thursday of the month at 14:00', 'FREQ=MONTHLY;BYDAY=-1TH', '14:00'],
    ['second Tuesday of every month, 10:00', 'FREQ=MONTHLY;BYDAY=2TU', '10:00'],
    ['first and third Monday of the month at 16.00', 'FREQ=MONTHLY;BYDAY=1MO,3MO', '16:00'],
    ['the 15th of every month at 9:00', 'FREQ=MONTHLY;BYMONTHDAY=15', '09:00'],
    ['monthly on the 1st and 15th at 9:00', 'FREQ=MONTHLY;BYMONTHDAY=1,15', '09:00'],
    ['last working day of the month at 3pm', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1', '15:00'],
    ['last day of every second month at 3pm', 'FREQ=MONTHLY;INTERVAL=2;BYMONTHDAY=-1', '15:00'],
    ['quarterly on the first Monday at 10:00', 'FREQ=MONTHLY;INTERVAL=3;BYDAY=1MO', '10:00'],
    ['every Tuesday at 10:00, ten times', 'FREQ=WEEKLY;BYDAY=TU;COUNT=10', '10:00'],
    ['every Tuesday at 10:00 until 30 June', 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20260630', '10:00'],
  ])('is read from “%s”', (text, rule, time) => {
    expect(readRhythm(text, '2026-03-05')).toEqual({ rule, time });
  });
  it.each(['every now and then', 'Tuesday', 'at 10:00', 'Monday at 25:00', 'Monday at 13pm', 'Monday at 10:75', 'every 40 weeks on Monday at 10:00', 'every Monday at 10:00 until the cows come home', 'every month at 10:00', ''])('is not read from “%s”', (text) => {
    expect(readRhythm(text)).toBeNull();
  });
  it('is said so that it is read again as the same', () => {
    const days = fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1, maxLength: 6 }).map((d) => [...d].sort().map(dayCode));
    const step = fc.integer({ min: 1, max: 12 }).map((n) => (n > 1 ? `;INTERVAL=${n}` : ''));
    const rule = fc.oneof(
      fc.tuple(step, days).map(([n, d]) => `FREQ=WEEKLY${n};BYDAY=${d.join(',')}`),
      fc.tuple(step, fc.constantFrom(1, 2, 3, 4, 5, -1), fc.integer({ min: 1, max: 7 })).map(([n, at, d]) => `FREQ=MONTHLY${n};BYDAY=${at}${dayCode(d)}`),
      fc.tuple(step, fc.integer({ min: 1, max: 31 })).map(([n, d]) => `FREQ=MONTHLY${n};BYMONTHDAY=${d}`),
    );
    const end = fc.oneof(
      fc.constant(''),
      fc.integer({ min: 2, max: 60 }).map((n) => `;COUNT=${n}`),
      fc.constant(';UNTIL=20270630'),
    );
    const time = fc.tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 })).map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`);
    const rhythm = fc.tuple(rule, end, time).map(([r, e, t]) => ({ rule: r + e, time: t }));
    fc.assert(
      fc.property(rhythm, (r) => {
        expect(readRhythm(rhythmInWords(r), '2026-03-05')).toEqual(r);
      }),
    );
  });
  it('gives days on its weekday, so many weeks apart, from today on', () => {
    expect(firstDays({ rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TH' }, '2026-03-05', 3)).toEqual(['2026-03-05', '2026-03-19', '2026-04-02']);
    expect(firstDays({ rule: 'FREQ=WEEKLY;BYDAY=WE' }, '2026-03-05', 2)).toEqual(['2026-03-11', '2026-03-18']);
    for (let d = 1; d <= 7; d++) expect(firstDays({ rule: `FREQ=WEEKLY;BYDAY=${dayCode(d)}` }, '2026-12-30', 4).every((x) => weekday(x) === d && x >= '2026-12-30')).toBe(true);
  });
  it('a single day is read with its time, and a time alone is today', () => {
    expect(readWhen('next tuesday at 14:00', '2026-03-05')).toEqual({ date: '2026-03-10', time: '14:00' });
    expect(readWhen('at 4pm', '2026-03-05')).toEqual({ date: '2026-03-05', time: '16:00' });
    expect(readWhen('friday', '2026-03-05')).toEqual({ date: '2026-03-06', time: null });
    expect(readWhen('some day', '2026-03-05')).toBeNull();
  });
  it('has times of day as people type them', () => {
    expect(['2pm', '9:15 am', '23.59', '0h05', 'noon', '24:00', 'room 12'].map(timeIn)).toEqual(['14:00', '09:15', '23:59', '00:05', null, null, null]);
  });
});
