import * as spreadsheet from '@formulajs/formulajs';
import Holidays from 'date-holidays';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, weekday } from '../../../src/core/dates/calendar.ts';
import { clockAt, isQuiet, momentAt } from '../../../src/core/dates/moments.ts';
import { addWorkingDays, isWorkingDays, onWorkingDay, workingDaysBetween, workingDaysInWords, workingWeek } from '../../../src/core/dates/working-days.ts';
import { calendarOf } from '../../../src/server/letters/rules.ts';

const plain = workingWeek();
const local = (day: string) => {
  const [y, m, d] = day.split('-').map(Number);
  return new Date(y!, m! - 1, d!);
};
const iso = (date: Date) => `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;

describe('working days', () => {
  it('count as WORKDAY and NETWORKDAYS of the OpenDocument formula standard do (reference: the formulajs package)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4000 }), fc.integer({ min: 1, max: 120 }), (offset, count) => {
        const start = addDays('2020-01-01', offset);
        expect(addWorkingDays(start, count, plain)).toBe(iso(spreadsheet.WORKDAY(local(start), count) as Date));
        const end = addDays(start, count);
        // NETWORKDAYS counts both ends; ours counts the days after the first
        expect(workingDaysBetween(start, end, plain)).toBe((spreadsheet.NETWORKDAYS(local(start), local(end)) as number) - (weekday(start) <= 5 ? 1 : 0));
      }),
      { numRuns: 200 },
    );
  });
  it('give the worked example of spreadsheet handbooks: 151 working days after 1 October 2008 (values from memory)', () => {
    expect(addWorkingDays('2008-10-01', 151, plain)).toBe('2009-04-30');
    expect(addWorkingDays('2008-10-01', 151, workingWeek(['2008-11-26', '2008-12-04', '2009-01-21']))).toBe('2009-05-05');
    expect(workingDaysBetween('2012-09-30', '2013-03-01', plain)).toBe(110);
  });
  it('go backwards, and leave holidays out', () => {
    const works = workingWeek(['2026-05-01']);
    expect(addWorkingDays('2026-05-04', -2, works)).toBe('2026-04-29');
    expect(addWorkingDays('2026-05-04', -2, plain)).toBe('2026-04-30');
    expect(onWorkingDay('2026-05-01', 1, works)).toBe('2026-05-04');
    expect(onWorkingDay('2026-05-01', -1, works)).toBe('2026-04-30');
    expect(onWorkingDay('2026-04-30', 1, works)).toBe('2026-04-30');
  });
  it('come back to where they began', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 1, max: 60 }), (offset, count) => {
        const start = onWorkingDay(addDays('2024-01-01', offset), 1, plain);
        expect(addWorkingDays(addWorkingDays(start, count, plain), -count, plain)).toBe(start);
      }),
    );
  });
  it('end in a calendar without a single working day', () => {
    expect(addWorkingDays('2026-01-01', 3, () => false) > '2026-01-01').toBe(true);
  });
  it('leave out the public holidays of a country (reference: the date-holidays package), and none where none is named', () => {
    const days = new Holidays('DE', 'BY').getHolidays(2026).filter((h) => h.type === 'public');
    expect(days.length).toBeGreaterThan(8);
    const works = calendarOf('DE-BY', '2026-03-05');
    for (const h of days) expect(works(h.date.slice(0, 10))).toBe(false);
    expect(works('2026-03-05')).toBe(true);
    expect(calendarOf('', '2026-03-05')('2026-12-25')).toBe(true);
  });
});

describe('public holidays against the lists their countries published for 2026', () => {
  /**
   * England and Wales: gov.uk/bank-holidays. Germany, the nine of every state: article 2 of the unification treaty and the
   * states' laws on holidays, as the Federal Ministry of the Interior lists them. France: article L3133-1 of the code du
   * travail. The lists were written down from memory; the movable days follow from Easter, 5 April 2026.
   */
  it.each([
    ['GB-ENG', ['2026-01-01', '2026-04-03', '2026-04-06', '2026-05-04', '2026-05-25', '2026-08-31', '2026-12-25', '2026-12-28']],
    ['DE', ['2026-01-01', '2026-04-03', '2026-04-06', '2026-05-01', '2026-05-14', '2026-05-25', '2026-10-03', '2026-12-25', '2026-12-26']],
    ['FR', ['2026-01-01', '2026-04-06', '2026-05-01', '2026-05-08', '2026-05-14', '2026-05-25', '2026-07-14', '2026-08-15', '2026-11-01', '2026-11-11', '2026-12-25']],
  ])('%s', (country, published) => {
    const works = calendarOf(country, '2026-06-01', '1234567');
    const off = Array.from({ length: 365 }, (_, i) => addDays('2026-01-01', i)).filter((day) => !works(day));
    // what is marked on a Saturday or Sunday besides, such as Easter Sunday, moves no letter
    expect(off.filter((day) => weekday(day) <= 5)).toEqual(published.filter((day) => weekday(day) <= 5));
    expect(published.filter((day) => !off.includes(day))).toEqual([]);
  });
});

describe('days of the week that are worked', () => {
  it.each([
    ['12345', 'Monday to Friday'],
    ['12347', 'Sunday to Thursday'],
    ['135', 'Monday, Wednesday and Friday'],
    ['1234567', 'every day'],
    ['6', 'Saturday'],
    ['23456', 'Tuesday to Saturday'],
    ['14567', 'Thursday to Monday'],
  ])('%s are %s', (days, words) => expect(workingDaysInWords(days)).toBe(words));
  it('are somebody’s own', () => {
    const works = workingWeek(['2026-03-05'], '12347');
    expect(['2026-03-05', '2026-03-06', '2026-03-07', '2026-03-08', '2026-03-09'].map(works)).toEqual([false, false, false, true, true]);
    expect(['', '21', '8', '11', '1x'].map(isWorkingDays)).toEqual([false, false, false, false, false]);
  });
});

describe('moments', () => {
  it('are what a clock in a zone shows, also where the clocks change', () => {
    expect(momentAt('2026-03-05', '08:30', 'Europe/Lisbon').toISOString()).toBe('2026-03-05T08:30:00.000Z');
    expect(momentAt('2026-07-05', '08:30', 'Europe/Lisbon').toISOString()).toBe('2026-07-05T07:30:00.000Z');
    // the hour from 1 to 2 does not exist on that night in Lisbon
    expect(clockAt(momentAt('2026-03-29', '01:30', 'Europe/Lisbon'), 'Europe/Lisbon')).toEqual({ day: '2026-03-29', time: '02:30' });
    expect(clockAt(new Date('2026-03-05T23:30:00Z'), 'Asia/Tokyo')).toEqual({ day: '2026-03-06', time: '08:30' });
  });
  it('are quiet within a stretch, also over midnight', () => {
    const night = { from: '18:00', to: '07:30' };
    expect(['17:59', '18:00', '23:59', '00:00', '07:29', '07:30'].map((t) => isQuiet(t, night))).toEqual([false, true, true, true, true, false]);
    expect(isQuiet('12:30', { from: '12:00', to: '13:00' })).toBe(true);
    expect(isQuiet('12:30', null)).toBe(false);
  });
});
