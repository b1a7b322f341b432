import { addDays, type IsoDate, weekday } from './calendar.ts';

/** Whether people work on a day: false on weekends and on the holidays of wherever they are. */
export type WorkingCalendar = (day: IsoDate) => boolean;

/** Weekdays that are worked on, as figures in their order: Monday is 1. */
export type WorkingDays = string;
export const MONDAY_TO_FRIDAY: WorkingDays = '12345';
export const isWorkingDays = (text: string): boolean => /^1?2?3?4?5?6?7?$/.test(text) && text !== '';

/** The given days of each week, without the given holidays. */
export function workingWeek(holidays: Iterable<IsoDate> = [], days: WorkingDays = MONDAY_TO_FRIDAY): WorkingCalendar {
  const off = new Set(holidays);
  return (day) => days.includes(String(weekday(day))) && !off.has(day);
}

const NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** `Monday to Friday`, `Sunday to Thursday`, `Monday, Wednesday and Friday`. */
export function workingDaysInWords(days: WorkingDays): string {
  if (days.length === 7) return 'every day';
  // a week is a circle: Sunday to Thursday is one stretch
  const first = [...days].filter((d) => !days.includes(String(d === '1' ? 7 : Number(d) - 1)));
  if (first.length === 1 && days.length > 2) return `${NAMES[Number(first[0]) - 1]} to ${NAMES[(Number(first[0]) - 2 + days.length) % 7]}`;
  const names = [...days].map((d) => NAMES[Number(d) - 1]!);
  return names.length < 2 ? (names[0] ?? 'no day') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;
}

/** A year without a single working day is a mistake in a calendar, not a long holiday. */
const MOST = 400;

/**
 * The working day `count` working days after `day` (before it when `count` is negative). The day itself never counts,
 * as in the WORKDAY function of the OpenDocument formula standard. Zero gives the day itself, working or not.
 */
export function addWorkingDays(day: IsoDate, count: number, works: WorkingCalendar): IsoDate {
  let known = counted.get(works);
  if (!known || known.size > MOST_KEPT) {
    known = new Map();
    counted.set(works, known);
  }
  const key = `${day}${count}`;
  let out = known.get(key);
  if (out === undefined) {
    out = countDays(day, count, works);
    known.set(key, out);
  }
  return out;
}

/** A plan counts the same few days over and over, for thousands of commitments. */
const counted = new WeakMap<WorkingCalendar, Map<string, IsoDate>>();
const MOST_KEPT = 50_000;

function countDays(day: IsoDate, count: number, works: WorkingCalendar): IsoDate {
  const step = count < 0 ? -1 : 1;
  let at = day;
  let left = Math.abs(Math.trunc(count));
  for (let idle = 0; left > 0 && idle < MOST; ) {
    at = addDays(at, step);
    if (works(at)) {
      left--;
      idle = 0;
    } else idle++;
  }
  return at;
}

/** Working days after `from` up to and with `to`; 0 when `to` is not later. */
export function workingDaysBetween(from: IsoDate, to: IsoDate, works: WorkingCalendar): number {
  let n = 0;
  for (let day = addDays(from, 1); day <= to; day = addDays(day, 1)) if (works(day)) n++;
  return n;
}

/** The day itself when it is a working day, otherwise the nearest one in the given direction. */
export function onWorkingDay(day: IsoDate, direction: 1 | -1, works: WorkingCalendar): IsoDate {
  return works(day) ? day : addWorkingDays(day, direction, works);
}
