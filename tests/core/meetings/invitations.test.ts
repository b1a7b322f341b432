import { describe, expect, it } from 'vitest';
import { readCalendar } from '../../../src/core/meetings/invitations.ts';

const calendar = (...lines: string[]) => ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//ABC Corporation//NONSGML My Product//EN', ...lines, 'END:VCALENDAR'].join('\r\n');
const event = (...lines: string[]) => calendar('BEGIN:VEVENT', 'UID:one@example', 'SUMMARY:Yard huddle', ...lines, 'END:VEVENT');
const first = (text: string, zone = 'Europe/Lisbon') => readCalendar(text, zone).meetings[0]!;

describe('a calendar file', () => {
  it('RFC 5545 §4: the networking meeting and the group event of its examples', () => {
    const networking = calendar(
      'BEGIN:VEVENT',
      'DTSTAMP:19960704T120000Z',
      'UID:uid1@example.com',
      'ORGANIZER:mailto:jsmith@example.com',
      'DTSTART:19960918T143000Z',
      'DTEND:19960920T220000Z',
      'STATUS:CONFIRMED',
      'CATEGORIES:CONFERENCE',
      'SUMMARY:Networld+Interop Conference',
      'DESCRIPTION:Networld+Interop Conference and Exhibit\\nAtlanta World Congress Center\\n Atlanta\\, Georgia',
      'END:VEVENT',
    );
    expect(first(networking, 'UTC')).toMatchObject({ uid: 'uid1@example.com', title: 'Networld+Interop Conference', date: '1996-09-18', time: '14:30', people: [{ name: null, mail: 'jsmith@example.com' }], notes: 'Networld+Interop Conference and Exhibit\nAtlanta World Congress Center\n Atlanta, Georgia' });
    const group = calendar(
      'BEGIN:VTIMEZONE',
      'TZID:America/New_York',
      'BEGIN:STANDARD',
      'DTSTART:19981025T020000',
      'TZOFFSETFROM:-0400',
      'TZOFFSETTO:-0500',
      'TZNAME:EST',
      'END:STANDARD',
      'BEGIN:DAYLIGHT',
      'DTSTART:19990404T020000',
      'TZOFFSETFROM:-0500',
      'TZOFFSETTO:-0400',
      'TZNAME:EDT',
      'END:DAYLIGHT',
      'END:VTIMEZONE',
      'BEGIN:VEVENT',
      'DTSTAMP:19980309T231000Z',
      'UID:guid-1.example.com',
      'ORGANIZER:mailto:mrbig@example.com',
      'ATTENDEE;RSVP=TRUE;ROLE=REQ-PARTICIPANT;CUTYPE=GROUP:mailto:employee-A@example.com',
      'DESCRIPTION:Project XYZ Review Meeting',
      'CATEGORIES:MEETING',
      'CLASS:PUBLIC',
      'CREATED:19980309T130000Z',
      'SUMMARY:XYZ Project Review',
      'DTSTART;TZID=America/New_York:19980312T083000',
      'DTEND;TZID=America/New_York:19980312T093000',
      'LOCATION:1CP Conference Room 4350',
      'END:VEVENT',
    );
    expect(first(group, 'America/New_York')).toMatchObject({
      title: 'XYZ Project Review',
      date: '1998-03-12',
      time: '08:30',
      minutes: 60,
      place: '1CP Conference Room 4350',
      people: [
        { name: null, mail: 'employee-a@example.com' },
        { name: null, mail: 'mrbig@example.com' },
      ],
    });
    expect(first(group, 'Europe/Lisbon').time).toBe('13:30');
  });
  it('has times where whoever asks is: in UTC, in a zone by its name on both sides of a change of clocks, and without a zone', () => {
    expect(first(event('DTSTART:20260310T093000Z', 'DURATION:PT45M'), 'Europe/Berlin')).toMatchObject({ date: '2026-03-10', time: '10:30', minutes: 45 });
    expect(first(event('DTSTART;TZID=America/New_York:20260307T100000'), 'Europe/Berlin').time).toBe('16:00');
    // New York changes on 8 March, Berlin on the 29th
    expect(first(event('DTSTART;TZID=America/New_York:20260309T100000'), 'Europe/Berlin').time).toBe('15:00');
    expect(first(event('DTSTART;TZID=America/New_York:20260330T100000'), 'Europe/Berlin').time).toBe('16:00');
    expect(first(event('DTSTART:20260310T093000'), 'Europe/Berlin').time).toBe('09:30');
    expect(first(event('DTSTART;VALUE=DATE:20260310'))).toMatchObject({ date: '2026-03-10', time: null });
  });
  it('has rules with days left out, moved and called off one by one', () => {
    const text = calendar(
      'BEGIN:VEVENT',
      'UID:s@x',
      'SUMMARY:Board',
      'DTSTART;TZID=Europe/Lisbon:20260303T100000',
      'DTEND;TZID=Europe/Lisbon:20260303T113000',
      'RRULE:FREQ=WEEKLY;BYDAY=TU;WKST=MO',
      'EXDATE;TZID=Europe/Lisbon:20260310T100000',
      'SEQUENCE:3',
      'END:VEVENT',
      'BEGIN:VEVENT',
      'UID:s@x',
      'SUMMARY:Board',
      'RECURRENCE-ID;TZID=Europe/Lisbon:20260317T100000',
      'DTSTART;TZID=Europe/Lisbon:20260318T140000',
      'END:VEVENT',
      'BEGIN:VEVENT',
      'UID:s@x',
      'RECURRENCE-ID;TZID=Europe/Lisbon:20260324T100000',
      'DTSTART;TZID=Europe/Lisbon:20260324T100000',
      'STATUS:CANCELLED',
      'END:VEVENT',
    );
    expect(first(text)).toMatchObject({ rule: 'FREQ=WEEKLY;BYDAY=TU', minutes: 90, sequence: 3, left: ['2026-03-10', '2026-03-24'], moved: [{ slot: '2026-03-17', date: '2026-03-18', time: '14:00' }] });
  });
  it('called off as a whole is told by its method or its status', () => {
    expect(first(calendar('METHOD:CANCEL', 'BEGIN:VEVENT', 'UID:a', 'SUMMARY:x', 'DTSTART:20260310T093000Z', 'END:VEVENT')).cancelled).toBe(true);
    expect(first(event('DTSTART:20260310T093000Z', 'STATUS:CANCELLED')).cancelled).toBe(true);
  });
  it('reads the rest where one entry cannot be read, and says why', () => {
    const bad = (...lines: string[]) => ['BEGIN:VEVENT', 'SUMMARY:Bad one', ...lines, 'END:VEVENT'];
    const { meetings, doubts } = readCalendar(
      calendar(...bad('DTSTART:20260310T093000Z'), ...bad('UID:b'), ...bad('UID:c', 'DTSTART;TZID=Nowhere Standard Time:20260310T093000'), 'BEGIN:VEVENT', 'UID:ok', 'SUMMARY:Good', 'DTSTART:20260310T093000Z', 'RRULE:FREQ=HOURLY', 'END:VEVENT', 'BEGIN:VTODO', 'UID:t', 'SUMMARY:To do', 'END:VTODO'),
      'UTC',
    );
    expect(meetings.map((m) => [m.title, m.rule])).toEqual([['Good', null]]);
    expect(doubts.map((d) => d.why)).toEqual([expect.stringContaining('no UID'), expect.stringContaining('dtstart is no date'), expect.stringContaining('is not known'), expect.stringContaining('a rule Ottik does not know')]);
  });
  it.each(['', 'BEGIN:VCALENDAR', 'nonsense', `BEGIN:VCALENDAR\n${'X'.repeat(100)}`])('is refused with words where it is none: %j', (text) => {
    const { meetings, doubts } = readCalendar(text, 'UTC');
    expect([meetings.length, doubts.length]).toEqual([0, 1]);
  });
});
