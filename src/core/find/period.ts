import { en } from 'chrono-node';
import { addDays, addMonths, endOfMonth, type IsoDate, isIsoDate, makeDate, partsOf, startOfWeek } from '../dates/calendar.ts';
import { fold } from '../language/fold.ts';
import { trimEnd } from '../language/trim.ts';

/** Days from the first to the last, both of them in it; null where it is open on that side. */
export interface Period {
  from: IsoDate | null;
  to: IsoDate | null;
}

const MONTHS = ['january', 'february', 'march', 'april', 'may', 'june', 'july', 'august', 'september', 'october', 'november', 'december'];
const NUMBERS: Readonly<Record<string, number>> = { a: 1, an: 1, one: 1, two: 2, three: 3, four: 4, five: 5, six: 6, seven: 7, eight: 8, nine: 9, ten: 10, twelve: 12 };
const LAST_N = /^(?:(?:in|over|during) )?(?:the )?(?:last|past) (\d{1,3}|[a-z]+) (day|week|month|year)s?$/;
const STRETCH = /^(?:in |during )?(this|last) (week|month|quarter|year)$/;
const MONTH = new RegExp(`^(?:in |during )?(${MONTHS.map((m) => `${m.slice(0, 3)}(?:${m.slice(3)})?`).join('|')})(?: (\\d{4}))?$`);
const YEAR = /^(?:in )?((?:19|20)\d\d)$/;
/** No time takes more characters to name. */
const LONGEST = 80;
const FROM_TO = /^(?:between |from )?(.+?) (?:and|to|until|till) (.+)$/;

/**
 * Reads a stretch of time that lies behind: searching looks back, so *Friday* is the last one and *March* the last that began.
 *
 *     readPeriod('last week', '2026-03-05')      // { from: '2026-02-23', to: '2026-03-01' }
 *     readPeriod('since 1 March', '2026-03-05')  // { from: '2026-03-01', to: null }
 *
 * @returns null for words that name no time
 */
export function readPeriod(words: string, today: IsoDate): Period | null {
  if (words.length > LONGEST) return null;
  const text = trimEnd(fold(words), '?!.,').replace(/\s+/g, ' ').trim();
  if (text === '') return null;
  const since = /^(?:since|after|from) (.+)$/.exec(text);
  if (since && !FROM_TO.test(text)) return open('from', since[1]!, today);
  const before = /^(?:before|until|till|up to) (.+)$/.exec(text);
  if (before) return open('to', before[1]!, today, text.startsWith('before') ? -1 : 0);
  const both = FROM_TO.exec(text);
  if (both) {
    const [a, b] = [stretch(both[1]!, today), stretch(both[2]!, today)];
    return a?.from && b?.to && a.from <= b.to ? { from: a.from, to: b.to } : null;
  }
  return stretch(text, today);
}

function open(side: 'from' | 'to', words: string, today: IsoDate, shift = 0): Period | null {
  const s = stretch(words, today);
  if (!s) return null;
  if (side === 'from') return { from: s.from, to: null };
  const last = shift ? s.from : s.to;
  return last === null ? null : { from: null, to: addDays(last, shift) };
}

function stretch(text: string, today: IsoDate): Period | null {
  const { year, month } = partsOf(today);
  const last = LAST_N.exec(text);
  if (last) {
    const n = NUMBERS[last[1]!] ?? Number(last[1]);
    if (!Number.isInteger(n)) return null;
    return { from: last[2] === 'day' ? addDays(today, -n) : last[2] === 'week' ? addDays(today, -7 * n) : addMonths(today, last[2] === 'month' ? -n : -12 * n), to: today };
  }
  const named = STRETCH.exec(text);
  if (named) return unitOf(named[2]!, named[1] === 'last' ? -1 : 0, today);
  const m = MONTH.exec(text);
  if (m) {
    const at = MONTHS.findIndex((name) => name.startsWith(m[1]!.slice(0, 3))) + 1;
    const from = makeDate(m[2] ? Number(m[2]) : at > month ? year - 1 : year, at, 1)!;
    return { from, to: endOfMonth(from) };
  }
  const y = YEAR.exec(text);
  if (y) return { from: `${y[1]}-01-01`, to: `${y[1]}-12-31` };
  const day = dayBehind(text, today);
  return day === null ? null : { from: day, to: day };
}

function unitOf(unit: string, by: -1 | 0, today: IsoDate): Period {
  const { year, month } = partsOf(today);
  if (unit === 'week') {
    const from = addDays(startOfWeek(today), 7 * by);
    return { from, to: addDays(from, 6) };
  }
  if (unit === 'year') return { from: `${year + by}-01-01`, to: `${year + by}-12-31` };
  const first = unit === 'month' ? makeDate(year, month, 1)! : makeDate(year, month - ((month - 1) % 3), 1)!;
  const length = unit === 'month' ? 1 : 3;
  const from = addMonths(first, by * length);
  return { from, to: addDays(addMonths(from, length), -1) };
}

/** One day, by chrono-node, which is asked for the past. */
function dayBehind(text: string, today: IsoDate): IsoDate | null {
  if (isIsoDate(text)) return text;
  const [found] = en.GB.parse(text, { instant: new Date(`${today}T12:00:00Z`), timezone: 0 });
  // all of it has to be the date: “the march of the penguins” names no day
  if (!found || found.text.length < text.replace(/^(?:on|the) /, '').length) return null;
  const { start } = found;
  const at = makeDate(start.get('year')!, start.get('month')!, start.get('day')!);
  if (at === null) return null;
  if (at <= today) return at;
  // a weekday or a day without its year that lies ahead is the one before it
  if (start.isCertain('weekday') && !start.isCertain('day')) return addDays(at, -7);
  if (start.isCertain('month') && !start.isCertain('year')) return addMonths(at, -12);
  return at;
}
