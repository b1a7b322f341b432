import { describe, expect, it } from 'vitest';
import { firstTimes, nextTime, readTimes, type Times, timesInWords } from '../../../src/core/routines/times.ts';

const read = (text: string, today = '2026-03-05'): Times => {
  const times = readTimes(text, today);
  if ('wrong' in times) throw new Error(times.wrong);
  return times;
};
const refused = (text: string): string => {
  const times = readTimes(text, '2026-03-05');
  return 'wrong' in times ? times.wrong : timesInWords(times);
};
const first = (text: string, count: number, from = '2026-03-05T08:00:00Z', zone = 'Europe/Stockholm') => firstTimes(read(text, from.slice(0, 10)), new Date(from), zone, count).map((at) => at.toISOString().slice(0, 16));

describe('times in words', () => {
  it.each([
    ['every Friday at ten', 'every Friday at 10:00', ['2026-03-06T09:00', '2026-03-13T09:00']],
    ['Fridays at 10:00, three times', 'every Friday at 10:00, 3 times', ['2026-03-06T09:00', '2026-03-13T09:00', '2026-03-20T09:00']],
    ['weekdays at 8:30 until 10 March', 'every weekday at 08:30, until 2026-03-10', ['2026-03-06T07:30', '2026-03-09T07:30', '2026-03-10T07:30']],
    ['last working day of the month at 16:00', 'the last working day of every month at 16:00', ['2026-03-31T14:00', '2026-04-30T14:00']],
    ['every second Tuesday at nine o’clock', 'every second Tuesday at 09:00', ['2026-03-10T08:00', '2026-03-24T08:00']],
  ])('%s', (said, words, at) => {
    expect(timesInWords(read(said))).toBe(words);
    expect(first(said, at.length)).toEqual(at);
  });
  it('have an end after so many, or after a day', () => {
    expect(first('Fridays at 10:00, three times', 10)).toHaveLength(3);
    expect(nextTime(read('Fridays at 10:00, three times'), new Date('2026-03-05T00:00:00Z'), 'UTC', 3)).toBeNull();
    expect(first('0 10 * * 5 until 20 March', 10)).toEqual(['2026-03-06T09:00', '2026-03-13T09:00', '2026-03-20T09:00']);
    expect(first('0 10 * * 5, 2 times', 10)).toHaveLength(2);
  });
  it('keep to the clock through both changes of it', () => {
    expect(first('Sundays at 10:00', 2, '2026-03-21T00:00:00Z')).toEqual(['2026-03-22T09:00', '2026-03-29T08:00']);
    expect(first('0 10 * * 0', 2, '2026-10-17T00:00:00Z')).toEqual(['2026-10-18T08:00', '2026-10-25T09:00']);
  });
  it('are refused where they cannot be, with why', () => {
    expect(refused('soon')).toBe('“soon” does not say when.');
    expect(refused('every Friday')).toBe('“every Friday” does not say when.');
    expect(refused('* * * * *')).toBe('“* * * * *” comes more often than every 15 minutes.');
    expect(refused('0 0 31 2 *')).toBe('“0 0 31 2 *” never comes.');
    expect(refused('0 25 * * *')).toBe('“0 25 * * *” is no cron expression.');
    expect(refused('0 10 * * 5 2027')).toBe('“0 10 * * 5 2027” is no cron expression.');
    expect(refused('0 10 * * 5 until never')).toBe('“0 10 * * 5 until never” has an end that is no day.');
  });
  it('do not guess which half of the day two o’clock is', () => {
    expect(refused('every Friday at two')).toBe('“every Friday at two” does not say when.');
  });
});

// Source: the documentation that ships with croner 11 (its README, "Pattern"), which has these patterns with these meanings.
describe('cron, as croner documents it', () => {
  const days = (pattern: string, count: number, from = '2024-01-01T00:00:00Z') => first(pattern, count, from, 'UTC').map((at) => at.slice(0, 10));
  it.each([
    // "15W triggers on the weekday closest to the 15th (moves to Friday if 15th is Saturday, Monday if 15th is Sunday)"
    ['0 12 15W * *', ['2024-01-15', '2024-02-15', '2024-03-15', '2024-04-15', '2024-05-15', '2024-06-14', '2024-07-15', '2024-08-15', '2024-09-16']],
    // "If the 1st is a Saturday, 1W matches Monday the 3rd"
    ['0 12 1W 6 *', ['2024-06-03']],
    // "L in day-of-month = last day of month"
    ['0 12 L * *', ['2024-01-31', '2024-02-29', '2024-03-31']],
    // "5#L or FRI#L = last Friday of the month"
    ['0 12 * * FRI#L', ['2024-01-26', '2024-02-23', '2024-03-29']],
    // "5#2 = second Friday; MON#1 = first Monday of the month"
    ['0 12 * * 5#2', ['2024-01-12', '2024-02-09', '2024-03-08']],
    ['0 12 * * MON#1', ['2024-01-01', '2024-02-05', '2024-03-04']],
    // "0 12 1 * +MON only triggers when the 1st is also a Monday"
    ['0 12 1 * +MON', ['2024-01-01', '2024-04-01', '2024-07-01']],
    // "By default, Croner uses OR logic": 0 20 1 * MON triggers on the 1st of the month or on Mondays
    ['0 20 1 * MON', ['2024-01-01', '2024-01-08', '2024-01-15', '2024-01-22', '2024-01-29', '2024-02-01', '2024-02-05']],
    // "0 and 7 = Sunday", "names are case-insensitive"
    ['0 12 * * 7', ['2024-01-07', '2024-01-14']],
    ['0 12 * * sun', ['2024-01-07', '2024-01-14']],
    // "@weekly: Run once a week, i.e. 0 0 * * 0"; "@monthly … 0 0 1 * *"; "@yearly … 0 0 1 1 *"
    ['@weekly', ['2024-01-07', '2024-01-14']],
    ['@monthly', ['2024-02-01', '2024-03-01']],
    ['@yearly', ['2025-01-01', '2026-01-01']],
  ])('%s', (pattern, wanted) => {
    expect(days(pattern, wanted.length)).toEqual(wanted);
  });
  it('runs a fixed time that the change of the clocks skips right after the gap, on the same day, and one that comes twice once', () => {
    expect(first('30 2 * * *', 2, '2024-03-31T00:00:00Z', 'Europe/Stockholm')).toEqual(['2024-03-31T01:00', '2024-04-01T00:30']);
    expect(first('30 2 * * *', 2, '2024-10-26T22:00:00Z', 'Europe/Stockholm')).toEqual(['2024-10-27T00:30', '2024-10-28T01:30']);
  });
});
