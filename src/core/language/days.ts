import { partsOf, weekday } from '../dates/calendar.ts';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const LONG_DAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const SHORT_MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const LONG_MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** `Fri 6 Mar`, with the year where it is not the one given. */
export function shortDay(date: string, today?: string): string {
  const { year, month, day } = partsOf(date);
  const other = today !== undefined && !today.startsWith(String(year));
  return `${DAYS[weekday(date) - 1]} ${day} ${SHORT_MONTHS[month - 1]}${other ? ` ${year}` : ''}`;
}

/** `Thursday 5 March`. */
export function longDay(date: string): string {
  const { month, day } = partsOf(date);
  return `${LONG_DAYS[weekday(date) - 1]} ${day} ${LONG_MONTHS[month - 1]}`;
}

/** `5 Mar`, for axes and figures. */
export function dayAndMonth(date: string): string {
  const { month, day } = partsOf(date);
  return `${day} ${SHORT_MONTHS[month - 1]}`;
}

/** Seconds as `0:16` or `1:04:10`. */
export function clock(seconds: number): string {
  const s = Math.max(0, Math.floor(seconds));
  const h = Math.floor(s / 3600);
  const m = Math.floor((s % 3600) / 60);
  const rest = String(s % 60).padStart(2, '0');
  return h > 0 ? `${h}:${String(m).padStart(2, '0')}:${rest}` : `${m}:${rest}`;
}

/** `one`, `two` … `twelve`, then figures; for sentences. */
export function countWord(n: number): string {
  return ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'][n] ?? String(n);
}

/** With a capital at its beginning. */
export const capitalised = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

/** `Ana, Ben and Cleo`. */
export function listOf(names: readonly string[]): string {
  if (names.length < 2) return names[0] ?? '';
  return `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
}
