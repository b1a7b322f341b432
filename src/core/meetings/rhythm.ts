import type { IsoDate } from '../dates/calendar.ts';
import { readTypedDate } from '../dates/read.ts';
import { readCount, readOrdinal, weekdayOf } from '../dates/words.ts';
import { dayCode, daysOf, type Rule, ruleInWords } from './recurrence.ts';

/** How often a series meets, and when on the day. */
export interface Rhythm {
  rule: Rule;
  /** `10:00` */
  time: string;
}

const DAY = '(?:mon|tues?|wed(?:nes)?|thu(?:rs?)?|fri|sat(?:ur)?|sun)(?:day)?s?';
const DAYS = new RegExp(`\\b(?:${DAY})\\b`, 'gi');
const NTH = '(?:\\d{1,2}(?:st|nd|rd|th)|first|second|third|fourth|fifth|last)';
const EVERY: Readonly<Record<string, number>> = { other: 2, alternate: 2, fortnight: 2, second: 2, third: 3, fourth: 4, quarter: 3 };

/**
 * A rhythm as people say it: `every second Tuesday at 10:00`, `Tuesdays and Thursdays, 9.30`, `last Thursday of the
 * month at 2pm`, `every weekday at 9:15`, `the 15th of every month, 16:00`, with an end where one is said (`ten times`,
 * `until 30 June`).
 * @param today what an end is counted from
 * @returns null where no day or no time of day is said
 */
export function readRhythm(text: string, today: IsoDate = '2000-01-01'): Rhythm | null {
  const said = text.toLowerCase().slice(0, 200);
  const time = timeIn(said) ?? (/\b(?:noon|midday)\b/.test(said) ? '12:00' : null);
  if (!time) return null;
  const { rest, end } = endIn(said.replace(TIME, ' ').replace(AT_HOUR, ' ').replace(AT_HOUR_IN_WORDS, ' '), today);
  if (end === null) return null;
  const rule = byMonth(rest) ?? byWeek(rest) ?? byDay(rest);
  return rule ? { rule: rule + end, time } : null;
}

/** `first and third Monday of every month`, `15th of the month`, `last working day of every second month`. */
function byMonth(said: string): string | null {
  const often = /\b(?:of|in|on) (?:the|each|every|a) (?:(?<nth>second|other|third|fourth|2nd|3rd|4th|\d{1,2}th) )?months?\b|\bevery (?:(?<n>\d{1,2}|two|three|four|six|other|second|third) )?months?\b|\bmonthly\b|\b(?<quarter>quarterly|every quarter)\b/.exec(said);
  if (!often) return null;
  const step = often.groups!.quarter ? 3 : stepOf(often.groups!.nth ?? often.groups!.n);
  if (step === null) return null;
  const head = `FREQ=MONTHLY${step > 1 ? `;INTERVAL=${step}` : ''}`;
  const beside = said.replace(often[0], ' ');
  const working = new RegExp(`\\b(${NTH}) (?:working|business|week) ?day\\b`).exec(beside);
  if (working) return `${head};BYDAY=MO,TU,WE,TH,FR;BYSETPOS=${placeOf(working[1]!)}`;
  if (/\blast day\b/.test(beside)) return `${head};BYMONTHDAY=-1`;
  const days = [...beside.matchAll(DAYS)];
  const places = [...beside.matchAll(new RegExp(`\\b${NTH}\\b`, 'g'))].map((m) => placeOf(m[0]));
  if (days.length === 1 && places.length > 0 && places.every((p) => p >= -1 && p <= 5)) return `${head};BYDAY=${[...new Set(places)].map((p) => `${p}${dayCode(weekdayOf(one(days[0]![0])))}`).join(',')}`;
  return days.length === 0 && places.length > 0 && places.every((p) => p >= 1 && p <= 31) ? `${head};BYMONTHDAY=${[...new Set(places)].join(',')}` : null;
}

/** `every second Tuesday`, `Tuesdays and Thursdays`, `every 3 weeks on Friday`. */
function byWeek(said: string): string | null {
  if (/\b(?:every|each) (?:weekday|working day|business day)\b|\b(?:weekdays|working days)\b/.test(said)) return 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR';
  const days = [...new Set([...said.matchAll(DAYS)].map((m) => weekdayOf(one(m[0]))))].filter((d) => d > 0);
  if (days.length === 0) return null;
  const number = /\b(?:every|each) (\d{1,2})(?:st|nd|rd|th)?\b/.exec(said)?.[1];
  const word = /\b(?:every |each )?(second|other|alternate|two|fortnight|third|three|fourth|four|five|six)\b|\b(fortnight|bi-?week)ly\b/.exec(said);
  const step = number ? Number(number) : word ? (word[2] ? 2 : stepOf(word[1])) : 1;
  return step !== null && step >= 1 && step <= 12 ? `FREQ=WEEKLY${step > 1 ? `;INTERVAL=${step}` : ''};BYDAY=${days.sort().map(dayCode).join(',')}` : null;
}

function byDay(said: string): string | null {
  const m = /\bdaily\b|\b(?:every|each) (?:(\d{1,2}|other|second|third) )?days?\b/.exec(said);
  const step = m ? stepOf(m[1]) : null;
  return step === null ? null : `FREQ=DAILY${step > 1 ? `;INTERVAL=${step}` : ''}`;
}

/** An end that is said: `ten times`, `for 6 meetings`, `until 30 June`. Null where one is said and not understood. */
export function endIn(said: string, today: IsoDate): { rest: string; end: string | null } {
  const times = /,? ?\b(?:for )?(\d{1,3}|[a-z]{3,9}) (?:times|meetings|sittings)\b/.exec(said);
  const count = times ? readCount(times[1]!) : null;
  if (times && count) return { rest: said.replace(times[0], ' '), end: `;COUNT=${count}` };
  const until = /,? ?\b(?:until|till|up to)\b(.{1,60})$/.exec(said);
  if (!until) return { rest: said, end: '' };
  const day = readTypedDate(until[1]!.trim(), { date: today, next: null });
  return { rest: said.slice(0, until.index), end: day ? `;UNTIL=${day.replaceAll('-', '')}` : null };
}

/** `Tuesdays` is many of `Tuesday`. */
const one = (day: string) => (weekdayOf(day) ? day : day.replace(/s$/, ''));
const stepOf = (word: string | undefined): number | null => (word === undefined ? 1 : (EVERY[word] ?? readOrdinal(word) ?? readCount(word)));
const placeOf = (word: string): number => (word === 'last' ? -1 : (readOrdinal(word) ?? 0));

const TIME = /\b(\d{1,2})(?:[:.h](\d{2}))? ?(am|pm)\b|\b(\d{1,2})[:.h](\d{2})\b/i;
/** A full hour after its word: `at 10`. */
const AT_HOUR = /\b(?:at|from) (\d{1,2})(?! ?(?:\d|[:.h]\d|weeks?|months?|days?|times))\b/i;
/** The same in words, where it can only be the morning: `at ten`. At *two* may be either half of the day, and is not guessed. */
const AT_HOUR_IN_WORDS = /\bat (seven|eight|nine|ten|eleven|twelve)(?: o['’]clock)?(?! ?(?:weeks?|months?|days?|times|meetings|sittings))\b/i;

/**
 * A day and the time on it, as they are typed: `next Tuesday at 14:00`. A time alone is today's.
 * @returns null where no day is named
 */
export function readWhen(text: string, today: IsoDate): { date: IsoDate; time: string | null } | null {
  const time = timeIn(text);
  const beside = text
    .replace(TIME, ' ')
    .replace(AT_HOUR, ' ')
    .replace(AT_HOUR_IN_WORDS, ' ')
    .replace(/\bat\b/gi, ' ')
    .trim();
  const date = readTypedDate(time ? beside || 'today' : text, { date: today, next: null });
  return date ? { date, time } : null;
}

/** A time of day as it is typed: `10:00`, `9.30`, `2pm`, `14h30`, `at 10`. */
export function timeIn(text: string): string | null {
  const said = TIME.exec(text);
  if (!said) {
    const hour = AT_HOUR.exec(text)?.[1] ?? readCount(AT_HOUR_IN_WORDS.exec(text)?.[1] ?? '')?.toString();
    return hour !== undefined && Number(hour) <= 23 ? `${hour.padStart(2, '0')}:00` : null;
  }
  const half = said[3]?.toLowerCase();
  const hour = Number(said[1] ?? said[4]);
  const minute = Number(said[2] ?? said[5] ?? 0);
  if (minute > 59 || (half ? hour < 1 || hour > 12 : hour > 23)) return null;
  const h = half ? (hour % 12) + (half === 'pm' ? 12 : 0) : hour;
  return `${String(h).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}

/** The day a rule counts from that is begun on some day: the first one it could give, however seldom it comes after that. */
export function startOf(rule: Rule, today: IsoDate): IsoDate {
  return daysOf(rule.replace(/;(?:INTERVAL|COUNT|UNTIL)=[^;]*/g, ''), today, { count: 1 })[0] ?? today;
}

/** The first days of a rhythm that is begun on some day. */
export function firstDays({ rule }: Pick<Rhythm, 'rule'>, today: IsoDate, count: number): IsoDate[] {
  return daysOf(rule, startOf(rule, today), { count });
}

/** `every second Tuesday at 10:00`. */
export const rhythmInWords = ({ rule, time }: Rhythm): string => {
  const [how, ...end] = ruleInWords(rule).split(/, (?=\d{1,5} times$|until )/);
  return [`${how} at ${time}`, ...end].join(', ');
};
