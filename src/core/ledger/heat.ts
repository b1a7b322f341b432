import { addDays, daysBetween, type IsoDate } from '../dates/calendar.ts';
import { isLoose } from './predicates.ts';

/** An open commitment as the heat of a project sees it. */
export interface HeatInput {
  owner: readonly string[];
  due: IsoDate | null;
  lastOn: IsoDate;
  carried: number;
  moved: number;
  waiting: boolean;
  /** somebody said that it needs no date */
  undated: boolean;
}

export interface HeatReason {
  what: 'late' | 'silent' | 'carried' | 'moved' | 'near' | 'loose';
  count: number;
  points: number;
}

/** How urgently a project needs a person, and what makes it so. */
export interface Heat {
  points: number;
  level: 'calm' | 'warm' | 'hot';
  reasons: HeatReason[];
}

/** Nothing heard for longer than this many days is silence. */
const SILENT = 14;
const CARRIED = 3;
const MOVED = 2;
const NEAR = 3;
/** Points from which a project is warm, and from which it is hot. */
const WARM = 8;
const HOT = 20;

/**
 * The heat of a project. Each open commitment gives points for what is the matter with it:
 *
 * | matter | points |
 * |---|---|
 * | late | 2, and 1 for each week it is late, 5 at most |
 * | silent: nothing heard for more than 14 days | 1 |
 * | carried over 3 times or more | 1 |
 * | moved 2 times or more | 1 |
 * | near: due within 3 days, and not late | 1 |
 * | loose: without owner, or without a date that it needs | 1 |
 *
 * From 8 points a project is warm, from 20 hot. The points are ours; what they count is common practice of project
 * reviews.
 */
export function heatOf(open: readonly HeatInput[], today: IsoDate): Heat {
  const reasons = new Map<HeatReason['what'], HeatReason>();
  const add = (what: HeatReason['what'], points: number) => {
    const r = reasons.get(what) ?? { what, count: 0, points: 0 };
    r.count++;
    r.points += points;
    reasons.set(what, r);
  };
  for (const c of open) {
    const late = c.due !== null ? daysBetween(c.due, today) : 0;
    if (late > 0) add('late', Math.min(5, 2 + Math.floor(late / 7)));
    else if (c.due !== null && c.due <= addDays(today, NEAR)) add('near', 1);
    if (daysBetween(c.lastOn, today) > SILENT) add('silent', 1);
    if (c.carried >= CARRIED) add('carried', 1);
    if (c.moved >= MOVED) add('moved', 1);
    if (isLoose({ ...c, state: 'open' })) add('loose', 1);
  }
  const list = [...reasons.values()].sort((a, b) => b.points - a.points || (a.what < b.what ? -1 : 1));
  const points = list.reduce((s, r) => s + r.points, 0);
  return { points, level: points >= HOT ? 'hot' : points >= WARM ? 'warm' : 'calm', reasons: list };
}

/** `4 late`, `2 carried over three times or more`: a reason in words. */
export function heatInWords(r: HeatReason): string {
  const words = { late: 'late', silent: `without a word for more than ${SILENT} days`, carried: 'carried over three times or more', moved: 'moved twice or more', near: `due within ${NEAR} days`, loose: 'loose' };
  return `${r.count} ${words[r.what]}`;
}
