import { daysBetween, type IsoDate } from '../dates/calendar.ts';
import { isOpen } from '../ledger/state.ts';
import { counts, type Measured } from './measured.ts';

/** What is open and was made so many whole weeks ago. */
export interface AgeRow {
  weeks: number;
  open: Measured[];
}

/** Older ones stand together. */
const OLDEST = 12;

/** The open ones by age in weeks, the youngest first; rows between are there although nothing is in them. */
export function agesOf(all: readonly Measured[], today: IsoDate): AgeRow[] {
  const rows = new Map<number, Measured[]>();
  for (const c of all) {
    if (!counts(c) || !isOpen(c.state)) continue;
    const weeks = Math.min(OLDEST, Math.max(0, Math.floor(daysBetween(c.madeOn, today) / 7)));
    const row = rows.get(weeks);
    if (row) row.push(c);
    else rows.set(weeks, [c]);
  }
  const last = Math.max(-1, ...rows.keys());
  return Array.from({ length: last + 1 }, (_, weeks) => ({ weeks, open: rows.get(weeks) ?? [] }));
}

/** Days by which half of the open ones are younger; null where nothing is open. */
export function medianAge(all: readonly Measured[], today: IsoDate): number | null {
  const ages = all
    .filter((c) => counts(c) && isOpen(c.state))
    .map((c) => daysBetween(c.madeOn, today))
    .sort((a, b) => a - b);
  return ages.length ? ages[ages.length >> 1]! : null;
}
