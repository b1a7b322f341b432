import { Chrono, en, type Parser, type ParsingContext } from 'chrono-node';
import { addDays, addMonths, type IsoDate, makeDate, nextWeekday, partsOf, weekday } from './calendar.ts';
import { ahead, DATE_RULES, type DateContext, TOLD_BY_ANOTHER } from './rules.ts';
import { COUNT_OR_RANGE, MONTH, ORDINAL, UNIT, WEEKDAY } from './words.ts';

/** A phrase that says when, with the date it means. */
export interface DatePhrase {
  from: number;
  to: number;
  /** the words, with the preposition before them: `by Friday` */
  phrase: string;
  /** null for a phrase that names no day (`as soon as possible`) */
  date: IsoDate | null;
  rule: string;
  /** the preposition, lower case, or the empty string */
  lead: string;
}

/** Dates of these forms are left to chrono-node's own parsers, which are known by reading them: a bundler changes their names. */
const NUMERIC = ['2026-03-05', '5/3/2026', '2026/mar/5'];
const isNumeric = (p: Parser): boolean =>
  NUMERIC.some(
    (form) =>
      p
        .pattern({ option: {} } as ParsingContext)
        .exec(` ${form}`)?.[0]
        .trim() === form,
  );

/** Cheap test that a text can hold a date at all, so that most lines are never parsed. */
const HINT = new RegExp(
  `\\b(?:${WEEKDAY}|${MONTH}|${ORDINAL}|today|tonight|tomorrow|tmrw?|tomoz|next|this (?:week|afternoon|morning|evening|arvo)|end of|close of|eod|cob|eom|week|weekend|fortnight|${UNIT}|eoy|from now|mid[- ]?(?:week|month|\\w)|middle of|q[1-4]|meet (?:again|next)|(?:same|next|following) (?:day|evening|afternoon|morning|night)|(?:day|morning|evening|night) (?:before|after|later)|straight after|right after|soon|asap|possible|chance|minute|\\d{1,4}[-/.]\\d{1,2})\\b`,
  'i',
);

const LEAD = /(?:\b(?:(?:no later than|not later than|on or before|in time for|due|by|before|until|till|til|on|for|at|from|since|after|last|past|around|about|every|each)(?: the| our)?)|->|→|=>)\s*(?:like,? |about |say,? )?$/i;
const VAGUE = /\b(?:as soon as (?:possible|i can|you can|we can)|asap|soon(?:ish)?|when(?:ever)? (?:i|you|we|he|she|they|somebody) (?:get|gets|have|has|find) (?:a |some |the )?(?:chance|minute|moment|time|second)|at some point|some ?time|one of these days|in due course)\b/gi;
/** Rules whose date stays when `before` stands in front of it: the sitting itself, the end of a stretch of time. */
const BEFORE_MEANS_BY = /^(?:next sitting|today|middle of .*|end of .*|this month, quarter or year)$/;
/** `Sat`, `sun` and the like are common words: without a capital they need a preposition before them. */
const AMBIGUOUS = /^(?:sat|sun|mon|may|mar|march|dec|second|first|third|sep)$/;
/** `The second we hang up` is a moment, not a day. */
const MOMENT = /^(?:the )?second (?:i|we|you|he|she|they|it)\b/i;
/** What may also be the number of a chapter needs one always. */
const NEEDS_LEAD = new Set(['day.month.']);

/** `Before Friday lunchtime` is still on Friday. */
const WITHIN_A_DAY = /\b(?:morning|afternoon|evening|night|noon|midday|lunch(?:time)?|close|end|eod|cob)\s*$/i;

class RuleParser implements Parser {
  constructor(
    private readonly at: number,
    private readonly context: DateContext,
  ) {}
  pattern() {
    return DATE_RULES[this.at]!.pattern;
  }
  extract(parsing: ParsingContext, match: RegExpMatchArray) {
    // chrono-node searches on from inside a word that gave nothing; a date never begins there
    const inside = (match.index ?? 0) > 0 && /[\p{L}\p{N}]/u.test(parsing.text[match.index! - 1]!);
    const date = inside ? null : DATE_RULES[this.at]!.resolve(match.groups ?? {}, this.context);
    if (!date) return null;
    const result = parsing.createParsingResult(match.index ?? 0, match[0], { year: Number(date.slice(0, 4)), month: Number(date.slice(5, 7)), day: Number(date.slice(8, 10)) });
    result.addTag(`rule/${this.at}`);
    return result;
  }
}

const readers = new Map<string, Chrono>();
let numeric: Parser[] | null = null;

/** chrono-node with Ottik's rules in front of its numeric parsers; where two matches touch, the longer one stays. */
function readerFor(context: DateContext): Chrono {
  const key = `${context.date} ${context.next}`;
  let reader = readers.get(key);
  if (!reader) {
    // building their expressions takes half a second, which the first page need not wait for
    numeric ??= en.GB.parsers.filter(isNumeric);
    reader = new Chrono({
      parsers: [...DATE_RULES.map((_, i) => new RuleParser(i, context)), ...numeric],
      refiners: [
        {
          refine: (_, results) => {
            const kept: typeof results = [];
            for (const r of [...results].sort((a, b) => b.text.length - a.text.length || a.index - b.index)) {
              if (!kept.some((k) => r.index < k.index + k.text.length && k.index < r.index + r.text.length)) kept.push(r);
            }
            return kept.sort((a, b) => a.index - b.index);
          },
        },
      ],
    });
    if (readers.size > 64) readers.clear();
    readers.set(key, reader);
  }
  return reader;
}

/**
 * Every date phrase in a text, in order.
 *
 * The meaning of the phrases is the table under “Due dates” in docs/dates.md: `by Friday` is the first Friday after the
 * day it is said, `next Tuesday` the one of the following week, `before Friday` the day before it, and so on.
 *
 * @param text    what was said; read up to its first 20,000 characters
 * @param context the day it was said and the date of the next sitting
 */
export function readDates(text: string, context: DateContext): DatePhrase[] {
  if (!HINT.test(text)) return [];
  const said = text.length > 20_000 ? text.slice(0, 20_000) : text;
  const out: DatePhrase[] = [];
  const reference = new Date(`${context.date}T12:00:00Z`);
  for (const r of readerFor(context).parse(said, { instant: reference, timezone: 0 }, { forwardDate: true })) {
    const words = r.text.replace(/^\s+/, '');
    const from = r.index + (r.text.length - words.length);
    const lead = (LEAD.exec(said.slice(Math.max(0, from - 24), from)) ?? [''])[0];
    const leading = lead.toLowerCase().replace(/\s+/g, ' ').trim();
    if (/^(last|past|since|every|each)\b/.test(leading)) continue;
    const tag = [...r.tags()].find((t) => t.startsWith('rule/'));
    const rule = tag ? DATE_RULES[Number(tag.slice(5))]!.name : 'numeric date';
    if ((AMBIGUOUS.test(words) || (NEEDS_LEAD.has(rule) && /^\d/.test(words))) && !/^(by|before|until|till?|on|for|due|->|→|=>)/.test(leading)) continue;
    if (rule === 'day of month' && MOMENT.test(said.slice(from))) continue;
    const date = makeDate(r.start.get('year') ?? 0, r.start.get('month') ?? 0, r.start.get('day') ?? 0);
    if (!date) continue;
    const counted = COUNTED_FROM.exec(said.slice(Math.max(0, from - 40), from));
    if (counted) {
      const day = ahead(counted.groups!.count ?? 'one', counted.groups!.unit, date, counted.groups!.way!.toLowerCase() === 'before' ? -1 : 1);
      const start = Math.max(0, from - 40) + counted.index;
      if (day) out.push({ from: start, to: from + words.trimEnd().length, phrase: said.slice(start, from + words.trimEnd().length), date: day, rule: 'so long from a day', lead: '' });
      continue;
    }
    const before = /^before/.test(leading) && !BEFORE_MEANS_BY.test(rule) && !WITHIN_A_DAY.test(words);
    out.push({
      from: from - lead.length,
      to: from + words.trimEnd().length,
      phrase: said.slice(from - lead.length, from + words.trimEnd().length).trim(),
      date: before ? addDays(date, -1) : date,
      rule,
      lead: leading.replace(/ (the|our)$/, ''),
    });
  }
  saidTwice(said, out);
  toldByOthers(said, context, out);
  VAGUE.lastIndex = 0;
  for (let m = VAGUE.exec(said); m; m = VAGUE.exec(said)) {
    const from = m.index;
    if (!out.some((d) => from < d.to && d.from < from + m![0].length)) out.push({ from, to: from + m[0].length, phrase: m[0], date: null, rule: 'no day named', lead: '' });
  }
  return out.sort((a, b) => a.from - b.from);
}

/** `3 days from Monday`, `two weeks after 15 March`: what stands before the day it is counted from. */
const COUNTED_FROM = new RegExp(`\\b(?:(?<count>${COUNT_OR_RANGE})|the) (?<unit>${UNIT}) (?<way>from|after|before)(?: the)? $`, 'i');

/** A weekday beside the day it falls on is one date: `Tuesday, March 17`, `Wednesday (11 March)`, `the 17th (Tuesday)`. */
const BESIDE = /^(?:\.?,? ?\(?|,? (?:the|on|that is|which is) )$/i;
const ONE_DAY = new Set(['day and month', 'month and day', 'day of month', 'day.month.', 'numeric date']);

/** Where a weekday stands beside a date, the date is what counts, and the words of both are its phrase. */
function saidTwice(said: string, found: DatePhrase[]): void {
  for (let i = 0; i + 1 < found.length; ) {
    const [a, b] = [found[i]!, found[i + 1]!];
    const weekdayFirst = a.rule === 'weekday' && ONE_DAY.has(b.rule) && BESIDE.test(said.slice(a.to, b.from + b.phrase.search(/\S/)));
    const weekdayLast = b.rule === 'weekday' && ONE_DAY.has(a.rule) && /^,? ?\(?$/.test(said.slice(a.to, b.from)) && b.lead === '';
    if (weekdayFirst || weekdayLast) {
      const day = weekdayFirst ? b : a;
      const before = a.lead === 'before' && weekdayFirst ? addDays(day.date!, -1) : day.date;
      const to = /\(\s*$/.test(said.slice(a.to, b.from)) && said[b.to] === ')' ? b.to + 1 : b.to;
      found.splice(i, 2, { from: a.from, to, phrase: said.slice(a.from, to).trim(), date: before, rule: day.rule, lead: a.lead });
    } else i++;
  }
}

const EVERY_TOLD_BY_ANOTHER = new RegExp(TOLD_BY_ANOTHER.pattern.source, 'giu');

/** Adds the days that are told by those before them, in the text or, for the first of it, in what was said last. */
function toldByOthers(said: string, context: DateContext, found: DatePhrase[]): void {
  for (const m of said.matchAll(EVERY_TOLD_BY_ANOTHER)) {
    const from = m.index;
    const to = from + m[0].length;
    if (found.some((d) => from < d.to && d.from < to && d.to - d.from >= to - from)) continue;
    const spoken = found.filter((d) => d.to <= from && d.date !== null).sort((a, b) => b.from - a.from)[0]?.date ?? context.spoken ?? null;
    const date = TOLD_BY_ANOTHER.resolve(m.groups ?? {}, { ...context, spoken });
    if (!date) continue;
    const within = found.findIndex((d) => from < d.to && d.from < to);
    const one: DatePhrase = { from, to, phrase: m[0], date, rule: TOLD_BY_ANOTHER.name, lead: '' };
    if (within >= 0) found[within] = one;
    else found.push(one);
  }
}

/**
 * A date as a person types it into a field: `fri`, `in 2 weeks`, `15/6`, `2026-03-06`, `tuesday after next`.
 * @returns the date, or null when the text is not a date and nothing else
 */
export function readTypedDate(text: string, context: DateContext): IsoDate | null {
  return typedPhrase(text, context)?.date ?? null;
}

const AGO = new RegExp(`^(?<count>${COUNT_OR_RANGE}) (?<unit>${UNIT}) ago$`, 'i');

/**
 * A past day as a person types it where one is wanted, as for the day of a record: `yesterday`, `last Thursday`, `monday`,
 * `3 days ago`, `26 Nov`. What has no year or week of its own is the latest such day, today among them; a day with its year
 * stays as it was typed, so that a day to come can be refused by name.
 * @returns the day, or null when the text is not one
 */
export function readTypedPastDate(text: string, today: IsoDate): IsoDate | null {
  const typed = text.trim().replace(/\s+/g, ' ');
  if (/^the day before yesterday$/i.test(typed)) return addDays(today, -2);
  if (/^yesterday\b/i.test(typed)) return addDays(today, -1);
  const ago = AGO.exec(typed);
  if (ago) return ahead(ago.groups!.count, ago.groups!.unit, today, -1);
  const last = /^last (?!week$|month$|year$)/i.test(typed);
  const found = typedPhrase(last ? typed.slice(5) : typed, { date: today, next: null });
  if (!found?.date) return null;
  if (found.rule === 'weekday') return last && weekday(found.date) === weekday(today) ? addDays(today, -7) : addDays(nextWeekday(today, weekday(found.date)), -7);
  if (found.date <= today || /\b\d{4}\b/.test(typed)) return found.date;
  if (found.rule === 'day of month') return lastDayOfMonth(today, partsOf(found.date).day);
  return ONE_DAY.has(found.rule) || found.rule === 'weekday and day of month' ? addMonths(found.date, -12) : null;
}

/** The latest date with that day of the month on or before a day; a month too short for it is passed over. */
function lastDayOfMonth(today: IsoDate, dayOfMonth: number): IsoDate | null {
  for (let back = 0; back < 12; back++) {
    const { year, month } = partsOf(addMonths(`${today.slice(0, 8)}01`, -back));
    const found = makeDate(year, month, dayOfMonth);
    if (found && found <= today) return found;
  }
  return null;
}

/** The one date phrase that a typed text is, and nothing beside it. */
function typedPhrase(text: string, context: DateContext): DatePhrase | null {
  const typed = text.trim();
  if (typed === '' || typed.length > 80) return null;
  const bare = /^\d{1,2}$/.test(typed) ? `the ${typed}th` : typed.replace(/^(sat|sun|mon|wed|mar|may)\b/i, (w) => w[0]!.toUpperCase() + w.slice(1));
  const found = readDates(bare, context).filter((d) => d.date !== null);
  const one = found.length === 1 ? found[0]! : null;
  if (!one) return null;
  const rest = (bare.slice(0, one.from) + bare.slice(one.to)).replace(/\b(at|noon|latest|the|end|\d{1,2}([:.]\d{2})? ?(am|pm)?)\b|[\s,.;]/gi, '');
  return rest.length <= 2 ? one : null;
}
