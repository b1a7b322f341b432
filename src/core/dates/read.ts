import { Chrono, en, type Parser, type ParsingContext } from 'chrono-node';
import { addDays, type IsoDate, makeDate } from './calendar.ts';
import { DATE_RULES, type DateContext, TOLD_BY_ANOTHER } from './rules.ts';
import { MONTH, ORDINAL, WEEKDAY } from './words.ts';

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
const numericParsers = en.GB.parsers.filter((p) =>
  NUMERIC.some(
    (form) =>
      p
        .pattern({ option: {} } as ParsingContext)
        .exec(` ${form}`)?.[0]
        .trim() === form,
  ),
);

/** Cheap test that a text can hold a date at all, so that most lines are never parsed. */
const HINT = new RegExp(
  `\\b(?:${WEEKDAY}|${MONTH}|${ORDINAL}|today|tonight|tomorrow|tmrw?|tomoz|next|this (?:week|afternoon|morning|evening|arvo)|end of|close of|eod|cob|eom|week|weekend|fortnight|couple of days|day or two|in \\w+ (?:days?|weeks?|months?)|from now|mid[- ]?(?:week|month|\\w)|middle of|month|year|q[1-4]|meet (?:again|next)|(?:same|next|following) (?:day|evening|afternoon|morning|night)|(?:day|morning|evening|night) (?:before|after|later)|straight after|right after|soon|asap|possible|chance|minute|\\d{1,4}[-/.]\\d{1,2})\\b`,
  'i',
);

const LEAD = /(?:\b(?:(?:no later than|not later than|on or before|in time for|due|by|before|until|till|til|on|for|at|from|since|after|last|past|around|about|every|each)(?: the| our)?)|->|→|=>)\s*(?:like,? |about |say,? )?$/i;
const VAGUE = /\b(?:as soon as (?:possible|i can|you can|we can)|asap|soon(?:ish)?|when(?:ever)? (?:i|you|we|he|she|they|somebody) (?:get|gets|have|has|find) (?:a |some |the )?(?:chance|minute|moment|time|second)|at some point|some ?time|one of these days|in due course)\b/gi;
/** Rules whose date stays when `before` stands in front of it: the sitting itself, the end of a stretch of time. */
const BEFORE_MEANS_BY = new Set(['next sitting', 'today', 'end of week', 'end of the week', 'middle of month', 'middle of this month', 'end of month', 'end of this month', 'end of quarter']);
/** `Sat`, `sun` and the like are common words: without a capital they need a preposition before them. */
const AMBIGUOUS = /^(?:sat|sun|mon|may|mar|march|dec|second|first|third|sep)$/;
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

/** chrono-node with Ottik's rules in front of its numeric parsers; where two matches touch, the longer one stays. */
function readerFor(context: DateContext): Chrono {
  const key = `${context.date} ${context.next}`;
  let reader = readers.get(key);
  if (!reader) {
    reader = new Chrono({
      parsers: [...DATE_RULES.map((_, i) => new RuleParser(i, context)), ...numericParsers],
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
    const date = makeDate(r.start.get('year') ?? 0, r.start.get('month') ?? 0, r.start.get('day') ?? 0);
    if (!date) continue;
    const before = /^before/.test(leading) && !BEFORE_MEANS_BY.has(rule) && !WITHIN_A_DAY.test(words);
    out.push({
      from: from - lead.length,
      to: from + words.trimEnd().length,
      phrase: said.slice(from - lead.length, from + words.trimEnd().length).trim(),
      date: before ? addDays(date, -1) : date,
      rule,
      lead: leading.replace(/ (the|our)$/, ''),
    });
  }
  toldByOthers(said, context, out);
  VAGUE.lastIndex = 0;
  for (let m = VAGUE.exec(said); m; m = VAGUE.exec(said)) {
    const from = m.index;
    if (!out.some((d) => from < d.to && d.from < from + m![0].length)) out.push({ from, to: from + m[0].length, phrase: m[0], date: null, rule: 'no day named', lead: '' });
  }
  return out.sort((a, b) => a.from - b.from);
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
  const typed = text.trim();
  if (typed === '' || typed.length > 80) return null;
  const bare = /^\d{1,2}$/.test(typed) ? `the ${typed}th` : typed.replace(/^(sat|sun|mon|wed|mar|may)\b/i, (w) => w[0]!.toUpperCase() + w.slice(1));
  const found = readDates(bare, context).filter((d) => d.date !== null);
  const one = found.length === 1 ? found[0]! : null;
  if (!one) return null;
  const rest = (bare.slice(0, one.from) + bare.slice(one.to)).replace(/\b(at|noon|latest|the|end|\d{1,2}([:.]\d{2})? ?(am|pm)?)\b|[\s,.;]/gi, '');
  return rest.length <= 2 ? one.date : null;
}
