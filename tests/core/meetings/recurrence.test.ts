import { describe, expect, it } from 'vitest';
import { addDays, daysBetween } from '../../../src/core/dates/calendar.ts';
import { daysOf, isRule, ruleInWords, weekdaysOf } from '../../../src/core/meetings/recurrence.ts';

/** `1997-09: 2 3 4; 1997-10: 1` as days. */
const days = (text: string) =>
  text.split('; ').flatMap((part) => {
    const [month, list] = part.split(': ');
    return list!.split(' ').map((d) => `${month}-${d.padStart(2, '0')}`);
  });
const run = (from: string, count: number, step: number) => Array.from({ length: count }, (_, i) => addDays(from, i * step));

/** The examples of RFC 5545 §3.8.5.3 that go by days, with the days it gives for them (those ending in … as far as it lists them). */
const EXAMPLES: [string, string, string, string[]][] = [
  ['daily for 10 occurrences', 'FREQ=DAILY;COUNT=10', '1997-09-02', run('1997-09-02', 10, 1)],
  ['daily until December 24, 1997', 'FREQ=DAILY;UNTIL=19971224T000000Z', '1997-09-02', run('1997-09-02', daysBetween('1997-09-02', '1997-12-23') + 1, 1)],
  ['every other day - forever', 'FREQ=DAILY;INTERVAL=2', '1997-09-02', [...run('1997-09-02', 15, 2), ...run('1997-10-02', 15, 2)]],
  ['every 10 days, 5 occurrences', 'FREQ=DAILY;INTERVAL=10;COUNT=5', '1997-09-02', days('1997-09: 2 12 22; 1997-10: 2 12')],
  ['weekly for 10 occurrences', 'FREQ=WEEKLY;COUNT=10', '1997-09-02', run('1997-09-02', 10, 7)],
  ['weekly until December 24, 1997', 'FREQ=WEEKLY;UNTIL=19971224T000000Z', '1997-09-02', run('1997-09-02', 17, 7)],
  ['every other week - forever', 'FREQ=WEEKLY;INTERVAL=2;WKST=SU', '1997-09-02', days('1997-09: 2 16 30; 1997-10: 14 28; 1997-11: 11 25; 1997-12: 9 23; 1998-01: 6 20; 1998-02: 3 17')],
  ['weekly on Tuesday and Thursday for five weeks', 'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH', '1997-09-02', days('1997-09: 2 4 9 11 16 18 23 25 30; 1997-10: 2')],
  ['the same, counted', 'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH', '1997-09-02', days('1997-09: 2 4 9 11 16 18 23 25 30; 1997-10: 2')],
  ['every other week on Monday, Wednesday and Friday until December 24', 'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR', '1997-09-01', days('1997-09: 1 3 5 15 17 19 29; 1997-10: 1 3 13 15 17 27 29 31; 1997-11: 10 12 14 24 26 28; 1997-12: 8 10 12 22')],
  ['every other week on Tuesday and Thursday, for 8 occurrences', 'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH', '1997-09-02', days('1997-09: 2 4 16 18 30; 1997-10: 2 14 16')],
  ['monthly on the first Friday for 10 occurrences', 'FREQ=MONTHLY;COUNT=10;BYDAY=1FR', '1997-09-05', days('1997-09: 5; 1997-10: 3; 1997-11: 7; 1997-12: 5; 1998-01: 2; 1998-02: 6; 1998-03: 6; 1998-04: 3; 1998-05: 1; 1998-06: 5')],
  ['monthly on the first Friday until December 24, 1997', 'FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR', '1997-09-05', days('1997-09: 5; 1997-10: 3; 1997-11: 7; 1997-12: 5')],
  ['every other month on the first and last Sunday', 'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU', '1997-09-07', days('1997-09: 7 28; 1997-11: 2 30; 1998-01: 4 25; 1998-03: 1 29; 1998-05: 3 31')],
  ['monthly on the second-to-last Monday for 6 months', 'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', '1997-09-22', days('1997-09: 22; 1997-10: 20; 1997-11: 17; 1997-12: 22; 1998-01: 19; 1998-02: 16')],
  ['monthly on the third-to-the-last day, forever', 'FREQ=MONTHLY;BYMONTHDAY=-3', '1997-09-28', days('1997-09: 28; 1997-10: 29; 1997-11: 28; 1997-12: 29; 1998-01: 29; 1998-02: 26')],
  ['monthly on the 2nd and 15th for 10 occurrences', 'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15', '1997-09-02', days('1997-09: 2 15; 1997-10: 2 15; 1997-11: 2 15; 1997-12: 2 15; 1998-01: 2 15')],
  ['monthly on the first and last day for 10 occurrences', 'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1', '1997-09-30', days('1997-09: 30; 1997-10: 1 31; 1997-11: 1 30; 1997-12: 1 31; 1998-01: 1 31; 1998-02: 1')],
  ['every 18 months on the 10th thru 15th', 'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15', '1997-09-10', days('1997-09: 10 11 12 13 14 15; 1999-03: 10 11 12 13')],
  ['every Tuesday, every other month', 'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU', '1997-09-02', days('1997-09: 2 9 16 23 30; 1997-11: 4 11 18 25; 1998-01: 6 13 20 27; 1998-03: 3 10 17 24 31')],
  ['yearly in June and July for 10 occurrences', 'FREQ=YEARLY;COUNT=10;BYMONTH=6,7', '1997-06-10', days('1997-06: 10; 1997-07: 10; 1998-06: 10; 1998-07: 10; 1999-06: 10; 1999-07: 10; 2000-06: 10; 2000-07: 10; 2001-06: 10; 2001-07: 10')],
  ['every other year on January, February, and March', 'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3', '1997-03-10', days('1997-03: 10; 1999-01: 10; 1999-02: 10; 1999-03: 10; 2001-01: 10; 2001-02: 10; 2001-03: 10; 2003-01: 10; 2003-02: 10; 2003-03: 10')],
  ['every third year on the 1st, 100th, and 200th day', 'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200', '1997-01-01', days('1997-01: 1; 1997-04: 10; 1997-07: 19; 2000-01: 1; 2000-04: 9; 2000-07: 18; 2003-01: 1; 2003-04: 10; 2003-07: 19; 2006-01: 1')],
  ['every 20th Monday of the year', 'FREQ=YEARLY;BYDAY=20MO', '1997-05-19', days('1997-05: 19; 1998-05: 18; 1999-05: 17')],
  ['Monday of week number 20', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997-05-12', days('1997-05: 12; 1998-05: 11; 1999-05: 17')],
  ['every Thursday in March', 'FREQ=YEARLY;BYMONTH=3;BYDAY=TH', '1997-03-13', days('1997-03: 13 20 27; 1998-03: 5 12 19 26; 1999-03: 4 11 18 25')],
  ['every Thursday, but only during June, July, and August', 'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8', '1997-06-05', days('1997-06: 5 12 19 26; 1997-07: 3 10 17 24 31; 1997-08: 7 14 21 28; 1998-06: 4 11 18 25; 1998-07: 2 9 16 23 30; 1998-08: 6 13 20 27')],
  ['every Friday the 13th', 'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', '1997-09-02', days('1998-02: 13; 1998-03: 13; 1998-11: 13; 1999-08: 13; 2000-10: 13')],
  ['the first Saturday that follows the first Sunday of the month', 'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13', '1997-09-13', days('1997-09: 13; 1997-10: 11; 1997-11: 8; 1997-12: 13; 1998-01: 10; 1998-02: 7; 1998-03: 7; 1998-04: 11; 1998-05: 9; 1998-06: 13')],
  ['every 4 years, the first Tuesday after a Monday in November', 'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8', '1996-11-05', days('1996-11: 5; 2000-11: 7; 2004-11: 2')],
  ['the third instance of Tuesday, Wednesday, or Thursday, for 3 months', 'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3', '1997-09-04', days('1997-09: 4; 1997-10: 7; 1997-11: 6')],
  ['the second-to-last weekday of the month', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2', '1997-09-29', days('1997-09: 29; 1997-10: 30; 1997-11: 27; 1997-12: 30; 1998-01: 29; 1998-02: 26; 1998-03: 30')],
  ['week start matters: MO', 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', '1997-08-05', days('1997-08: 5 10 19 24')],
  ['week start matters: SU', 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', '1997-08-05', days('1997-08: 5 17 19 31')],
  ['an invalid date is ignored', 'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', '2007-01-15', days('2007-01: 15 30; 2007-02: 15; 2007-03: 15 30')],
];

describe('the days of a rule', () => {
  it.each(EXAMPLES)('RFC 5545: %s', (_, rule, start, expected) => {
    expect(daysOf(rule, start, { count: expected.length, time: '09:00' })).toEqual(expected);
    if (/COUNT|UNTIL/.test(rule)) expect(daysOf(rule, start, { time: '09:00' })).toEqual(expected);
  });
  it('RFC 5545: everyday in January, for 3 years, said in two ways', () => {
    const expected = ['1998', '1999', '2000'].flatMap((y) => run(`${y}-01-01`, 31, 1));
    expect(daysOf('FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA', '1998-01-01', {})).toEqual(expected);
    expect(daysOf('FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1', '1998-01-01', {})).toEqual(expected);
  });
  it.each(['FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T170000Z', 'FREQ=MINUTELY;INTERVAL=15;COUNT=6', 'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40', 'FREQ=FORTNIGHTLY', 'FREQ=WEEKLY;INTERVAL=0', 'nonsense', ''])('%s is several times a day, or no rule', (rule) => {
    expect(isRule(rule)).toBe(false);
    expect(daysOf(rule, '1997-09-02', {})).toEqual([]);
  });
  it('an old series goes on as if counted from its first day', () => {
    for (const rule of ['FREQ=WEEKLY;INTERVAL=3;BYDAY=MO,TH', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', 'FREQ=MONTHLY;BYDAY=-1TH']) {
      const all = daysOf(rule, '2016-02-04', { to: '2026-12-31' }).filter((d) => d >= '2026-03-05');
      expect(daysOf(rule, '2016-02-04', { from: '2026-03-05', to: '2026-12-31' })).toEqual(all);
    }
  });
  it('a rule that gives no day ends', () => expect(daysOf('FREQ=MONTHLY;BYMONTHDAY=31;BYMONTH=2', '2026-01-01', { count: 1 })).toEqual([]));
  it('names its weekdays and says itself in words', () => {
    expect(weekdaysOf('FREQ=MONTHLY;BYDAY=-1TH,1MO')).toEqual([1, 4]);
    expect(ruleInWords('FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR')).toBe('every weekday');
    expect(ruleInWords('FREQ=MONTHLY;BYDAY=1MO,3MO')).toBe('the first and third Monday of every month');
    expect(ruleInWords('FREQ=YEARLY;BYMONTH=11;BYDAY=2TU')).toBe('the second Tuesday of November');
    expect(ruleInWords('FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=-1;UNTIL=20261231')).toBe('the last day of every third month, until 2026-12-31');
  });
});
