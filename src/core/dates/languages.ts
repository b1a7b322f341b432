import { de, es, fr, pt } from 'chrono-node';
import { type IsoDate, makeDate } from './calendar.ts';
import { phrasesOf } from './phrases-abroad.ts';
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
 * Dates in a text of another language than English: our own phrases for it first, then what chrono-node's parsers for it
 * find beside them; what neither knows is tried as English, since dates are often written in it. Days without a year
 * are those to come.
 */
export function readDatesIn(language: 'en' | keyof typeof PARSERS, text: string, context: DateContext): FoundDate[] {
  const english = readDates(text, context).flatMap((d) => (d.date ? [{ from: d.from, to: d.to, date: d.date }] : []));
  if (language === 'en') return english;
  const said = text.slice(0, 20_000);
  const own: FoundDate[] = [];
  const beside = (d: FoundDate) => !own.some((o) => d.from < o.to && o.from < d.to);
  for (const { pattern, resolve } of phrasesOf(language)) {
    for (const m of said.matchAll(pattern)) {
      const date = resolve(m.groups ?? {}, context);
      const found = date && { from: m.index, to: m.index + m[0].length, date };
      if (found && beside(found)) own.push(found);
    }
  }
  const others = PARSERS[language].parse(said, { instant: new Date(`${context.date}T12:00:00Z`), timezone: 0 }, { forwardDate: true }).flatMap((r) => {
    const date = r.start.isCertain('day') || r.start.isCertain('weekday') ? makeDate(r.start.get('year') ?? 0, r.start.get('month') ?? 0, r.start.get('day') ?? 0) : null;
    return date ? [{ from: r.index, to: r.index + r.text.length, date }] : [];
  });
  const found = [...own, ...others.filter(beside)].sort((a, b) => a.from - b.from);
  return found.length ? found : english;
}
