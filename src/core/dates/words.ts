/** Number, weekday and month words, and the patterns made of them. */

export const WEEKDAYS: Record<string, number> = {
  monday: 1,
  mon: 1,
  tuesday: 2,
  tues: 2,
  tue: 2,
  wednesday: 3,
  weds: 3,
  wed: 3,
  thursday: 4,
  thurs: 4,
  thur: 4,
  thu: 4,
  friday: 5,
  fri: 5,
  saturday: 6,
  sat: 6,
  sunday: 7,
  sun: 7,
};

export const MONTHS: Record<string, number> = {
  january: 1,
  jan: 1,
  february: 2,
  feb: 2,
  march: 3,
  mar: 3,
  april: 4,
  apr: 4,
  may: 5,
  june: 6,
  jun: 6,
  july: 7,
  jul: 7,
  august: 8,
  aug: 8,
  september: 9,
  sept: 9,
  sep: 9,
  october: 10,
  oct: 10,
  november: 11,
  nov: 11,
  december: 12,
  dec: 12,
};

const UNITS = ['', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve', 'thirteen', 'fourteen', 'fifteen', 'sixteen', 'seventeen', 'eighteen', 'nineteen', 'twenty'];
export const COUNTS: Record<string, number> = { a: 1, an: 1, ...Object.fromEntries(UNITS.map((w, i) => [w, i]).slice(1)), 'a couple of': 2, 'couple of': 2, thirty: 30 };

const ORDINAL_WORDS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh', 'twelfth', 'thirteenth', 'fourteenth', 'fifteenth', 'sixteenth', 'seventeenth', 'eighteenth', 'nineteenth', 'twentieth'];
export const ORDINALS: Record<string, number> = {
  ...Object.fromEntries(ORDINAL_WORDS.map((w, i) => [w, i + 1])),
  ...Object.fromEntries(
    ORDINAL_WORDS.slice(0, 9).flatMap((w, i) => [
      [`twenty-${w}`, 21 + i],
      [`twenty ${w}`, 21 + i],
    ]),
  ),
  thirtieth: 30,
  'thirty-first': 31,
  'thirty first': 31,
};

const byLength = (words: string[]) => [...words].sort((a, b) => b.length - a.length).join('|');

const WHOLE = new Set(['may', 'march', 'april', 'june', 'july']);
/** Short forms may be written with a dot: `Aug. 25`, `Tues. 17 March`. */
const withDots = (names: Record<string, number>) => `(?:${byLength(Object.keys(names).map((w) => (w.length <= 5 && !WHOLE.has(w) ? `${w}\\.?` : w)))})`;

export const WEEKDAY = withDots(WEEKDAYS);
export const MONTH = withDots(MONTHS);
export const ORDINAL_WORD = `(?:${byLength(Object.keys(ORDINALS))})`;
export const ORDINAL = `(?:${ORDINAL_WORD}|\\d{1,2}(?:st|nd|rd|th))`;
export const COUNT = `(?:${byLength(Object.keys(COUNTS))}|\\d{1,3})`;
/** `two to three`, `2-3`, `three or four`: the later one counts, since until then the promise is kept. */
export const COUNT_OR_RANGE = `(?:(?:${COUNT}) ?(?:to|or|-|–) ?)?(?:${COUNT})`;

/** Units of time, with the short forms people type. */
export const UNIT = '(?:(?:working|business|work|week) ?days?|days?|wks?|weeks?|fortnights?|months?|mths?|quarters?|years?|yrs?)';

/** The number of a weekday, 1 for Monday to 7 for Sunday; 0 where the word is none. */
export const weekdayOf = (text: string | undefined) => WEEKDAYS[(text ?? '').toLowerCase().replace(/\.$/, '')] ?? 0;
/** The number of a month from 1; 0 where the word is none. */
export const monthOf = (text: string | undefined) => MONTHS[(text ?? '').toLowerCase().replace(/\.$/, '')] ?? 0;

/** Day of the month from `fifteenth`, `15th` or `15`; null past 31. */
export function readOrdinal(text: string): number | null {
  const word = text.toLowerCase().replace(/\s+/g, ' ');
  const n = ORDINALS[word] ?? Number.parseInt(word, 10);
  return n >= 1 && n <= 31 ? n : null;
}

/** A count, `three` or `3`; of a range (`two to three`) the later one. */
export function readCount(text: string): number | null {
  const word = text.toLowerCase().replace(/\s+/g, ' ').replace(RANGE_START, '');
  const n = COUNTS[word] ?? Number.parseInt(word, 10);
  return Number.isFinite(n) ? n : null;
}

const RANGE_START = new RegExp(`^(?:${COUNT}) ?(?:to|or|-|–) ?`, 'i');
