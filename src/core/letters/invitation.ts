import ICAL from 'ical.js';
import { foldCalendar } from '../dates/calendar-lines.ts';
import { momentAt } from '../dates/moments.ts';

/** A sitting somebody is asked to come to. */
export interface Invitation {
  /** the same for the same sitting, so that a changed invitation replaces the first (RFC 5545, 3.8.4.7) */
  uid: string;
  /** goes up with every change (RFC 5545, 3.8.7.4) */
  sequence: number;
  title: string;
  date: string;
  /** `10:00` where the sitting is, or null for the whole day */
  time: string | null;
  minutes: number;
  zone: string;
  place: string;
  organiser: { name: string; mail: string };
  attendees: readonly { name: string; mail: string }[];
  /** the moment it is written */
  stamp: Date;
  cancelled?: boolean;
}

/** An iCalendar REQUEST (or CANCEL) for a sitting, as a mail program reads it (RFC 5545, RFC 5546 3.2.2). */
export function invitationCalendar(i: Invitation): string {
  const calendar = new ICAL.Component('vcalendar');
  calendar.updatePropertyWithValue('version', '2.0');
  calendar.updatePropertyWithValue('prodid', '-//Ottik//Letters//EN');
  calendar.updatePropertyWithValue('method', i.cancelled ? 'CANCEL' : 'REQUEST');
  const event = new ICAL.Component('vevent');
  calendar.addSubcomponent(event);
  event.updatePropertyWithValue('uid', i.uid);
  event.updatePropertyWithValue('sequence', i.sequence);
  event.updatePropertyWithValue('dtstamp', utc(i.stamp));
  if (i.time) {
    const start = momentAt(i.date, i.time, i.zone);
    event.updatePropertyWithValue('dtstart', utc(start));
    event.updatePropertyWithValue('dtend', utc(new Date(start.getTime() + i.minutes * 60_000)));
  } else event.updatePropertyWithValue('dtstart', ICAL.Time.fromDateString(i.date));
  event.updatePropertyWithValue('summary', i.title);
  if (i.place) event.updatePropertyWithValue('location', i.place);
  event.updatePropertyWithValue('status', i.cancelled ? 'CANCELLED' : 'CONFIRMED');
  const organiser = new ICAL.Property('organizer', event);
  organiser.setParameter('cn', i.organiser.name);
  organiser.setValue(`mailto:${i.organiser.mail}`);
  event.addProperty(organiser);
  for (const a of i.attendees) {
    const attendee = new ICAL.Property('attendee', event);
    attendee.setParameter('cn', a.name);
    attendee.setParameter('role', 'REQ-PARTICIPANT');
    attendee.setParameter('partstat', 'NEEDS-ACTION');
    attendee.setParameter('rsvp', 'TRUE');
    attendee.setValue(`mailto:${a.mail}`);
    event.addProperty(attendee);
  }
  return foldCalendar(calendar.toString());
}

const utc = (moment: Date) => ICAL.Time.fromJSDate(moment, true);
