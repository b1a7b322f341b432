import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { weekday } from '../../../src/core/dates/calendar.ts';
import { firstDays, readRhythm, readWhen, rhythmInWords, timeIn } from '../../../src/core/meetings/rhythm.ts';

describe('a rhythm', () => {
  it.each([
    ['every second Tuesday at 10:00', 2, 2, '10:00'],
    ['Thursdays, 9.30', 4, 1, '09:30'],
    ['every 3 weeks on Friday at 2pm', 5, 3, '14:00'],
    ['each other wed 12am', 3, 2, '00:00'],
    ['Weekly on Monday 08:05', 1, 1, '08:05'],
    ['every fortnight, Sunday, 14h30', 7, 2, '14:30'],
    ['every 2nd Monday 12pm', 1, 2, '12:00'],
  ])('is read from “%s”', (text, day, everyWeeks, time) => {
    expect(readRhythm(text)).toEqual({ weekday: day, everyWeeks, time });
  });
  it.each(['every now and then', 'Tuesday', 'at 10:00', 'Monday at 25:00', 'Monday at 13pm', 'Monday at 10:75', 'every 40 weeks on Monday at 10:00', ''])('is not read from “%s”', (text) => {
    expect(readRhythm(text)).toBeNull();
  });
  it('is said so that it is read again as the same', () => {
    const rhythm = fc.record({ weekday: fc.integer({ min: 1, max: 7 }), everyWeeks: fc.integer({ min: 1, max: 12 }), time: fc.tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 })).map(([h, m]) => `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`) });
    fc.assert(
      fc.property(rhythm, (r) => {
        expect(readRhythm(rhythmInWords(r))).toEqual(r);
      }),
    );
  });
  it('gives days on its weekday, so many weeks apart, from today on', () => {
    expect(firstDays({ weekday: 4, everyWeeks: 2, time: '10:00' }, '2026-03-05', 3)).toEqual(['2026-03-05', '2026-03-19', '2026-04-02']);
    expect(firstDays({ weekday: 3, everyWeeks: 1, time: '10:00' }, '2026-03-05', 2)).toEqual(['2026-03-11', '2026-03-18']);
    for (let d = 1; d <= 7; d++) expect(firstDays({ weekday: d, everyWeeks: 1, time: '10:00' }, '2026-12-30', 4).every((x) => weekday(x) === d && x >= '2026-12-30')).toBe(true);
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
