import type { IsoDate } from '../dates/calendar.ts';
import type { Period } from '../find/period.ts';

/** Whether a day falls into a period; every day does into none. */
export const within = (on: IsoDate, period: Period | null): boolean => period === null || ((period.from === null || on >= period.from) && (period.to === null || on <= period.to));
