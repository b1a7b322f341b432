import ICAL from 'ical.js';
import { DateTime } from 'luxon';
import type { IsoDate } from '../dates/calendar.ts';
import { isZone } from '../dates/moments.ts';
import { isRule, type Rule } from './recurrence.ts';

/** Somebody asked to a meeting, as the calendar names them. */
export interface AskedPerson {
  name: string | null;
  mail: string | null;
}

/** A meeting or a series of a calendar file (iCalendar, RFC 5545), its times where whoever asks is. */
export interface CalendarMeeting {
  uid: string;
  sequence: number;
  title: string;
  place: string;
  notes: string;
  date: IsoDate;
  /** null for a whole day */
  time: string | null;
  minutes: number;
  /** how often it comes again; null for a single one */
  rule: Rule | null;
  /** days the rule gives and that are not held (EXDATE, or cancelled one by one) */
  left: IsoDate[];
  /** single ones that are held at another day or time (RECURRENCE-ID) */
  moved: { slot: IsoDate; date: IsoDate; time: string | null }[];
  people: AskedPerson[];
  /** it is called off as a whole */
  cancelled: boolean;
}

/** What could not be read, with the title it belongs to where there is one. */
export interface CalendarDoubt {
  title: string;
  why: string;
}

/** So many meetings are read of one file, and so long a text. */
const MOST = 200;
const LONGEST = 2_000_000;
const USUAL_MINUTES = 60;

export const isCalendar = (text: string): boolean => /^\s{0,20}BEGIN:VCALENDAR/i.test(text);

/**
 * The meetings of a calendar file or an invitation. To-dos and free time are left out. One entry that cannot be read leaves the
 * rest read.
 * @param zone IANA name of the time zone the times are wanted in
 */
export function readCalendar(text: string, zone: string): { meetings: CalendarMeeting[]; doubts: CalendarDoubt[] } {
  const doubts: CalendarDoubt[] = [];
  if (text.length > LONGEST) return { meetings: [], doubts: [{ title: '', why: 'the file is larger than a calendar Ottik reads' }] };
  let calendars: ICAL.Component[];
  try {
    const parsed = ICAL.parse(text.trim()) as unknown;
    if (!Array.isArray(parsed) || parsed.length === 0) throw new Error('it is empty');
    calendars = (Array.isArray(parsed[0]) ? (parsed as unknown[]) : [parsed]).map((c) => new ICAL.Component(c as ConstructorParameters<typeof ICAL.Component>[0]));
  } catch (error) {
    return { meetings: [], doubts: [{ title: '', why: `this is no calendar that can be read: ${(error as Error).message.slice(0, 100)}` }] };
  }
  const meetings = new Map<string, CalendarMeeting>();
  const changes: { event: ICAL.Component; cancels: boolean }[] = [];
  for (const calendar of calendars) {
    const cancels = String(calendar.getFirstPropertyValue('method') ?? '').toUpperCase() === 'CANCEL';
    for (const event of calendar.getAllSubcomponents('vevent')) {
      if (event.getFirstProperty('recurrence-id')) {
        changes.push({ event, cancels });
        continue;
      }
      try {
        const read = meetingOf(event, zone, cancels, doubts);
        const known = meetings.get(read.uid);
        if (!known || known.sequence <= read.sequence) meetings.set(read.uid, read);
      } catch (error) {
        doubts.push({ title: titleOf(event), why: (error as Error).message.slice(0, 160) });
      }
    }
  }
  for (const { event, cancels } of changes) {
    const whole = meetings.get(uidOf(event));
    try {
      const slot = momentOf(event, 'recurrence-id', zone).date;
      if (!whole) throw new Error('one of a series that is not in the file');
      if (cancels || isCancelled(event)) whole.left.push(slot);
      else whole.moved.push({ slot, ...momentOf(event, 'dtstart', zone) });
    } catch (error) {
      doubts.push({ title: titleOf(event), why: (error as Error).message.slice(0, 160) });
    }
  }
  const all = [...meetings.values()];
  if (all.length > MOST) doubts.push({ title: '', why: `only the first ${MOST} of ${all.length} meetings are taken` });
  return { meetings: all.slice(0, MOST), doubts };
}

const words = (event: ICAL.Component, name: string): string => String(event.getFirstPropertyValue(name) ?? '').trim();
const titleOf = (event: ICAL.Component): string => words(event, 'summary').replace(/\s+/g, ' ').slice(0, 120) || 'Meeting';
const uidOf = (event: ICAL.Component): string => words(event, 'uid').slice(0, 250);
const isCancelled = (event: ICAL.Component): boolean => words(event, 'status').toUpperCase() === 'CANCELLED';

function meetingOf(event: ICAL.Component, zone: string, cancels: boolean, doubts: CalendarDoubt[]): CalendarMeeting {
  const title = titleOf(event);
  const uid = uidOf(event);
  if (!uid) throw new Error('it has no UID, so that it could not be known again');
  const { date, time } = momentOf(event, 'dtstart', zone);
  const own = (event.getFirstProperty('dtstart')!.getFirstValue() as ICAL.Time).toString().slice(0, 10);
  let rule: Rule | null =
    event
      .getFirstPropertyValue('rrule')
      ?.toString()
      .replace(/;?WKST=MO/, '') ?? null;
  if (rule !== null && (!isRule(rule) || own !== date)) {
    doubts.push({ title, why: own === date ? 'it comes again by a rule Ottik does not know: only the first is taken' : 'its day is another one where you are: only the first is taken' });
    rule = null;
  }
  const left = event.getAllProperties('exdate').flatMap((p) => (p.getValues() as ICAL.Time[]).map((t) => t.toString().slice(0, 10)));
  return {
    uid,
    sequence: Number(event.getFirstPropertyValue('sequence') ?? 0) || 0,
    title,
    place: words(event, 'location').slice(0, 120),
    notes: words(event, 'description').slice(0, 4000),
    date,
    time,
    minutes: lengthOf(event),
    rule,
    left,
    moved: [],
    people: event.getAllProperties('attendee').concat(event.getAllProperties('organizer')).slice(0, 200).map(personOf),
    cancelled: cancels || isCancelled(event),
  };
}

/** A property that is a moment, where whoever asks is. A time without a zone is taken as theirs. */
function momentOf(event: ICAL.Component, name: string, zone: string): { date: IsoDate; time: string | null } {
  const property = event.getFirstProperty(name);
  const value = property?.getFirstValue() as ICAL.Time | null;
  if (!property || !value || typeof value.toJSDate !== 'function' || Number.isNaN(value.toJSDate().getTime())) throw new Error(`its ${name} is no date`);
  const written = value.toString();
  if (value.isDate) return { date: written.slice(0, 10), time: null };
  const tzid = property.getParameter('tzid');
  const named = typeof tzid === 'string' ? tzid : null;
  const floating = value.zone === ICAL.Timezone.localTimezone;
  if (floating && named !== null && !isZone(named)) throw new Error(`its time zone “${named.slice(0, 60)}” is not known`);
  // a zone that is known by its name is taken as it is known: files often describe a few years of it only
  const local = named !== null && isZone(named) ? named : floating ? zone : null;
  const from = local !== null ? DateTime.fromISO(written.slice(0, 19), { zone: local }) : DateTime.fromSeconds(value.toUnixTime());
  const there = from.setZone(zone);
  if (!there.isValid) throw new Error(`its ${name} is no date`);
  return { date: there.toISODate()!, time: there.toFormat('HH:mm') };
}

function lengthOf(event: ICAL.Component): number {
  const start = event.getFirstPropertyValue('dtstart') as ICAL.Time;
  const end = event.getFirstPropertyValue('dtend') as ICAL.Time | null;
  const duration = event.getFirstPropertyValue('duration') as ICAL.Duration | null;
  const seconds = duration ? duration.toSeconds() : end ? end.subtractDate(start).toSeconds() : USUAL_MINUTES * 60;
  const minutes = Math.round(seconds / 60);
  return minutes >= 5 && minutes <= 24 * 60 ? minutes : USUAL_MINUTES;
}

function personOf(property: ICAL.Property): AskedPerson {
  const address = String(property.getFirstValue() ?? '').replace(/^mailto:/i, '');
  const mail = /^[^\s@]{1,64}@[^\s@]{1,190}$/.test(address) ? address.toLowerCase() : null;
  const called = property.getParameter('cn');
  const name = (typeof called === 'string' ? called : '').replace(/\s+/g, ' ').trim().slice(0, 120);
  return { name: name && !name.includes('@') ? name : null, mail };
}
