import { daysBetween, type IsoDate } from '../dates/calendar.ts';
import { isOpen } from '../ledger/state.ts';
import { wasKept } from './kept.ts';
import { counts, type Measured } from './measured.ts';

/** What a point of a figure stands for. `key` is a day, a number of weeks, a month, or the id of a person or a series. */
export const POINTS = ['made', 'ended', 'open', 'late', 'age', 'missed by month', 'missed by owner', 'missed by series', 'moved', 'carried', 'open after'] as const;
export type Point = (typeof POINTS)[number];

/** The date a commitment had at the end of a day. */
const dueOn = (c: Measured, on: IsoDate): IsoDate | null => c.dues.findLast((d) => d.on <= on)?.due ?? null;
const openOn = (c: Measured, on: IsoDate) => c.madeOn <= on && (c.endedOn === null || c.endedOn > on);

/** The commitments behind a point of a figure; the same ones that were counted for it. */
export function behindOf(all: readonly Measured[], point: Point, key: string, span: { from: IsoDate; today: IsoDate; days: number }): Measured[] {
  const { from, today, days } = span;
  const within = (on: IsoDate | null) => on !== null && on <= key && daysBetween(on, key) < days;
  return all.filter((c) => {
    if (!counts(c)) return false;
    switch (point) {
      case 'made':
        return within(c.madeOn) && c.madeOn >= from;
      case 'ended':
        return within(c.endedOn) && c.endedOn! >= from;
      case 'open':
        return openOn(c, key);
      case 'late': {
        const due = dueOn(c, key);
        return openOn(c, key) && due !== null && due < key;
      }
      case 'age':
        return isOpen(c.state) && Math.min(12, Math.floor(daysBetween(c.madeOn, today) / 7)) === Number(key);
      case 'missed by month':
        return wasKept(c, today) === false && c.due!.slice(0, 7) === key;
      case 'missed by owner':
        return wasKept(c, today) === false && (key === '' ? c.owner.length === 0 : c.owner.includes(key));
      case 'missed by series':
        return wasKept(c, today) === false && (c.series ?? '') === key;
      case 'moved':
        return c.moved > 0 && (c.series ?? '') === key;
      case 'carried':
        return c.carried > 0 && (c.series ?? '') === key;
      default:
        // what took longer than so many days, or has been open for longer
        return daysBetween(c.madeOn, c.endedOn ?? today) > Number(key);
    }
  });
}
