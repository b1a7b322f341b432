import { DateTime } from 'luxon';
import type { IsoDate } from './calendar.ts';

/** A time of day, `08:30`. */
export type TimeOfDay = string;

export const isTimeOfDay = (text: string) => /^(?:[01]\d|2[0-3]):[0-5]\d$/.test(text);

export const isZone = (name: string) => name.length < 64 && DateTime.local().setZone(name).isValid;

/** The moment a clock in a zone shows a day and a time. A time that a change of the clocks skips is the one an hour later. */
export function momentAt(day: IsoDate, time: TimeOfDay, zone: string): Date {
  return DateTime.fromISO(`${day}T${time}`, { zone }).toJSDate();
}

/** Day and time that a clock in a zone shows at a moment. */
export function clockAt(moment: Date, zone: string): { day: IsoDate; time: TimeOfDay } {
  const there = DateTime.fromJSDate(moment, { zone });
  return { day: there.toFormat('yyyy-MM-dd'), time: there.toFormat('HH:mm') };
}

/** Hours in which nobody is written to: from one time of day to another, over midnight when the first is the later. */
export interface QuietHours {
  from: TimeOfDay;
  to: TimeOfDay;
}

export function isQuiet(time: TimeOfDay, quiet: QuietHours | null): boolean {
  if (!quiet || quiet.from === quiet.to) return false;
  return quiet.from < quiet.to ? time >= quiet.from && time < quiet.to : time >= quiet.from || time < quiet.to;
}

/** A date header without the comment at its end, in which programs name the zone. */
const withoutComment = (header: string) => header.replace(/\([^()]{0,80}\)\s{0,8}$/, '').trim();

/**
 * The day on which a mail was written where its writer is, from its Date header (RFC 5322, 3.3): 22:30 -0500 is that day,
 * though it is the next one in UTC.
 * @returns the day, or null where the header is missing or is no date
 */
export function senderDay(dateHeader: string | undefined): IsoDate | null {
  const at = DateTime.fromRFC2822(withoutComment((dateHeader ?? '').slice(0, 200)), { setZone: true });
  return at.isValid ? at.toISODate() : null;
}
