import { addDays, addMonths, dayOfWeek, endOfMonth, endOfQuarter, type IsoDate, makeDate, nextDayOfMonth, nextWeekday, partsOf, weekday } from './calendar.ts';
import { COUNT, COUNT_OR_RANGE, weekdayOf as day, MONTH, monthOf as month, ORDINAL, ORDINAL_WORD, readCount, readOrdinal, UNIT, WEEKDAY } from './words.ts';
import { addWorkingDays, workingWeek } from './working-days.ts';

/** What phrases are resolved against. */
export interface DateContext {
  /** the day the words were said */
  date: IsoDate;
  /** the next sitting of the same series, when it is known */
  next: IsoDate | null;
  /** the day that was named last before these words: what “the day after” is counted from */
  spoken?: IsoDate | null;
}

/**
 * One way of saying a date. Rules are tried in this order and the longest match at a place wins.
 * `resolve` gives null for a phrase that turns out to be no date.
 */
export interface DateRule {
  name: string;
  pattern: RegExp;
  resolve(groups: Record<string, string | undefined>, context: DateContext): IsoDate | null;
}

const rule = (name: string, pattern: string, resolve: DateRule['resolve']): DateRule => ({ name, pattern: new RegExp(`\\b(?:${pattern})(?![\\p{L}\\p{N}])`, 'iu'), resolve });

/** The first such month that has not ended before the day the words were said. */
function monthAhead(name: string | undefined, { date }: DateContext): { year: number; month: number } {
  const m = month(name);
  const now = partsOf(date);
  return { year: m < now.month ? now.year + 1 : now.year, month: m };
}

/** How a day ends or begins, as it is said beside the day: `Friday, close of business`, `first thing Monday`. */
const END_OF_DAY = "(?:the )?end of (?:the |business |working )*(?:day|play)|day[’']s end|eod|cob|(?:the )?close of (?:business|play)";
const PART_OF_DAY = `(?:by |at |before )?(?:${END_OF_DAY}|first thing|morning|afternoon|evening|night|noon|midday|lunch(?:time)?|latest)`;
const BEFORE_A_DAY = `(?:(?:${END_OF_DAY}|first thing|noon|lunchtime)(?: on)? )?`;

/**
 * What may follow an ordinal that is a day of the month. Before a noun it counts things (`the second welder`, `the 20th
 * anniversary`), and nouns are without number; so what may follow is named: the ends of phrases, and words that are no noun.
 */
const AFTER_A_DAY =
  "about|after|again|already|also|and|anyway|are|as|at|be|because|before|but|by|can|cannot|cause|cos|coz|could|definitely|did|do|does|either|else|everybody|everyone|for|from|had|has|have|he|her|here|his|how|i|if|in|instead|into|is|it|latest|may|maybe|might|must|my|no|noon|not|now|of|ok|okay|on|onwards?|or|our|perhaps|please|probably|rather|same|she|should|since|so|somebody|someone|still|thanks?|that|the|their|then|there|they|this|though|till|to|today|together|too|until|unless|was|we|well|were|what|when|where|which|while|who|will|with|without|would|yes|yet|you|your|as well|morning|afternoon|evening|night|[a-z]+ly|[a-z]+[’'](?:s|ll|d|re|ve|m)";
const NO_NOUN = `(?=[^\\p{L}\\p{N}]*$|\\s*[^\\p{L}\\p{N}\\s'’-]|\\s+(?:${AFTER_A_DAY})(?![\\p{L}\\p{N}-])(?! of (?:the|these|those|them|all|its|his|her|my|our)\\b)|\\n)`;

const MEETING = '(?:meeting|call|sitting|session|time|mtg|catch-?up|stand-?up|one|round|gathering|committee)';

export const DATE_RULES: readonly DateRule[] = [
  rule('day after tomorrow', '(?:the )?day after tomorrow', (_, c) => addDays(c.date, 2)),
  rule('tomorrow', `${BEFORE_A_DAY}(?:tomorrow|tmrw|tmr|tomoz)(?:,? (?:${PART_OF_DAY}))?`, (_, c) => addDays(c.date, 1)),
  rule('today', `today|tonight|later today|this (?:afternoon|morning|evening|arvo)|(?:by |at )?(?:${END_OF_DAY})|(?:straight|right|directly) after (?:this|the call|the meeting)`, (_, c) => c.date),
  rule('so many weeks from a day', `(?<count>${COUNT}) (?<unit>weeks?|fortnights?) (?:from |on )?(?<day>today|tomorrow|${WEEKDAY})|(?<day2>today|tomorrow|${WEEKDAY}) (?<unit2>fortnight)|(?<day3>today|tomorrow) week`, (g, c) => {
    const from = (g.day ?? g.day2 ?? g.day3)!.toLowerCase();
    const start = from === 'today' ? c.date : from === 'tomorrow' ? addDays(c.date, 1) : nextWeekday(c.date, day(from));
    return ahead(g.count ?? 'one', g.unit ?? g.unit2 ?? 'week', start);
  }),
  rule('weekday of another week', `(?<day>${WEEKDAY}) (?:of (?:the )?)?(?<which>next week|week after next|week|after next|in a week)`, (g, c) => {
    const which = g.which?.toLowerCase();
    if (which === 'next week') return dayOfWeek(c.date, day(g.day), 1);
    if (which === 'week' || which === 'in a week') return addDays(nextWeekday(c.date, day(g.day)), 7);
    return dayOfWeek(c.date, day(g.day), 2);
  }),
  rule('next week, on a day', `next week,? (?:on )?(?<day>${WEEKDAY})`, (g, c) => dayOfWeek(c.date, day(g.day), 1)),
  rule('this week, on a day', `this week,? (?:on )?(?<day>${WEEKDAY})`, (g, c) => dayOfWeek(c.date, day(g.day))),
  rule('weekday and day of month', `(?<day>${WEEKDAY}),? (?:that is |which is )?(?:the )?(?<nth>${ORDINAL})(?! (?:thing|half))(?: (?:of )?(?<month>${MONTH}))?`, (g, c) => onDay(g, c)),
  rule('weekday of a month', `(?<nth>first|second|third|fourth|last) (?<day>${WEEKDAY}) (?:of|in) (?:(?<month>${MONTH})|(?<which>the|this|next) month)`, (g, c) => {
    const m = g.month ? monthAhead(g.month, c) : partsOf(addMonths(`${c.date.slice(0, 8)}01`, g.which?.toLowerCase() === 'next' ? 1 : 0));
    const first = makeDate(m.year, m.month, 1)!;
    const last = addDays(endOfMonth(first), -6);
    const found = g.nth!.toLowerCase() === 'last' ? nextWeekday(addDays(last, -1), day(g.day)) : addDays(nextWeekday(addDays(first, -1), day(g.day)), 7 * ((readOrdinal(g.nth!) ?? 1) - 1));
    return found < c.date ? null : found;
  }),
  rule('weekday', `${BEFORE_A_DAY}(?<which>next|this|coming)? ?(?<day>${WEEKDAY})(?:,? (?:${PART_OF_DAY}))?`, (g, c) => {
    const which = g.which?.toLowerCase();
    if (which === 'next') return dayOfWeek(c.date, day(g.day), 1);
    if (which === 'this') return dayOfWeek(c.date, day(g.day));
    return nextWeekday(c.date, day(g.day));
  }),
  rule('end of week', '(?:the )?end of (?<which>the |this |next |that )?(?:week)(?<after> after next)?', (g, c) => dayOfWeek(c.date, 5, g.after ? 2 : g.which?.trim().toLowerCase() === 'next' ? 1 : 0)),
  rule('end of the week', "week[’']?s end|(?:the )?weekend|the week(?:[’']s| is) (?:out|over|up)|within the week", (_, c) => dayOfWeek(c.date, 5)),
  rule('start of week', '(?:the )?(?:beginning|start|top|first thing) (?:of )?next week|early next week', (_, c) => dayOfWeek(c.date, 1, 1)),
  rule('middle of week', '(?:the )?middle of next week|mid(?:dle)? next week', (_, c) => dayOfWeek(c.date, 3, 1)),
  rule('middle of this week', 'mid-?week', (_, c) => dayOfWeek(c.date, 3)),
  rule('week after next', '(?:the )?week after next', (_, c) => dayOfWeek(c.date, 5, 2)),
  rule('next week', "next week(?!’s|'s)", (_, c) => dayOfWeek(c.date, 5, 1)),
  rule('this week', 'this week', (_, c) => dayOfWeek(c.date, 5)),
  rule('in so long', `(?:in|within) (?:about |like |around |another |the next )?(?<count>${COUNT_OR_RANGE}) ?(?<unit>${UNIT})(?:[’']? time)?(?: or so|(?<two> or two))?|(?<count2>${COUNT_OR_RANGE}) (?<unit2>${UNIT}) (?:from (?:now|today)|hence)|in (?<half>half a year)`, (g, c) =>
    g.half ? addMonths(c.date, 6) : ahead(g.two ? 'two' : (g.count ?? g.count2), g.unit ?? g.unit2, c.date),
  ),
  rule('a couple of days', '(?:give (?:me|us|him|her|them) )?(?:a )?couple of days|(?:in )?a day or two', (_, c) => addDays(c.date, 2)),
  rule('fortnight', "(?:in )?a fortnight(?:[’']s time)?", (_, c) => addDays(c.date, 14)),
  rule('middle of month', `mid(?:dle of)?[- ](?<month>${MONTH})`, (g, c) => {
    const m = monthAhead(g.month, c);
    const found = makeDate(m.year, m.month, 15)!;
    return found < c.date ? makeDate(m.year + 1, m.month, 15) : found;
  }),
  rule('end of month', `(?:the )?(?:end|close|last day) of (?<month>${MONTH})`, (g, c) => {
    const m = monthAhead(g.month, c);
    return endOfMonth(makeDate(m.year, m.month, 1)!);
  }),
  rule('start of month', `(?:the )?(?:start|beginning) of (?<month>${MONTH})`, (g, c) => {
    const m = monthAhead(g.month, c);
    const found = makeDate(m.year, m.month, 1)!;
    return found < c.date ? makeDate(m.year + 1, m.month, 1) : found;
  }),
  rule('middle of this month', '(?:the )?mid(?:dle of (?:the |this ))?[- ]?month', (_, c) => nextDayOfMonth(c.date, 15)),
  rule('day of next month', `(?:the )?(?:(?<part>start|beginning|middle|end) of|(?<nth>${ORDINAL}) of|(?<early>early)) next month`, (g, c) => {
    const first = addMonths(`${c.date.slice(0, 8)}01`, 1);
    if (g.part?.toLowerCase() === 'end') return endOfMonth(first);
    const n = g.nth ? readOrdinal(g.nth) : g.part?.toLowerCase() === 'middle' ? 15 : 1;
    return n === null ? null : makeDate(partsOf(first).year, partsOf(first).month, n);
  }),
  rule('day of this month', `(?:the )?(?<nth>${ORDINAL}),? of (?:this|the) month`, (g, c) => {
    const n = readOrdinal(g.nth ?? '');
    return n === null ? null : nextDayOfMonth(c.date, n);
  }),
  rule('end of this month', "(?:the )?(?:end|last day) of (?:the |this )?month|month[’']?s? end|eom|the month(?:[’']s| is) (?:out|over|up)", (_, c) => endOfMonth(c.date)),
  rule('next month', 'next month', (_, c) => endOfMonth(addMonths(`${c.date.slice(0, 8)}01`, 1))),
  rule('end of quarter', '(?:the )?(?:end|close) of (?:the |this )?quarter', (_, c) => endOfQuarter(c.date)),
  rule('end of a quarter', '(?:the )?(?:end|close) of q(?<nth>[1-4])', (g, c) => {
    const { year } = partsOf(c.date);
    const inYear = (y: number) => endOfMonth(makeDate(y, 3 * Number(g.nth), 1)!);
    return inYear(year) < c.date ? inYear(year + 1) : inYear(year);
  }),
  rule('end of year', "(?:the )?end of (?:the |this )?year|year[- ]end|eoy|the year(?:[’']s| is) out", (_, c) => `${c.date.slice(0, 4)}-12-31`),
  rule('end of a year', '(?:the )?end of (?:(?<year>20\\d\\d)|next year)', (g, c) => `${g.year ?? partsOf(c.date).year + 1}-12-31`),
  rule('this month, quarter or year', "this (?<unit>month|quarter|year)(?![’']s)", (g, c) => {
    const unit = g.unit!.toLowerCase();
    return unit === 'month' ? endOfMonth(c.date) : unit === 'quarter' ? endOfQuarter(c.date) : `${c.date.slice(0, 4)}-12-31`;
  }),
  rule('next quarter or year', "(?:the end of )?next (?<unit>quarter|year)(?![’']s)", (g, c) => (g.unit!.toLowerCase() === 'quarter' ? endOfQuarter(addMonths(endOfQuarter(c.date), 1)) : `${partsOf(c.date).year + 1}-12-31`)),
  rule('day and month', `(?:the )?(?<nth>${ORDINAL}|\\d{1,2}) (?:of )?(?<month>${MONTH})(?:,? (?<year>\\d{4}))?`, (g, c) => onDay(g, c)),
  rule('month and day', `(?<month>${MONTH}) (?:the )?(?<nth>${ORDINAL}|\\d{1,2})(?:,? (?<year>\\d{4}))?(?![:.\\d])`, (g, c) => onDay(g, c)),
  rule('day.month.', `(?:${WEEKDAY},? )?(?<nth>\\d{1,2})\\.(?<number>\\d{1,2})\\.`, (g, c) => {
    const { year } = partsOf(c.date);
    const found = makeDate(year, Number(g.number), Number(g.nth));
    return found && found < c.date ? makeDate(year + 1, Number(g.number), Number(g.nth)) : found;
  }),
  rule('next sitting', `(?:the |our )?next (?:${MEETING}|(?:week|month|fortnight)[’']s ${MEETING})(?! (?:i|you|he|she|they|somebody|someone)\\b)|(?:we|you) (?:next )?meet (?:again|next)|when we next meet|meeting after this`, (_, c) => c.next),
  rule('weekday and number', `(?<day>${WEEKDAY}),? (?<nth>\\d{1,2})(?= *(?:$|[.,;!?)]))`, (g, c) => {
    const found = nextDayOfMonth(c.date, Number(g.nth));
    return found && weekday(found) === day(g.day) ? found : null;
  }),
  rule('day of month', `(?:the )?(?<nth>${ORDINAL_WORD}|\\d{1,2}(?:st|nd|rd|th))${NO_NOUN}`, (g, c) => {
    const n = readOrdinal(g.nth ?? '');
    return n === null ? null : nextDayOfMonth(c.date, n);
  }),
];

/**
 * A day told by one that was named before: `the same day`, `the day after`, `the Friday before`. Null where nothing was
 * named, and where what it is counted from follows (`the day before the audit`).
 */
export const TOLD_BY_ANOTHER: DateRule = rule(
  'told by another day',
  `(?:the |that )?(?:very )?(?<same>same) (?:day|evening|afternoon|morning|night)|(?:the |a )(?<next>next|following) (?:day|morning)|(?:the |a )(?:(?<day>${WEEKDAY})|day|morning|evening|night) (?:(?<before>before)|after(?:wards)?|later)(?: that)?(?! (?:yesterday|tomorrow|next|the|we|i|you|he|she|they|it|this|my|our|your|his|her|their|last|christmas|easter|midsummer|all)\\b)`,
  (g, { spoken }) => {
    if (!spoken) return null;
    if (g.same) return spoken;
    if (g.day) return nextWeekday(g.before ? addDays(spoken, -8) : spoken, day(g.day));
    return addDays(spoken, g.before ? -1 : 1);
  },
);

const PLAIN_WEEK = workingWeek();

/** A day so many units after another; before it for a negative direction. Null past what anybody plans for. */
export function ahead(count: string | undefined, unit: string | undefined, from: IsoDate, direction: 1 | -1 = 1): IsoDate | null {
  const n = readCount(count ?? '');
  if (n === null || n > 400) return null;
  const u = (unit ?? '').toLowerCase();
  const so = n * direction;
  if (/^(?:working|business|work|week) ?day/.test(u)) return addWorkingDays(from, so, PLAIN_WEEK);
  if (/^y/.test(u)) return addMonths(from, 12 * so);
  if (/^q/.test(u)) return addMonths(from, 3 * so);
  if (/^m/.test(u)) return addMonths(from, so);
  return addDays(from, so * (/^w/.test(u) ? 7 : /^f/.test(u) ? 14 : 1));
}

function onDay(g: Record<string, string | undefined>, c: DateContext): IsoDate | null {
  const n = readOrdinal(g.nth ?? '');
  if (n === null) return null;
  if (!g.month) return nextDayOfMonth(c.date, n);
  if (g.year) return makeDate(Number(g.year), month(g.month), n);
  const now = partsOf(c.date);
  const found = makeDate(now.year, month(g.month), n);
  return found && found < c.date ? makeDate(now.year + 1, month(g.month), n) : found;
}
