import { de, es, fr, pt } from 'chrono-node';
import { type IsoDate, makeDate } from './calendar.ts';
import { readDates } from './read.ts';
import type { DateContext } from './rules.ts';

const PARSERS = { de, es, fr, pt };

/** A date in a text: the day, and where its words stand. */
export interface FoundDate {
  from: number;
  to: number;
  date: IsoDate;
}

/**
 * Dates in a text of another language than English, read by chrono-node's parsers for it; what they do not know is
 * tried as English, since dates are often written in it. Days without a year are those to come.
 */
export function readDatesIn(language: 'en' | keyof typeof PARSERS, text: string, context: DateContext): FoundDate[] {
  const english = readDates(text, context).flatMap((d) => (d.date ? [{ from: d.from, to: d.to, date: d.date }] : []));
  if (language === 'en') return english;
  const found = PARSERS[language].parse(text.slice(0, 20_000), { instant: new Date(`${context.date}T12:00:00Z`), timezone: 0 }, { forwardDate: true }).flatMap((r) => {
    const date = r.start.isCertain('day') || r.start.isCertain('weekday') ? makeDate(r.start.get('year') ?? 0, r.start.get('month') ?? 0, r.start.get('day') ?? 0) : null;
    return date ? [{ from: r.index, to: r.index + r.text.length, date }] : [];
  });
  return found.length ? found : english;
}
