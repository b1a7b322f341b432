import { addDays, dayOfWeek, type IsoDate } from '../dates/calendar.ts';
import { readTypedDate } from '../dates/read.ts';

/** How often a series meets: a day of the week, every so many weeks, at a time. */
export interface Rhythm {
  /** ISO 8601: Monday is 1 */
  weekday: number;
  everyWeeks: number;
  /** `10:00` */
  time: string;
}

const DAYS = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const EVERY: Record<string, number> = { second: 2, other: 2, two: 2, fortnight: 2, third: 3, three: 3, fourth: 4, four: 4 };

/**
 * A rhythm as people say it: `every second Tuesday at 10:00`, `Thursdays, 9.30`, `every 3 weeks on Friday at 2pm`.
 * @returns null where no day or no time of day is said
 */
export function readRhythm(text: string): Rhythm | null {
  const said = text.toLowerCase().slice(0, 200);
  const day = /\b(mon|tue|wed|thu|fri|sat|sun)[a-z]{0,6}\b/.exec(said);
  const time = timeIn(said);
  if (!day || !time) return null;
  const number = /\bevery (\d{1,2})(?:st|nd|rd|th)?\b/.exec(said)?.[1];
  const word = /\b(?:every |each )?(second|other|two|fortnight|third|three|fourth|four)/.exec(said)?.[1];
  const everyWeeks = number ? Number(number) : word ? EVERY[word]! : 1;
  return everyWeeks >= 1 && everyWeeks <= 12 ? { weekday: DAYS.indexOf(day[1]!) + 1, everyWeeks, time } : null;
}

const TIME = /\b(\d{1,2})(?:[:.h](\d{2}))? ?(am|pm)\b|\b(\d{1,2})[:.h](\d{2})\b/i;

/**
 * A day and the time on it, as they are typed: `next Tuesday at 14:00`. A time alone is today's.
 * @returns null where no day is named
 */
export function readWhen(text: string, today: IsoDate): { date: IsoDate; time: string | null } | null {
  const time = timeIn(text);
  const beside = text
    .replace(TIME, ' ')
    .replace(/\bat\b/gi, ' ')
    .trim();
  const date = readTypedDate(time ? beside || 'today' : text, { date: today, next: null });
  return date ? { date, time } : null;
}

/** A time of day as it is typed: `10:00`, `9.30`, `2pm`, `14h30`. */
export function timeIn(text: string): string | null {
  const said = TIME.exec(text);
  if (!said) return null;
  const half = said[3]?.toLowerCase();
  const hour = Number(said[1] ?? said[4]);
  const minute = Number(said[2] ?? said[5] ?? 0);
  if (minute > 59 || (half ? hour < 1 || hour > 12 : hour > 23)) return null;
  const h = half ? (hour % 12) + (half === 'pm' ? 12 : 0) : hour;
  return `${String(h).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}

/** The first days of a series, from a day on. */
export function firstDays({ weekday, everyWeeks }: Rhythm, from: IsoDate, count: number): IsoDate[] {
  const thisWeek = dayOfWeek(from, weekday);
  const first = thisWeek >= from ? thisWeek : addDays(thisWeek, 7);
  return Array.from({ length: count }, (_, i) => addDays(first, 7 * everyWeeks * i));
}

/** `every second Tuesday at 10:00`. */
export function rhythmInWords({ weekday, everyWeeks, time }: Rhythm): string {
  const day = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'][weekday - 1];
  return `every ${everyWeeks === 1 ? '' : everyWeeks === 2 ? 'second ' : everyWeeks === 3 ? 'third ' : `${everyWeeks} weeks on `}${day} at ${time}`;
}
