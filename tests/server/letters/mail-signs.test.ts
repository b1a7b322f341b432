import { describe, expect, it } from 'vitest';
import { senderDay } from '../../../src/core/dates/moments.ts';

describe('the day of a mail is its sender’s', () => {
  // the forms of RFC 5322, appendix A.1 and A.6.2 (obsolete zones and comments)
  it.each([
    ['Fri, 21 Nov 1997 09:55:06 -0600', '1997-11-21'],
    ['Thu, 5 Mar 2026 22:30:00 -0500', '2026-03-05'],
    ['Fri, 6 Mar 2026 01:30:00 +0900', '2026-03-06'],
    ['21 Nov 97 09:55:06 GMT', '1997-11-21'],
    ['Thu, 13 Feb 1969 23:32:54 -0330 (Newfoundland Time)', '1969-02-13'],
    ['yesterday', null],
    [undefined, null],
  ])('%s', (header, day) => expect(senderDay(header)).toBe(day));
});
