import { en } from 'chrono-node';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, addMonths, dayOfWeek, daysBetween, endOfMonth, isIsoDate, isoWeek, nextDayOfMonth, nextWeekday, weekday } from '../../../src/core/dates/calendar.ts';
import { readDatesIn } from '../../../src/core/dates/languages.ts';
import { readDates, readTypedDate, readTypedPastDate } from '../../../src/core/dates/read.ts';

/** Thursday 5 March 2026; the next sitting is a week later. */
const context = { date: '2026-03-05', next: '2026-03-12' };
const dates = (text: string, c = context) => readDates(text, c).map((d) => d.date);

describe('what phrases mean (docs/dates.md)', () => {
  it.each([
    ['today', '2026-03-05'],
    ['by tonight', '2026-03-05'],
    ['by end of day', '2026-03-05'],
    ['before close of business', '2026-03-05'],
    ['EOD', '2026-03-05'],
    ['tomorrow', '2026-03-06'],
    ['first thing tomorrow', '2026-03-06'],
    ['the day after tomorrow', '2026-03-07'],
    ['by Friday', '2026-03-06'],
    ['on Thursday', '2026-03-12'],
    ['Monday', '2026-03-09'],
    ['till Tuesday', '2026-03-10'],
    ['this Thursday', '2026-03-05'],
    ['next Tuesday', '2026-03-10'],
    ['next Friday', '2026-03-13'],
    ['Friday week', '2026-03-13'],
    ['tuesday after next', '2026-03-17'],
    ['next week, Wednesday', '2026-03-11'],
    ['end of the week', '2026-03-06'],
    ['by the end of next week', '2026-03-13'],
    ['next week', '2026-03-13'],
    ['beginning of next week', '2026-03-09'],
    ['early next week', '2026-03-09'],
    ['before Friday', '2026-03-05'],
    ['before the weekend', '2026-03-06'],
    ['before next Friday', '2026-03-12'],
    ['in two weeks', '2026-03-19'],
    ['in ten days', '2026-03-15'],
    ['a couple of days', '2026-03-07'],
    ['in two months', '2026-05-05'],
    ['within a fortnight', '2026-03-19'],
    ['two weeks from now', '2026-03-19'],
    ['by the 15th', '2026-03-15'],
    ['by the fifth', '2026-03-05'],
    ['by the fourth', '2026-04-04'],
    ['the twenty-first', '2026-03-21'],
    ['Friday the 13th', '2026-03-13'],
    ['the Monday, the sixteenth', '2026-03-16'],
    ['mid-June', '2026-06-15'],
    ['end of the month', '2026-03-31'],
    ['end of June', '2026-06-30'],
    ['end of February', '2027-02-28'],
    ['end of the quarter', '2026-03-31'],
    ['start of April', '2026-04-01'],
    ['twentieth July', '2026-07-20'],
    ['20 Mar', '2026-03-20'],
    ['March 20', '2026-03-20'],
    ['3 January', '2027-01-03'],
    ['2026-04-01', '2026-04-01'],
    ['15/6', '2026-06-15'],
    ['1 May 2027', '2027-05-01'],
    ['for the next meeting', '2026-03-12'],
    ['next time', '2026-03-12'],
    ['before we meet again', '2026-03-12'],
    ['by the next call', '2026-03-12'],
    ['for next week’s meeting', '2026-03-12'],
    ['Friday, close of business', '2026-03-06'],
    ['by Friday eod', '2026-03-06'],
    ['end of day Monday', '2026-03-09'],
    ['before Friday lunchtime', '2026-03-06'],
    ['wed latest', '2026-03-11'],
    ['Monday first thing', '2026-03-09'],
    ['Friday the first', '2026-04-01'],
    ['a week today', '2026-03-12'],
    ['a week tomorrow', '2026-03-13'],
    ['tomorrow week', '2026-03-13'],
    ['two weeks from Monday', '2026-03-23'],
    ['a week on Monday', '2026-03-16'],
    ['Monday fortnight', '2026-03-23'],
    ['before the week’s out', '2026-03-06'],
    ['within the week', '2026-03-06'],
    ['before the month is out', '2026-03-31'],
    ['midweek', '2026-03-04'],
    ['by mid-month', '2026-03-15'],
    ['the middle of next month', '2026-04-15'],
    ['the 5th of next month', '2026-04-05'],
    ['early next month', '2026-04-01'],
    ['the end of next month', '2026-04-30'],
    ['the last Friday of the month', '2026-03-27'],
    ['first Monday in June', '2026-06-01'],
    ['second Tuesday of next month', '2026-04-14'],
    ['end of Q2', '2026-06-30'],
    ['end of Q1', '2026-03-31'],
    ['year end', '2026-12-31'],
    ['by 13.3.', '2026-03-13'],
    ['Fri 20.3.', '2026-03-20'],
    ['until 1.2.', '2027-02-01'],
  ])('%s is %s', (phrase, date) => {
    expect(dates(phrase)).toEqual([date]);
  });
  it.each([
    ['It’s printed on Monday and posted the day after', ['2026-03-09', '2026-03-10']],
    ['The board is on the 20th, I’ll have it the day before', ['2026-03-20', '2026-03-19']],
    ['The board is on the 20th, the Wednesday before that I’ll have it', ['2026-03-20', '2026-03-18']],
    ['Her flight lands on Monday, so the Friday after', ['2026-03-09', '2026-03-13']],
    ['They come on Tuesday, you have it the same day', ['2026-03-10', '2026-03-10']],
    ['The day before the audit', []],
    ['the day after tomorrow', ['2026-03-07']],
  ])('%s', (text, wanted) => {
    expect(dates(text)).toEqual(wanted);
  });
  it('counts from what was said last when the text names no day before', () => {
    expect(dates('I’ll send it the day after', { ...context, spoken: '2026-03-16' } as never)).toEqual(['2026-03-17']);
    expect(dates('I’ll send it the day after')).toEqual([]);
  });
  it.each(['as soon as possible', 'when I get a chance', 'soon'])('%s names no day', (phrase) => {
    expect(dates(phrase)).toEqual([null]);
  });
  it.each(['last Friday', 'since Monday', 'he sat down', 'she won the first round', 'a second attempt', 'I may come', 'we march on', 'every Tuesday', 'the third option', 'we run version 1.2.', 'see 3.4.', 'hello there'])('%s is no date', (phrase) => {
    expect(dates(phrase)).toEqual([]);
  });
  it('keeps the preposition with the phrase and its place', () => {
    const text = 'I’ll send it by Friday, promise.';
    const [d] = readDates(text, context);
    expect(d).toMatchObject({ phrase: 'by Friday', lead: 'by' });
    expect(text.slice(d!.from, d!.to)).toBe('by Friday');
  });
  it('reads two dates of one sentence in order', () => {
    expect(dates('The audit is on the 9th, I’ll send it by Tuesday')).toEqual(['2026-03-09', '2026-03-10']);
  });
  it('gives no date for the next meeting when there is none', () => {
    expect(dates('by the next meeting', { date: '2026-03-05', next: null as unknown as string })).toEqual([]);
  });
});

describe('typed into a field', () => {
  it.each([
    ['fri', '2026-03-06'],
    ['sat', '2026-03-07'],
    ['15', '2026-03-15'],
    ['in 2 weeks', '2026-03-19'],
    ['eom', '2026-03-31'],
    ['tuesday after next', '2026-03-17'],
    ['fri at 10', '2026-03-06'],
  ])('%s', (text, date) => {
    expect(readTypedDate(text, context)).toBe(date);
  });
  it.each(['', 'hello', 'friday or monday', 'x'.repeat(100), '45'])('%j is not a day', (text) => {
    expect(readTypedDate(text, context)).toBeNull();
  });
});

describe('against chrono-node’s own reading of plain phrases', () => {
  it.each(['20 March 2026', 'March 20, 2026', '2026-04-01', 'tomorrow', 'today', '1 May 2027', '5th of June 2026'])('%s', (phrase) => {
    const theirs = en.GB.parseDate(phrase, { instant: new Date('2026-03-05T12:00:00Z'), timezone: 0 }, { forwardDate: true })!;
    expect(dates(phrase)).toEqual([theirs.toISOString().slice(0, 10)]);
  });
});

describe('calendar', () => {
  it.each([
    // ISO 8601:2004, 3.2.2 and its well-known edge cases: week 1 holds the year's first Thursday
    ['2005-01-01', 2004, 53],
    ['2005-01-02', 2004, 53],
    ['2005-12-31', 2005, 52],
    ['2007-01-01', 2007, 1],
    ['2007-12-30', 2007, 52],
    ['2007-12-31', 2008, 1],
    ['2008-01-01', 2008, 1],
    ['2008-12-29', 2009, 1],
    ['2009-12-31', 2009, 53],
    ['2010-01-03', 2009, 53],
  ])('%s is in week %i-W%i', (date, year, week) => {
    expect(isoWeek(date)).toEqual({ year, week });
  });
  it('adds months to the last day where the month is shorter', () => {
    expect(addMonths('2026-01-31', 1)).toBe('2026-02-28');
    expect(addMonths('2024-01-31', 1)).toBe('2024-02-29');
    expect(endOfMonth('2026-02-10')).toBe('2026-02-28');
    expect(nextDayOfMonth('2026-02-10', 31)).toBe('2026-03-31');
  });
  it('knows dates that do not exist', () => {
    expect(isIsoDate('2026-02-29')).toBe(false);
    expect(isIsoDate('2026-13-01')).toBe(false);
    expect(isIsoDate('26-1-1')).toBe(false);
  });
  it('is consistent for any day', () => {
    const day = fc.integer({ min: 0, max: 60_000 }).map((n) => addDays('1970-01-01', n));
    fc.assert(
      fc.property(day, fc.integer({ min: 1, max: 7 }), (d, w) => {
        const next = nextWeekday(d, w);
        expect(weekday(next)).toBe(w);
        expect(daysBetween(d, next)).toBeGreaterThan(0);
        expect(daysBetween(d, next)).toBeLessThan(8);
        expect(weekday(dayOfWeek(d, w))).toBe(w);
        expect(Math.abs(daysBetween(d, dayOfWeek(d, w)))).toBeLessThan(7);
      }),
    );
  });
});

describe('a weekday beside the day it falls on is one date', () => {
  it.each([
    ['by Tuesday, March 17', '2026-03-17'],
    ['by Wed, April 8, 2026', '2026-04-08'],
    ['by Friday 15 May', '2026-05-15'],
    ['by Fri 6 Mar', '2026-03-06'],
    ['Sunday, Nov. 1', '2026-11-01'],
    ['Tues 17/3', '2026-03-17'],
    ['Wednesday (11 March)', '2026-03-11'],
    ['the 17th (Tuesday)', '2026-03-17'],
    ['Thursday 12', '2026-03-12'],
    ['before Tuesday, March 17', '2026-03-16'],
    ['on Monday the 16th', '2026-03-16'],
  ])('%s', (text, date) => expect(dates(text)).toEqual([date]));

  it('holds for every weekday, in either order of day and month', () => {
    const [days, months] = [
      ['Mon', 'Tuesday', 'Wed.', 'Thursday', 'Fri', 'Saturday', 'Sun.'],
      ['January', 'Feb.', 'March', 'Apr', 'May', 'June', 'Jul.', 'August', 'Sept.', 'October', 'Nov', 'Dec.'],
    ];
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 360 }), fc.boolean(), fc.constantFrom(' ', ', '), (ahead, american, gap) => {
        const day = addDays(context.date, ahead);
        const [month, nth] = [months[Number(day.slice(5, 7)) - 1], Number(day.slice(8))];
        const written = `${days[weekday(day) - 1]}${gap}${american ? `${month} ${nth}` : `${nth} ${month}`}`;
        expect(dates(`Please send it by ${written}`), written).toEqual([day]);
      }),
    );
  });

  it('keeps two days apart that are moved from and to', () => expect(dates('moved from Tuesday to March 17')).toEqual(['2026-03-10', '2026-03-17']));
});

describe('a number word before a noun is no date', () => {
  it.each(['the second welder starts', 'the third ferry', 'by the second week', 'the first draft', 'on the 2nd floor', 'the 20th anniversary', 'for the third time', 'by the twenty-first century', 'the second half of April', 'the second we hang up', 'the fourth-floor heating'])('%s', (text) =>
    expect(dates(text)).toEqual([]),
  );
  it.each([
    ['by the second', '2026-04-02'],
    ['on the 15th, please', '2026-03-15'],
    ['by the 15th and not later', '2026-03-15'],
    ['the 19th of this month', '2026-03-19'],
    ['by the 20th I will know', '2026-03-20'],
    ['the 15th would suit', '2026-03-15'],
  ])('%s', (text, date) => expect(dates(text)).toEqual([date]));
});

describe('stretches of time', () => {
  it.each([
    ['Aug. 25', '2026-08-25'],
    ['11 Sept. 2027', '2027-09-11'],
    ['3 days from Monday', '2026-03-12'],
    ['two weeks after 15 March', '2026-03-29'],
    ['the day after Monday', '2026-03-10'],
    ['two days before the 20th', '2026-03-18'],
    ['in ten working days', '2026-03-19'],
    ['within 5 business days', '2026-03-12'],
    ['in two to three weeks', '2026-03-26'],
    ['in 3-4 days', '2026-03-09'],
    ['in a week or two', '2026-03-19'],
    ['end of the year', '2026-12-31'],
    ['by EOY', '2026-12-31'],
    ['before the end of the year', '2026-12-31'],
    ['end of 2027', '2027-12-31'],
    ['this month', '2026-03-31'],
    ['before this month is out', '2026-03-31'],
    ['this quarter', '2026-03-31'],
    ['next quarter', '2026-06-30'],
    ['a year from now', '2027-03-05'],
    ['in half a year', '2026-09-05'],
    ['in 3 wks', '2026-03-26'],
  ])('%s', (text, date) => expect(dates(text)).toEqual([date]));

  it('counts working days as WORKDAY of the OpenDocument formula standard does', () => {
    // ODF 1.2 part 2, 6.10.22: the start is not counted, Saturdays and Sundays are passed over
    expect(dates('in 1 working day', { date: '2026-03-06', next: '2026-03-12' })).toEqual(['2026-03-09']);
    expect(dates('in ten working days', { date: '2026-03-07', next: '2026-03-12' })).toEqual(['2026-03-20']);
  });
});

describe('a past day typed where one is wanted', () => {
  /** Monday 30 November 2026. */
  const past = (text: string) => readTypedPastDate(text, '2026-11-30');
  it.each([
    ['yesterday', '2026-11-29'],
    ['the day before yesterday', '2026-11-28'],
    ['last Thursday', '2026-11-26'],
    ['thursday', '2026-11-26'],
    ['Monday', '2026-11-30'],
    ['last Monday', '2026-11-23'],
    ['26 Nov', '2026-11-26'],
    ['Nov. 26', '2026-11-26'],
    ['Fri 27 Nov', '2026-11-27'],
    ['24 December', '2025-12-24'],
    ['the 26th', '2026-11-26'],
    ['31', '2026-10-31'],
    ['three days ago', '2026-11-27'],
    ['two weeks ago', '2026-11-16'],
    ['today', '2026-11-30'],
    ['2026-11-20', '2026-11-20'],
    ['3 Nov 2026', '2026-11-03'],
    ['1 January 2027', '2027-01-01'],
  ])('%s', (text, date) => expect(past(text)).toBe(date));
  it.each(['tomorrow', 'in two weeks', 'whenever', '', 'yesteryear', 'last week'])('%s is none', (text) => expect(past(text)).toBeNull());
});

describe('other languages', () => {
  it.each([
    ['de', 'bis 20.3.', '2026-03-20'],
    ['de', 'bis zum 20.03.2026', '2026-03-20'],
    ['de', 'Freitag, 20.3.', '2026-03-20'],
    ['de', 'in zwei Monaten', '2026-05-05'],
    ['de', 'in zwei bis drei Wochen', '2026-03-26'],
    ['de', 'in 5 Arbeitstagen', '2026-03-12'],
    ['de', 'übermorgen', '2026-03-07'],
    ['de', 'nächste Woche Freitag', '2026-03-13'],
    ['de', 'bis Ende März', '2026-03-31'],
    ['de', 'Donnerstag, 19. März', '2026-03-19'],
    ['es', 'pasado mañana', '2026-03-07'],
    ['es', 'en dos meses', '2026-05-05'],
    ['es', 'el viernes de la semana que viene', '2026-03-13'],
    ['es', 'a finales de marzo', '2026-03-31'],
    ['fr', 'après-demain', '2026-03-07'],
    ['fr', 'dans deux mois', '2026-05-05'],
    ['fr', 'd’ici la fin de la semaine', '2026-03-06'],
    ['fr', 'vendredi de la semaine prochaine', '2026-03-13'],
    ['pt', 'depois de amanhã', '2026-03-07'],
    ['pt', 'em duas semanas', '2026-03-19'],
    ['pt', 'até ao fim do mês', '2026-03-31'],
  ] as const)('%s: %s', (language, text, date) => expect(readDatesIn(language, text, context).map((d) => d.date)).toEqual([date]));
});
