import { describe, expect, it } from 'vitest';
import { proposedSeries } from '../../../src/core/meetings/proposed-series.ts';

const meeting = (title: string, date = '2026-03-03', time: string | null = null) => ({ title, date, time });

describe('a series that a meeting looks like one of', () => {
  it.each([
    ['Weekly yard huddle', 'every Tuesday at 10:00', 'its title says weekly'],
    ['Design review, fortnightly', 'every second Tuesday at 10:00', 'its title says every two weeks'],
    ['Stand-up', 'every weekday at 10:00', 'its title says daily'],
    ['Monthly board', 'the first Tuesday of every month at 10:00', 'its title says monthly'],
  ])('%s', (title, when, why) => expect(proposedSeries(meeting(title), [])).toEqual({ title, when, why }));
  it('is told by earlier ones of its title, weeks or months apart', () => {
    expect(proposedSeries(meeting('Yard huddle'), [meeting('yard huddle', '2026-02-17', '08:30'), meeting('Other', '2026-02-24')])).toEqual({ title: 'Yard huddle', when: 'every second Tuesday at 08:30', why: 'one of this title was held before' });
    expect(proposedSeries(meeting('Yard huddle', '2026-03-31'), [meeting('Yard huddle', '2026-02-24'), meeting('Yard huddle', '2026-01-27')])?.when).toBe('the last Tuesday of every month at 10:00');
  });
  it('is none where nothing says so', () => {
    expect(proposedSeries(meeting('Yard huddle'), [])).toBeNull();
    expect(proposedSeries(meeting('Yard huddle'), [meeting('Yard huddle', '2026-02-20')])).toBeNull();
    expect(proposedSeries(meeting(''), [])).toBeNull();
  });
});
