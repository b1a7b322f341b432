import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { entriesOf, foldCalendar, unfoldCalendar } from '../../../src/core/dates/calendar-lines.ts';

const octets = (line: string) => new TextEncoder().encode(line).length;

describe('lines of a calendar (RFC 5545, 3.1)', () => {
  it('unfold as in the example of the standard', () => {
    expect(unfoldCalendar('DESCRIPTION:This is a lo\r\n ng description\r\n  that exists on a long line.').map((l) => l.words)).toEqual(['DESCRIPTION:This is a long description that exists on a long line.']);
  });
  it('fold at 75 octets, cut no character in two, and unfold to what they were', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ unit: 'grapheme', minLength: 1, maxLength: 160 }).filter((s) => !/[\r\n]/.test(s) && !/^[ \t]/.test(s)),
          { minLength: 1, maxLength: 6 },
        ),
        (lines) => {
          const folded = foldCalendar(lines.join('\r\n'));
          for (const line of folded.split('\r\n')) expect(octets(line)).toBeLessThanOrEqual(75);
          expect(folded.endsWith('\r\n')).toBe(true);
          expect(unfoldCalendar(folded).map((l) => l.words)).toEqual(lines);
        },
      ),
    );
  });
  it('give each entry of every calendar in a file by itself, and say where one has no end', () => {
    const file = 'BEGIN:VCALENDAR\nBEGIN:VTODO\nSUMMARY:One\nEND:VTODO\nBEGIN:VTODO\nSUMMARY:Two\nEND:VCALENDAR\nBEGIN:VCALENDAR\nBEGIN:VTODO\nSUMMARY:Three\nEND:VTODO\nEND:VCALENDAR';
    expect(entriesOf(file, 'VTODO').map((e) => [e.line, e.text === null ? null : /SUMMARY:(.*)\r/.exec(e.text)![1]])).toEqual([
      [2, 'One'],
      [5, null],
      [9, 'Three'],
    ]);
  });
});
