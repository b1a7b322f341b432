import { addDays, daysBetween, type IsoDate, startOfWeek } from '../dates/calendar.ts';

/** A meeting that was held. */
export interface Held {
  id: number;
  on: IsoDate;
  series: string | null;
  /** its planned length */
  minutes: number | null;
  /** who was there */
  there: number;
}

/** One week of meetings. */
export interface MeetingWeek {
  from: IsoDate;
  ids: number[];
  hours: number;
  /** hours of everybody who was there together */
  personHours: number;
  /** people at a meeting, on average */
  size: number;
}

/** A meeting without a length is taken to be this long, in minutes. Common practice. */
const USUAL = 60;
/** Hours of a working week, against which the share is told. Common practice. */
export const WORKING_WEEK = 40;

/** Meetings by week, every week between the first and the last day. */
export function meetingWeeks(held: readonly Held[], from: IsoDate, to: IsoDate): MeetingWeek[] {
  const first = startOfWeek(from);
  const weeks = Math.max(0, Math.floor(daysBetween(first, to) / 7) + 1);
  const out = Array.from({ length: weeks }, (_, i): MeetingWeek & { there: number } => ({ from: addDays(first, 7 * i), ids: [], hours: 0, personHours: 0, size: 0, there: 0 }));
  for (const m of held) {
    const week = out[Math.floor(daysBetween(first, m.on) / 7)];
    if (!week || m.on < from || m.on > to) continue;
    const hours = (m.minutes ?? USUAL) / 60;
    week.ids.push(m.id);
    week.hours += hours;
    week.personHours += hours * m.there;
    week.there += m.there;
  }
  return out.map(({ there, ...w }) => ({ ...w, size: w.ids.length ? there / w.ids.length : 0 }));
}
