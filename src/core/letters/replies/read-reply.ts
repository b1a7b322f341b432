import type { IsoDate } from '../../dates/calendar.ts';
import { addDays } from '../../dates/calendar.ts';
import { readDatesIn } from '../../dates/languages.ts';
import { fold } from '../../language/fold.ts';
import { type Person, Roster } from '../../language/people.ts';
import { trimEnd } from '../../language/trim.ts';
import { contentStems, wordsOf } from '../../language/words.ts';
import type { UpdateKind } from '../../sift/find.ts';
import type { Language } from '../kinds.ts';
import { ownWords } from './own-words.ts';
import { standingOf } from './standing.ts';
import { NOT_AN_ITEM_AFTER, NOT_AN_ITEM_BEFORE, REPLY_WORDS as W } from './words.ts';

/** Something a letter asked about. */
export interface AskedItem {
  /** its number in the letter */
  n: number;
  commitment: number;
  ref: string;
  text: string;
  due: IsoDate | null;
}

export interface ReplyInput {
  /** plain words of the mail, with what it quotes */
  text: string;
  writer: { id: string; name: string };
  /** the day it was written */
  on: IsoDate;
  next: IsoDate | null;
  language: Language;
  items: readonly AskedItem[];
  /** the letter asked to confirm rather than how things stand */
  asks: boolean;
  people: readonly Person[];
}

/** What an answer says of a thing: news as in a meeting, and what only an answer can be. */
export type AnswerKind = UpdateKind | 'confirmed' | 'declined' | 'question' | 'remark';

/** What is read from an answer: it becomes real when a person takes it. */
export interface Answer {
  /** null for words about the whole letter or about nothing in it */
  commitment: number | null;
  kind: AnswerKind;
  due: IsoDate | null;
  owner: string[] | null;
  /** the words it rests on */
  words: string;
  /** nothing in it leaves a doubt: which thing is meant, what is said of it, and that it is no request */
  sure: boolean;
  /** why it was read so, in plain words */
  reason: string;
}

/** A stretch of an answer that speaks of certain things. */
interface Stretch {
  items: AskedItem[];
  words: string;
  how: 'number' | 'reference' | 'under the quoted line' | 'the only one' | 'all' | 'words' | null;
}

/**
 * Reads the answer to a letter: `1 done, 2 can I have until 14 May, 3 is with Ben now`, `all done`, `yes`, answers
 * between the quoted lines, or a plain sentence about the one thing that was asked.
 *
 * @returns one answer for each thing spoken of, in the order of the mail; later words on the same thing count
 */
export function readReply(input: ReplyInput): Answer[] {
  const roster = new Roster(input.people.filter((p) => p.id !== input.writer.id));
  const out: Answer[] = [];
  for (const stretch of stretchesOf(input)) {
    const said = understand(stretch.words, input, roster, stretch);
    if (stretch.items.length === 0) {
      if (said.kind === 'question' || wordsOf(stretch.words).length > 2) out.push({ ...said, commitment: null, kind: said.kind === 'question' ? 'question' : 'remark', due: null, owner: null, sure: false, reason: 'speaks of nothing in the letter for certain' });
      continue;
    }
    for (const item of stretch.items) {
      const answer: Answer = { ...said, commitment: item.commitment, sure: said.sure && stretch.how !== 'words', reason: `${WHERE[stretch.how ?? 'words']}; ${said.reason}` };
      const before = out.findIndex((a) => a.commitment === item.commitment && a.kind !== 'question' && answer.kind !== 'question' && answer.kind !== 'remark');
      if (before >= 0) out.splice(before, 1);
      out.push(answer);
    }
  }
  return out;
}

const WHERE: Record<NonNullable<Stretch['how']>, string> = {
  number: 'named by its number',
  reference: 'named by its reference',
  'under the quoted line': 'stands under the line it answers',
  'the only one': 'the letter asked about nothing else',
  all: 'speaks of all of them',
  words: 'shares words with it',
};

const END = /(?<=[.!?;])\s+|\n/u;

function stretchesOf({ text, writer, items, asks, people }: ReplyInput): Stretch[] {
  const out: Stretch[] = [];
  for (const p of ownWords(
    text,
    writer.name,
    people.map((x) => x.name),
  )) {
    const above = p.under === null ? null : markOf(p.under, items);
    const parts = p.lines.flatMap((line) => split(line, items));
    let running: Stretch | null = null;
    for (const part of parts) {
      if (part.items.length) {
        running = { items: part.items, words: part.words, how: part.how };
        out.push(running);
      } else if (running && !part.own) running.words += ` ${part.words}`;
      else if (above?.length) {
        out.push({ items: above, words: part.words, how: 'under the quoted line' });
      } else {
        for (const sentence of part.words
          .split(END)
          .filter((s) => s.trim())
          .flatMap((s) => apart(s, items))) {
          const found = meant(sentence, items, asks);
          // a sentence without a subject of its own goes on with what was spoken of
          const last = out.at(-1);
          if (found.items.length === 0 && last?.items.length && last.how !== 'all' && /^\s*(?:it|that|this|and|but|so|es|das|und|aber|ca|c'est|et|mais|eso|y|pero|isso|e|mas)\b/.test(fold(sentence))) last.words += ` ${sentence.trim()}`;
          else out.push({ items: found.items, words: sentence.trim(), how: found.how });
        }
      }
    }
  }
  return out;
}

/** Numbers and references at the beginning of what is said of them: `1`, `2 and 3:`, `C-26`, `no. 4`. */
const MARK = /(?:(?<ref>C-?\d{1,9})|(?<!\d)(?:(?:no\.?|nr\.?|n\.?[ºo]|#|item|point|punkt|zu|points?|num(?:ber)?\.?)\s*)?(?<n>\d{1,2}))(?:(?:\s*(?:,|&|\+|\/|and|und|et|y|e)\s*)(?:C-?\d{1,9}|\d{1,2})(?!\d))*(?<span>\s*(?:-|–|to|bis)\s*\d{1,2}(?!\d))?/giu;

interface Part {
  items: AskedItem[];
  words: string;
  how: 'number' | 'reference';
  /** begins a line: says something of its own */
  own: boolean;
}

/** Cuts a line where another thing is spoken of. */
function split(line: string, items: readonly AskedItem[]): Part[] {
  const low = fold(line);
  const marks: { from: number; to: number; items: AskedItem[]; how: Part['how'] }[] = [];
  for (const m of low.matchAll(MARK)) {
    const from = m.index;
    // `2 to 14 May` is a day for the second thing, not thirteen things
    const span = m.groups!.span && NOT_AN_ITEM_AFTER.test(low.slice(from + m[0].length)) ? m.groups!.span : '';
    const mark = m[0].slice(0, m[0].length - span.length);
    const to = from + mark.length;
    const before = low.slice(0, from);
    // begins the line, or comes after a comma, a stop or an “and”
    if (!/(?:^|[,;.:!?(•*-]|\b(?:and|und|et|y|e|but|aber|mais|pero|mas|for|zu|regarding|re|about|sur|sobre|as for|yes,?|ok,?|hi,?|hello,?))\s*$/u.test(before) && !m.groups!.ref) continue;
    if (!m.groups!.ref && (NOT_AN_ITEM_AFTER.test(low.slice(to)) || (before.trim() !== '' && NOT_AN_ITEM_BEFORE.test(before)))) continue;
    const found = itemsOf(mark, items);
    if (found.length) marks.push({ from, to, items: found, how: m.groups!.ref ? 'reference' : 'number' });
  }
  if (marks.length === 0) return [{ items: [], words: line.trim(), how: 'number', own: true }];
  const out: Part[] = [];
  const lead = line.slice(0, marks[0]!.from).trim();
  const clean = (s: string) => trimEnd(trimEnd(s.replace(/^[\s.):,;–-]+/u, ''), ',;(').replace(/\s(?:and|und|et|y|e)$/iu, ''), '');
  // `done: 1 and 3`, `I finished C-26`: what is said comes first and nothing after
  const rest = marks.length === 1 ? clean(line.slice(marks[0]!.to)) : null;
  if (lead && (rest === '' || (rest !== null && marks[0]!.how === 'reference'))) return [{ items: marks[0]!.items, words: line.trim(), how: marks[0]!.how, own: true }];
  if (lead && /\p{L}{2}/u.test(clean(lead))) out.push({ items: [], words: lead, how: 'number', own: true });
  marks.forEach((m, i) => {
    const words = clean(line.slice(m.to, marks[i + 1]?.from ?? line.length));
    // a question after what was said of a thing stands for itself
    const question = questionAfter(words);
    out.push({ items: m.items, words: question ? words.slice(0, question.from).trim() : words, how: m.how, own: true });
    if (question) out.push({ items: [], words: question.words, how: 'number', own: true });
  });
  // `1 and 2 done`: a mark with no words of its own shares those of the next
  for (let i = out.length - 2; i >= 0; i--) if (out[i]!.items.length && out[i]!.words === '' && out[i + 1]!.items.length) out[i]!.words = out[i + 1]!.words;
  return out;
}

/** Things named by a mark such as `1, 2 and C-28` or `1-3`. */
function itemsOf(mark: string, items: readonly AskedItem[]): AskedItem[] {
  const out: AskedItem[] = [];
  const put = (item: AskedItem | undefined) => item && !out.includes(item) && out.push(item);
  const span = /(?<!c)(?<!\d)(\d{1,2})\s*(?:-|–|to|bis)\s*(\d{1,2})(?!\d)/.exec(mark);
  if (span && Number(span[1]) < Number(span[2])) for (let n = Number(span[1]); n <= Number(span[2]); n++) put(items.find((i) => i.n === n));
  for (const m of mark.matchAll(/c-?(\d{1,9})|(\d{1,2})/gi)) {
    if (m[1]) put(items.find((i) => i.ref === `C-${m[1]}`));
    else put(items.find((i) => i.n === Number(m[2])));
  }
  return out;
}

/** Things a quoted line is about: its number or reference at the beginning. */
function markOf(line: string, items: readonly AskedItem[]): AskedItem[] {
  const ref = /\bC-(\d{1,9})\b/.exec(line);
  if (ref) return items.filter((i) => i.ref === `C-${ref[1]}`);
  const n = /^\s*(\d{1,2})[.)]\s/.exec(line);
  return n ? items.filter((i) => i.n === Number(n[1])) : [];
}

/** Where one thing's words may end and another's begin. */
const BETWEEN = /[,;](?: (?:and|but|und|aber|et|mais|y|pero|e|mas) )?| (?:and|but|und|aber|et|mais|y|pero|e|mas) /giu;

/** A sentence that speaks of several things by turns, one part for each: `rods done, drawings on Friday`. */
function apart(sentence: string, items: readonly AskedItem[]): string[] {
  if (items.length < 2) return [sentence];
  const cuts = [...sentence.matchAll(BETWEEN)].map((m) => ({ from: m.index, to: m.index + m[0].length }));
  const named = (words: string) => sharing(words, items);
  const out: { words: string; item: AskedItem | null }[] = [];
  let start = 0;
  for (const cut of [...cuts, { from: sentence.length, to: sentence.length }]) {
    const words = sentence.slice(start, cut.from);
    const item = named(words);
    const last = out.at(-1);
    // a part that names nothing goes with the one before it
    if (last && (item === null || item === last.item)) last.words = sentence.slice(sentence.indexOf(last.words), cut.from);
    else out.push({ words, item });
    start = cut.to;
  }
  return new Set(out.map((p) => p.item).filter(Boolean)).size < 2 || (W.all.test(fold(sentence)) && EXCEPT.test(fold(sentence))) ? [sentence] : out.map((p) => p.words).filter((w) => w.trim());
}

/** The one thing that words name best, by the words it shares; null where none or several do. */
function sharing(words: string, items: readonly AskedItem[]): AskedItem | null {
  const stems = new Set(contentStems(wordsOf(words)));
  const scored = items.map((item) => ({ item, shared: new Set(contentStems(wordsOf(item.text)).filter((s) => stems.has(s))).size })).sort((a, b) => b.shared - a.shared);
  return scored[0] && scored[0].shared > 0 && scored[0].shared > (scored[1]?.shared ?? 0) ? scored[0].item : null;
}

/** What is taken out of “all”. */
const EXCEPT = /(?<![\p{L}\p{N}])(?:except(?: for)?|apart from|other than|bar|(?<=(?:all|everything|alles|tout|todo|tudo) )but|but not|not|auss?er|bis auf|sauf|excepte|menos|salvo|excepto|exceto)\s/u;

/** Which things a sentence without a number means. */
function meant(sentence: string, items: readonly AskedItem[], asks: boolean): Pick<Stretch, 'items' | 'how'> {
  const low = fold(sentence);
  const some = W.done.test(low) || W.confirmed.test(low) || W.progress.test(low) || W.dropped.test(low);
  const all = W.all.test(low) && some && items.length > 1 && wordsOf(sentence).length <= 9;
  // of all but one, only the one is told for certain to be another matter: the rest is for a person to say
  const but = all ? EXCEPT.exec(low) : null;
  if (all && !but) return { items: [...items], how: 'all' };
  if (items.length === 1) return { items: [...items], how: 'the only one' };
  const one = sharing(but ? low.slice(but.index) : sentence, items);
  if (one) return { items: but ? items.filter((i) => i !== one) : [one], how: 'words' };
  if (all) return { items: [...items], how: 'words' };
  if (asks && W.confirmed.test(low) && wordsOf(sentence).length <= 6) return { items: [...items], how: 'all' };
  return { items: [], how: null };
}

/** `2 with Jonas now`: who has it, without a verb. */
const WITH = /^(?:(?:now|currently|jetzt|maintenant|ahora|agora)\s+)?(?:with|over to|bei|chez|con|com)\s/;
/** Somebody named after such words whom nobody here knows. */
const UNKNOWN = /\b(?:with|to|bei|an|chez|à|con|com|a)\s+\p{Lu}\p{Ll}+|\p{Lu}\p{Ll}+\s+(?:has|took|takes|hat|übernimmt|prend|lleva|trata)\b/u;

/** A week, two more weeks: more time without a day. */
const MORE = /\b(?:another|one more|a)\s+week\b|\b(two|three|2|3)\s+(?:more\s+)?weeks\b|\b(?:a )?fortnight\b|\b(?:eine|noch eine) woche\b|\bune semaine\b|\buna semana\b|\buma semana\b/;

/** Words after which the other side of the matter comes, in five languages. */
const CONTRAST = /\b(?:but|however|though|although|except|apart from|only that|aber|jedoch|allerdings|mais|cependant|sauf|pero|sin embargo|mas|porem)\b/;

function understand(words: string, input: ReplyInput, roster: Roster, stretch: Stretch): Omit<Answer, 'commitment'> {
  const low = fold(words);
  const base = { due: null, owner: null, words: words.trim() };
  const named = roster.mentions(words).filter((m) => m.how !== 'role');
  const dates = readDatesIn(input.language, words, { date: input.on, next: input.next });
  const asksBack = words.includes('?') || W.request.test(low);
  const due = dates.at(-1)?.date ?? moreTime(low, stretch, input);
  const notYet = W.notYet.test(low);
  const later = W.later.test(low);
  const hedged = /\b(?:think|hope|should|believe|maybe|perhaps|probably|glaube|hoffe|sollte|vielleicht|crois|espere|devrait|peut-etre|creo|quiza|acho|talvez)\b/.test(low);
  const say = (kind: AnswerKind, reason: string, sure: boolean, more: Partial<Answer> = {}) => ({ ...base, kind, reason, sure, ...more });
  const dropped = standingOf(low, W.dropped);
  if (dropped === 'so' && due) return say('moved', 'says something was cancelled, and names a day', false, { due });
  if (dropped && dropped !== 'not so' && dropped !== 'not so yet') return say('dropped', 'says it is no longer wanted', dropped === 'so' && !asksBack && !OTHERS_CANCELLED.test(low));
  if (W.declined.test(low)) return named.length ? say('reassigned', 'says it is somebody else’s', false, { owner: [named[0]!.person] }) : say('declined', 'says it is not theirs', false);
  const handed = W.handed.test(low) || WITH.test(low);
  if (!named.length && handed && UNKNOWN.test(words)) return say('remark', 'says somebody has it whom Ottik does not know', false);
  if (named.length && handed) return say('reassigned', 'says who has it now', named.length === 1 && !asksBack && !W.done.test(low), { owner: [...new Set(named.map((m) => m.person))].slice(0, 1) });
  if (W.blocked.test(low) && !W.done.test(low)) return due && later ? say('moved', 'waits, and names a day', false, { due }) : say('blocked', 'says what it waits for', !asksBack);
  const contrast = CONTRAST.exec(low);
  if (contrast && W.done.test(low.slice(0, contrast.index)) && !W.done.test(low.slice(contrast.index))) {
    // `finished, but Jonas has to check it, so call it Monday`: what comes after the turn counts
    const after = dates.find((d) => d.from > contrast.index)?.date;
    return after ? say('moved', 'says it is done but for something, and names a day', false, { due: after }) : say('progress', 'says it is done but for something', false);
  }
  const done = notYet || asksBack || (later && dates.length) ? null : standingOf(low, W.done);
  if (done === 'went wrong') return due ? say('moved', 'says it was done and went wrong, and names a day', false, { due }) : say('progress', 'says it was done and went wrong', false);
  if ((done === 'so' || done === 'in doubt') && promisedFor(low, dates, input.on)) return say('moved', 'says it will be done by a day', false, { due: due! });
  if (done === 'so' || done === 'in doubt') return say('done', done === 'in doubt' || hedged ? 'says it is done, but not for certain' : 'says it is done', done === 'so' && !hedged);
  if (done === 'not so yet') return due && due !== stretch.items[0]?.due ? say('moved', 'says when it would be done', false, { due }) : say('progress', 'says on what it depends', false);
  if (due && due !== stretch.items[0]?.due) return say('moved', asksBack ? 'asks for another day' : hedged ? 'names a day, but not for certain' : 'names a day', !asksBack && !hedged && dates.length === 1, { due });
  if (due) return say('progress', 'keeps to the date', !asksBack);
  if (asksBack) return say('question', 'asks something', false);
  if (notYet || done === 'not so' || W.progress.test(low)) return say('progress', 'says it is not done yet', !(done === 'not so' && stretch.items.length > 1 && W.all.test(low)));
  if (W.confirmed.test(low)) {
    if (input.asks) return say('confirmed', 'says yes', wordsOf(words).length <= 8);
    return say('progress', 'says yes, to a letter that did not ask for one', false);
  }
  if (/^\s*no\b|^\s*nein\b|^\s*non\b|^\s*nao\b/.test(low)) return input.asks ? say('declined', 'says no', false) : say('progress', 'says no', false);
  return say('remark', 'says something else', false);
}

/** Something that somebody cancelled: it need not be the thing that was asked about. */
const OTHERS_CANCELLED = /\bcancel(?:led|ed)? (?:our|the|my|their|his|her|a|an) |\b(?:the|our|their) \p{L}{1,30} (?:was|were|is|has been|have been|got) cancel/u;

/** `Done by Friday`: a day ahead that the work is done by, so it is not done. */
function promisedFor(low: string, dates: readonly { date: IsoDate; from: number }[], on: IsoDate): boolean {
  return dates.some((d) => (d.date > on && /(?:^|\s)(?:by|until|till|before|bis|avant|antes del?|ate|para el)\s+$|^(?:by|until|till|before|bis|avant|antes|ate)\s/u.test(low.slice(0, d.from))) || (d.date > on && /^(?:by|until|till|before|bis|avant|antes|ate)\s/u.test(low.slice(d.from))));
}

function moreTime(low: string, stretch: Stretch, input: ReplyInput): IsoDate | null {
  const m = MORE.exec(low);
  if (!m) return null;
  const weeks = m[1] ? (m[1] === 'three' || m[1] === '3' ? 3 : 2) : /fortnight/.test(m[0]) ? 2 : 1;
  const due = stretch.items[0]?.due;
  return addDays(due && due > input.on ? due : input.on, 7 * weeks);
}

/** A question that stands for itself after a sentence, at the end of what was said: its words and where they begin. */
function questionAfter(words: string): { from: number; words: string } | null {
  if (!words.endsWith('?')) return null;
  const from = Math.max(...['.', '!', ';'].map((stop) => words.lastIndexOf(stop))) + 1;
  const asked = words.slice(from);
  return from > 0 && /^\s/.test(asked) && asked.indexOf('?') === asked.length - 1 ? { from, words: asked.trim() } : null;
}
