/**
 * Calendar arithmetic on plain dates. A date is an ISO 8601 string `YYYY-MM-DD` with no time and no zone, because a
 * due date is a square on a calendar, the same one wherever its owner sits. Weeks start on Monday (ISO 8601).
 */
export type IsoDate = string;

const DAY = 86_400_000;

/** True for a date that exists, written as `YYYY-MM-DD`. */
export function isIsoDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const at = Date.parse(`${text}T00:00:00Z`);
  return Number.isFinite(at) && new Date(at).toISOString().startsWith(text);
}

const moments = new Map<IsoDate, number>();
/** Days known at once; there are fewer in a century. */
const MOST = 40_000;

/** The moment a day begins in UTC, remembered: counting over a long Ledger asks for the same days again and again. */
function toMs(date: IsoDate): number {
  let at = moments.get(date);
  if (at === undefined) {
    at = Date.parse(`${date}T00:00:00Z`);
    if (moments.size >= MOST) moments.clear();
    moments.set(date, at);
  }
  return at;
}

const fromMs = (ms: number): IsoDate => new Date(ms).toISOString().slice(0, 10);

export function addDays(date: IsoDate, days: number): IsoDate {
  return fromMs(toMs(date) + days * DAY);
}

/** Days from `a` to `b`; negative when `b` is earlier. */
export function daysBetween(a: IsoDate, b: IsoDate): number {
  return Math.round((toMs(b) - toMs(a)) / DAY);
}

/** 1 for Monday to 7 for Sunday (ISO 8601). */
export function weekday(date: IsoDate): number {
  return new Date(toMs(date)).getUTCDay() || 7;
}

export function makeDate(year: number, month: number, day: number): IsoDate | null {
  const text = `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
  return isIsoDate(text) ? text : null;
}

export function partsOf(date: IsoDate): { year: number; month: number; day: number } {
  return { year: Number(date.slice(0, 4)), month: Number(date.slice(5, 7)), day: Number(date.slice(8, 10)) };
}

/** Same day of the month, `months` later; the last day where that month is shorter. */
export function addMonths(date: IsoDate, months: number): IsoDate {
  const { year, month, day } = partsOf(date);
  const index = year * 12 + month - 1 + months;
  const y = Math.floor(index / 12);
  const m = (index % 12) + 1;
  return makeDate(y, m, Math.min(day, daysInMonth(y, m)))!;
}

export function daysInMonth(year: number, month: number): number {
  return new Date(Date.UTC(year, month, 0)).getUTCDate();
}

export function endOfMonth(date: IsoDate): IsoDate {
  const { year, month } = partsOf(date);
  return makeDate(year, month, daysInMonth(year, month))!;
}

export function endOfQuarter(date: IsoDate): IsoDate {
  const { year, month } = partsOf(date);
  return endOfMonth(makeDate(year, Math.ceil(month / 3) * 3, 1)!);
}

/** Monday of the week that holds `date`. */
export function startOfWeek(date: IsoDate): IsoDate {
  return addDays(date, 1 - weekday(date));
}

/** Weekday `day` (1-7) of the week that holds `date`, `weeks` further on. */
export function dayOfWeek(date: IsoDate, day: number, weeks = 0): IsoDate {
  return addDays(startOfWeek(date), day - 1 + 7 * weeks);
}

/** The first `day` (1-7) after `date`, never `date` itself. */
export function nextWeekday(date: IsoDate, day: number): IsoDate {
  const ahead = (day - weekday(date) + 7) % 7;
  return addDays(date, ahead === 0 ? 7 : ahead);
}

/** The first date with day-of-month `day` on or after `date`. */
export function nextDayOfMonth(date: IsoDate, day: number): IsoDate | null {
  const { year, month } = partsOf(date);
  for (let ahead = 0; ahead < 12; ahead++) {
    const index = year * 12 + month - 1 + ahead;
    const found = makeDate(Math.floor(index / 12), (index % 12) + 1, day);
    if (found && found >= date) return found;
  }
  return null;
}

/** ISO 8601 week number and the year it belongs to: week 1 is the one with the year's first Thursday. */
export function isoWeek(date: IsoDate): { year: number; week: number } {
  const thursday = dayOfWeek(date, 4);
  const year = partsOf(thursday).year;
  return { year, week: 1 + Math.floor(daysBetween(makeDate(year, 1, 1)!, thursday) / 7) };
}
