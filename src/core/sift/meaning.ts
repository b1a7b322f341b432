import { breathOf } from './breath.ts';
import type { Phrase, PhraseWord } from './phrase.ts';
import { wordsWithin } from './phrase.ts';
import type { Reading } from './reading.ts';

/** Words that turn what a sentence says. A title keeps them with the words they turn. */
export const TURNS = /^(?:no|not|never|nobody|none|neither|nor|without|unless|if|only|until|till|except|cannot|\p{L}+n['’]t)$/iu;
export const NEGATES = /^(?:not|never|cannot|\p{L}+n['’]t)$/iu;
export const CONDITION = /^(?:unless|if|until|till|except|without|only)$/i;
const NUMBER = /^(?:\d[\d.,:]*\d|\d|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|fifteen|twenty|thirty|forty|fifty|hundred|thousand|dozen|half)$/i;
/** Turns of phrase in which such a word turns nothing, or is a way of asking. */
const IDIOM =
  /\b(?:(?:don['’]t|not|never|let['’]s not) forget\b|why (?:don['’]t|not)\b|not only\b|no (?:problem|worries|rush|hurry|doubt)\b|(?:can|could|wo|would)n['’]t (?:you|we|they|he|she)\b|(?:is|are|was|do|does|did)n['’]t (?:it|they|he|she|we|you)\b|if (?:you|we|somebody|someone|anybody|anyone|one of you|i|he|she|they)(?:['’](?:d|ll))? (?:could|can|may|would|will|like|want|wish|do(?:n['’]t)? mind|get|have (?:a |some |the )?(?:time|minute|moment|chance))\b|if (?:possible|need(?:ed| be)|necessary|that['’]?s (?:ok|okay|fine|all right|alright))\b|if not\b|if so\b|as if\b|whether or not\b|unless (?:some|any)(?:body|one) (?:objects|minds|disagrees)\b)/giu;
/** The words of a text that turn what it says, those of idioms left out. */
export function turnsIn(text: string): string[] {
  return text
    .replace(IDIOM, ' ')
    .split(/[^\p{L}\p{N}'’]+/u)
    .filter((w) => TURNS.test(w));
}

/** A boundary that no condition reaches over. */
const FULL_STOP = /[.!?;|…]|--/;
/** Words a title may have once what turns it is kept; beyond, the sentence itself is the title. */
const LONGEST = 28;

/**
 * A phrase as a title, with what its own clause says that would turn it: a negation or a number before it, a condition before
 * or after it. "Don't order the pump unless Dora agrees" is not "Order the pump".
 * @returns the words, as one asks for them where the phrase begins with a verb
 */
export function inFull(reading: Reading, phrase: Phrase): string {
  const { text } = breathOf(reading, phrase.unit);
  const all = wordsWithin(reading, phrase.unit);
  const raw = (w: PhraseWord) => text.slice(w.from, w.to);
  const gapBefore = (k: number) => text.slice(k > 0 ? all[k - 1]!.to : 0, all[k]!.from);
  const idioms = [...text.matchAll(IDIOM)].map((m) => [m.index, m.index + m[0].length] as const);
  const turns = (w: PhraseWord) => TURNS.test(raw(w)) && !idioms.some(([from, to]) => w.from >= from && w.from < to);

  let start = phrase.first.at;
  while (start > 0 && !FULL_STOP.test(gapBefore(start))) start--;
  let clause = phrase.first.at;
  while (clause > start && !all[clause]!.newSentence && !all[clause]!.opens) clause--;

  let end = phrase.last.at;
  // a phrase that ends inside what turns it goes on to where that ends
  let reach = all.slice(phrase.first.at, end + 1).some(turns) ? end + 1 : end;
  for (let k = end + 1; k < all.length && !FULL_STOP.test(gapBefore(k)); k++) {
    const w = all[k]!;
    if (w.newSentence) break;
    const counts = NUMBER.test(raw(w)) && !w.dated && !/[,–—]/.test(text.slice(all[end]!.to, w.from));
    if (turns(w) || counts) reach = k;
  }
  if (reach > end) {
    end = Math.min(reach, all.length - 1);
    if (all[phrase.last.at]!.closes && reach === phrase.last.at + 1) end = phrase.last.at;
    while (end + 1 < all.length && !all[end]!.closes && !all[end + 1]!.newSentence) end++;
  }
  const rest = undated(text, all, phrase.last, end);

  const before = all.slice(clause, phrase.first.at);
  const negated = before.findLastIndex((w) => NEGATES.test(raw(w)) && turns(w));
  const other = before.findIndex((w) => turns(w) && !NEGATES.test(raw(w)));
  let opening = phrase.text;
  if (other >= 0 && (negated < 0 || other < negated)) opening = text.slice(before[other]!.from, phrase.last.to);
  else if (negated >= 0) {
    const [word, between] = [raw(before[negated]!), before.slice(negated + 1)];
    const does = phrase.first.asked && between.every((w) => w.small || w.kind === 'ADV' || w.kind === 'AUX');
    if (does) opening = `${/^never$/i.test(word) ? 'Never' : 'Do not'} ${phrase.text}`;
    else opening = text.slice(before[between.length > 4 ? 0 : negated]!.from, phrase.last.to);
  } else {
    const count = before.at(-1);
    if (!phrase.first.asked && count && NUMBER.test(raw(count)) && !count.dated) opening = text.slice(count.from, phrase.last.to);
  }

  let condition = '';
  for (let k = start; k < clause; k++) {
    const w = all[k]!;
    if (!CONDITION.test(raw(w)) || !turns(w)) continue;
    let to = k;
    while (to + 1 < clause && !all[to]!.closes && !/^then$/i.test(raw(all[to + 1]!)) && !(all[to + 1]!.newSentence && to > k)) to++;
    if (to > k) condition += ` ${lower(text.slice(w.from, all[to]!.to))}`;
    k = to;
  }
  const title = `${opening}${rest}${condition}`.replace(/\s+/g, ' ').trim();
  return title.split(' ').length > LONGEST ? text.slice(all[start]!.from, all[end]!.to).replace(/\s+/g, ' ') : title;
}

/** What follows a phrase up to a word, days left out that turn nothing: they are told apart from what is to be done. */
function undated(text: string, all: readonly PhraseWord[], last: PhraseWord, end: number): string {
  let out = '';
  let at = last.to;
  for (let k = last.at + 1; k <= end; ) {
    let to = k;
    while (to + 1 <= end && all[to + 1]!.dated && all[k]!.dated) to++;
    const words = all.slice(k, to + 1);
    const leaves = all[k]!.dated && !words.some((w) => TURNS.test(text.slice(w.from, w.to)));
    if (!leaves) out += text.slice(at, all[to]!.to);
    at = all[to]!.to;
    k = to + 1;
  }
  return out;
}

const lower = (text: string) => text[0]!.toLowerCase() + text.slice(1);
