import { daysBetween } from '../../core/dates/calendar.ts';
import type { WeaveGroup, WeaveRow } from '../../core/ledger/weave.ts';

/** Heights and widths of the drawing, in pixels. */
export const ROW = 24;
export const BETWEEN_GROUPS = 8;
export const NAMES = 292;
const LEAST_COLUMN = 58;
const MOST_COLUMN = 110;
/** Room after the last day for what is written at the end of a thread. */
export const AFTER = 96;

export interface Scale {
  x(day: string): number;
  width: number;
}

/**
 * Days across, as wide as the sittings need to be told apart and no wider than the page where that is enough.
 * @param room pixels there are
 */
export function scaleOf(from: string, to: string, sittings: readonly string[], room: number): Scale {
  const days = Math.max(1, daysBetween(from, to));
  const gaps = sittings.slice(1).map((s, i) => daysBetween(sittings[i]!, s));
  const usual = gaps.length ? ([...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 7) : 7;
  const least = LEAST_COLUMN / Math.max(1, usual);
  const most = MOST_COLUMN / Math.max(1, usual);
  const perDay = Math.max(least, Math.min(most, (room - AFTER - 20) / days));
  return { x: (day) => Math.round((20 + Math.max(0, Math.min(days, daysBetween(from, day))) * perDay) * 10) / 10, width: Math.round(20 + days * perDay + AFTER) };
}

export interface Placed {
  row: WeaveRow;
  /** middle of the row */
  y: number;
}

/** Rows one under the other, groups set apart. */
export function placeRows(groups: readonly WeaveGroup[]): { placed: Placed[]; tops: { holder: string; y: number; height: number }[]; height: number } {
  const placed: Placed[] = [];
  const tops: { holder: string; y: number; height: number }[] = [];
  let y = 4;
  for (const g of groups) {
    tops.push({ holder: g.holder, y, height: g.rows.length * ROW + BETWEEN_GROUPS });
    y += BETWEEN_GROUPS / 2;
    for (const row of g.rows) {
      placed.push({ row, y: y + ROW / 2 });
      y += ROW;
    }
    y += BETWEEN_GROUPS / 2;
  }
  return { placed, tops, height: y + 4 };
}

/** The curve of a hand-over from one row to another, with its stroke in the middle: 36 pixels wide where there is room. */
export function crossing(x: number, from: number, to: number): { path: string; stroke: string } {
  const w = 18;
  const middle = (from + to) / 2;
  const bend = Math.min(14, Math.abs(to - from) / 2);
  const down = to > from ? 1 : -1;
  return {
    path: `M${x - w} ${from}C${x} ${from} ${x} ${from} ${x} ${from + down * bend}V${to - down * bend}C${x} ${to} ${x} ${to} ${x + w} ${to}`,
    stroke: `M${x - 5} ${middle + 4}L${x + 5} ${middle - 4}`,
  };
}

/** What stands at the end of a thread. */
export function endWords(row: WeaveRow, day: (d: string) => string): { text: string; look: 'late' | 'soon' | 'plain' } | null {
  if (!row.open) return null;
  if (row.holder.length === 0) return { text: row.due ? `${day(row.due)}, no owner` : 'no owner, no date', look: 'soon' };
  if (row.late) return { text: row.late === 1 ? '1 day late' : `${row.late} days late`, look: 'late' };
  return row.due ? { text: day(row.due), look: 'plain' } : { text: 'no date', look: 'soon' };
}
