import { addDays, daysBetween, type IsoDate } from '../dates/calendar.ts';
import { counts, type Measured } from './measured.ts';

/** How things stood at the end of a day. */
export interface FlowPoint {
  on: IsoDate;
  /** made so far, since the first day */
  made: number;
  /** done or dropped so far */
  ended: number;
  open: number;
  /** open and past the date it had that day */
  late: number;
}

/** Longest stretch that is shown day by day; longer ones week by week. */
const BY_DAY = 120;

/**
 * What was made and ended, and what was open and late, day by day or week by week. What was made before the first day
 * counts as open on it. A commitment is late by the date it had then, not by the one it was moved to since.
 * Takes time in proportion to commitments, dates and days.
 */
export function flowOf(all: readonly Measured[], from: IsoDate, to: IsoDate): FlowPoint[] {
  const days = daysBetween(from, to) + 1;
  if (days < 1) return [];
  const [made, ended, open, late] = [0, 1, 2, 3].map(() => new Int32Array(days + 1)) as [Int32Array, Int32Array, Int32Array, Int32Array];
  const index = (day: IsoDate) => Math.max(0, Math.min(days, daysBetween(from, day)));
  const memo = new Map<IsoDate, number>();
  const at = (day: IsoDate) => memo.get(day) ?? memo.set(day, index(day)).get(day)!;
  const stretch = (what: Int32Array, a: number, b: number) => {
    if (a >= b) return;
    what[a]!++;
    what[b]!--;
  };
  for (const c of all) {
    if (!counts(c) || c.madeOn > to || (c.endedOn !== null && c.endedOn < from)) continue;
    const end = c.endedOn === null ? days : at(c.endedOn);
    if (c.madeOn >= from) made[at(c.madeOn)]!++;
    if (c.endedOn !== null && c.endedOn <= to) ended[at(c.endedOn)]!++;
    stretch(open, at(c.madeOn), end);
    for (const [i, d] of c.dues.entries()) {
      if (d.due === null) continue;
      const next = c.dues[i + 1];
      const until = next && next.on <= to ? Math.min(end, at(next.on)) : end;
      stretch(late, Math.max(at(d.on), at(addDays(d.due, 1))), until);
    }
  }
  const out: FlowPoint[] = [];
  let [m, e, o, l] = [0, 0, 0, 0];
  const step = days > BY_DAY ? 7 : 1;
  for (let i = 0; i < days; i++) {
    m += made[i]!;
    e += ended[i]!;
    o += open[i]!;
    l += late[i]!;
    if ((days - 1 - i) % step === 0) out.push({ on: addDays(from, i), made: m, ended: e, open: o, late: l });
  }
  return out;
}
