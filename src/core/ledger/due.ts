import { dayOfWeek, daysBetween } from '../dates/calendar.ts';

/** Where a due date stands against today, as the Ledger groups it. */
export type DueWindow = 'late' | 'today' | 'tomorrow' | 'this week' | 'next week' | 'later' | 'no date';

export const DUE_WINDOWS: readonly DueWindow[] = ['late', 'today', 'tomorrow', 'this week', 'next week', 'later', 'no date'];

export function dueWindow(due: string | null, today: string): DueWindow {
  if (!due) return 'no date';
  const days = daysBetween(today, due);
  if (days < 0) return 'late';
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (due <= dayOfWeek(today, 7)) return 'this week';
  if (due <= dayOfWeek(today, 7, 1)) return 'next week';
  return 'later';
}

/** Whether a date falls into a stretch as it is asked for: “this week” has today and tomorrow in it, though a list shows those apart. */
export function fallsIn(due: string | null, window: DueWindow, today: string): boolean {
  if (window === 'this week') return due !== null && due >= today && due <= dayOfWeek(today, 7);
  return dueWindow(due, today) === window;
}

/** `4 days late`, `today`, `in 3 days`: the relative form that stands beside a date. */
export function relativeDay(date: string, today: string): string {
  const days = daysBetween(today, date);
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return '1 day late';
  return days < 0 ? `${-days} days late` : `in ${days} days`;
}

/** `3 days ago`, `today`, `in 3 days`: the same for a day that is not a due date. */
export function daysAway(date: string, today: string): string {
  const days = daysBetween(today, date);
  if (days === 0) return 'today';
  if (days === 1) return 'tomorrow';
  if (days === -1) return 'yesterday';
  return days < 0 ? `${-days} days ago` : `in ${days} days`;
}

/**
 * In how many sittings a commitment was still open after the one it was made in.
 * @param sittings days of the series' sittings, in order
 */
export function carriedOver(madeOn: string, endedOn: string | null, sittings: readonly string[]): number {
  return Math.max(0, (endedOn === null ? sittings.length : firstAtOrAfter(sittings, endedOn)) - firstAfter(sittings, madeOn));
}

const firstAfter = (days: readonly string[], day: string) => search(days, (d) => d > day);
const firstAtOrAfter = (days: readonly string[], day: string) => search(days, (d) => d >= day);

/** Index of the first day that is far enough, or the length; the days are in order. */
function search(days: readonly string[], enough: (day: string) => boolean): number {
  let low = 0;
  let high = days.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (enough(days[middle]!)) high = middle;
    else low = middle + 1;
  }
  return low;
}
