import type { IsoDate } from '../dates/calendar.ts';
import { readWhen } from '../meetings/rhythm.ts';

/**
 * When a meeting follows another, as people say it: `a week later at 9:30`, `two weeks later`, `next Thursday at 10`.
 * @param date day of the meeting it follows
 * @returns null where no day is named
 */
export const readFollowing = (text: string, date: IsoDate): { date: IsoDate; time: string | null } | null => readWhen(text.replace(/^(.{1,30}?) later\b/i, 'in $1'), date);
