import { daysBetween, type IsoDate } from '../dates/calendar.ts';

/** A commitment that had a date and was done, or whose date has passed while it is open. */
export interface OnTimeInput {
  ref: string;
  due: IsoDate | null;
  doneOn: IsoDate | null;
}

export interface OnTime {
  of: number;
  onTime: number;
  share: number;
  /** 95 per cent interval of the share */
  from: number;
  to: number;
  /** each one in the order it ended, with the days it was early (negative) or late */
  each: { ref: string; days: number; open: boolean }[];
}

const Z = 1.959964;

/**
 * The 95 per cent score interval of a share (E. B. Wilson, 1927): honest also for few cases and for shares near 0
 * and 1, unlike the share plus or minus two standard errors.
 */
export function wilson(hits: number, n: number): { from: number; to: number } {
  if (n === 0) return { from: 0, to: 1 };
  const p = hits / n;
  const z2 = Z * Z;
  const middle = (p + z2 / (2 * n)) / (1 + z2 / n);
  const half = (Z / (1 + z2 / n)) * Math.sqrt((p * (1 - p)) / n + z2 / (4 * n * n));
  return { from: Math.max(0, middle - half), to: Math.min(1, middle + half) };
}

/** How many promises were kept on time. What is open and late counts as not kept on time; what is not due yet does not count. */
export function onTimeOf(items: readonly OnTimeInput[], today: IsoDate): OnTime {
  const each = items
    .filter((i): i is OnTimeInput & { due: IsoDate } => i.due !== null && (i.doneOn !== null || i.due < today))
    .map((i) => ({ ref: i.ref, days: daysBetween(i.due, i.doneOn ?? today), open: i.doneOn === null, at: i.doneOn ?? today }))
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0))
    .map(({ at: _, ...e }) => e);
  const onTime = each.filter((e) => !e.open && e.days <= 0).length;
  return { of: each.length, onTime, share: each.length ? onTime / each.length : 0, ...wilson(onTime, each.length), each };
}
