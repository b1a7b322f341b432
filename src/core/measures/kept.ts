import type { IsoDate } from '../dates/calendar.ts';
import { isOpen } from '../ledger/state.ts';
import { counts, type Measured } from './measured.ts';
import { wilson } from './on-time.ts';

/** Promises of one month, person or series that were kept on time. */
export interface Kept {
  key: string;
  /** those that are counted */
  of: number;
  onTime: number;
  share: number;
  /** 95 per cent interval of the share */
  from: number;
  to: number;
  /** ids of those that were not */
  missed: number[];
}

export type KeptBy = 'month' | 'owner' | 'series';

/**
 * Whether a promise was kept: done by its last date, or not. Null where nothing can be said yet, since it has no date, its
 * date is still to come, or it was dropped.
 */
export function wasKept(c: Measured, today: IsoDate): boolean | null {
  if (!counts(c) || c.due === null || c.state === 'dropped') return null;
  if (c.state === 'done') return c.endedOn! <= c.due;
  return isOpen(c.state) && c.due < today ? false : null;
}

/** The share kept on time, and that of each month, person or series, with the interval of the score (E. B. Wilson, 1927). */
export function keptBy(all: readonly Measured[], by: KeptBy, today: IsoDate): { all: Kept; rows: Kept[] } {
  const rows = new Map<string, { onTime: number; of: number; missed: number[] }>();
  const whole = { onTime: 0, of: 0, missed: [] as number[] };
  for (const c of all) {
    const kept = wasKept(c, today);
    if (kept === null) continue;
    const keys = by === 'month' ? [c.due!.slice(0, 7)] : by === 'series' ? [c.series ?? ''] : c.owner.length ? c.owner : [''];
    for (const row of [whole, ...keys.map((k) => rows.get(k) ?? rows.set(k, { onTime: 0, of: 0, missed: [] }).get(k)!)]) {
      row.of++;
      if (kept) row.onTime++;
      else row.missed.push(c.id);
    }
  }
  const row = (key: string, r: typeof whole): Kept => ({ key, ...r, share: r.of ? r.onTime / r.of : 0, ...wilson(r.onTime, r.of) });
  return { all: row('', whole), rows: [...rows].map(([key, r]) => row(key, r)).sort((a, b) => (by === 'month' ? (a.key < b.key ? -1 : 1) : b.of - a.of)) };
}
