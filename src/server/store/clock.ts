import { clockAt } from '../../core/dates/moments.ts';

/** Ottik's own time zone: the one of the machine it runs on. */
const HERE = () => Intl.DateTimeFormat().resolvedOptions().timeZone;

/**
 * Today's date, `YYYY-MM-DD`, in an IANA time zone or where Ottik runs.
 * `OTTIK_TODAY` sets another, so that tests stand still.
 */
export const today = (zone = HERE()): string => dayAt(new Date(), zone);

/** The day it is at a moment, in a time zone. */
export const dayAt = (moment: Date, zone: string): string => process.env.OTTIK_TODAY ?? clockAt(moment, zone).day;

/** The time of day, `12:50`, in a time zone or where Ottik runs. */
export const timeNow = (zone = HERE()): string => (process.env.OTTIK_TODAY ? (process.env.OTTIK_TIME ?? '12:50') : clockAt(new Date(), zone).time);
