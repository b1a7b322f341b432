import { describe, expect, it } from 'vitest';
import { guessMeeting } from '../../../src/core/record/guess.ts';
import { readRecord } from '../../../src/core/record/read.ts';

const guess = (text: string, name: string | null, format: 'md' | 'txt' = 'md') => guessMeeting(readRecord(text, format), name, '2026-03-06');

describe('title and date of a record', () => {
  it.each([
    ['# Weekly works call, Thu 5 March\n\nwords', 'x.md', 'Weekly works call', '2026-03-05'],
    ['words only', 'weekly-works-call-2026-03-05.md', 'Weekly works call', '2026-03-05'],
    ['words only', '20260305 yard walk.md', 'Yard walk', '2026-03-05'],
    ['# Minutes of the steering committee\n\nHeld on 12 February 2026', null, 'Steering committee', '2026-02-12'],
    ['# Notes\n\nnothing', null, null, null],
  ])('%j named %s', (text, name, title, date) => {
    const g = guess(text, name);
    expect(g.date).toBe(date);
    expect(g.title).toBe(title);
  });
  it('takes the subject of a mail', () => {
    expect(guess('From: Ines\nTo: all\nDate: Wednesday, March 4, 2026\nSubject: Re: Recap of the yard walk\n\nHi', null, 'txt')).toMatchObject({ title: 'Yard walk', date: '2026-03-04' });
  });
  it('does not take a day that only happens to be spoken of', () => {
    expect(guess('One boat, and a bit of the second, by Friday', null, 'txt').date).toBeNull();
  });
  it('does not believe in days to come', () => {
    expect(guess('# Call\n\n9 March', null).date).toBe('2025-03-09');
  });
});
