import { isEmptyWord, stem, wordsOf } from '../language/words.ts';
import type { Clause } from './clauses.ts';
import type { Keyword, RankedKeyword } from './keywords.ts';
import type { Phrase } from './phrase.ts';
import type { Reading } from './reading.ts';

const NOTHING = 'Something was said here';

/** What a matter is called: words that can stand by themselves, and naming words they lack. */
export interface Wording {
  text: string;
  /** words the matter is known by that the text does not have, in the order they were said */
  about: string[];
}

/** Both in one line, for lists that have no room to show them apart: "Lay the whole book out (thirty-six, spreads)". */
export function inOneLine({ text, about }: Wording): string {
  if (about.length === 0) return text;
  const end = /[?]$/.test(text) ? '?' : '';
  return `${text.replace(/[.!?…,;:]+$/, '')}${end} (${about.join(', ')})`;
}

/** What is said before the matter itself and can go. */
const LEAD_IN =
  /^(?:(?:okay|ok|so|right|well|yeah|yes|yep|no|and|but|um|uh|er|ah|oh|then|now|sure|fine|great|good|look|listen|actually|also|anyway|alright|all right|ja|ya|righto|because|or|plus|see|hang on|wait|sorry|thanks|thank you|lovely|perfect|brilliant|i mean|you know|i think|i suppose|i guess|i'd say|of course|for the record|one more thing|next|first|second|last|finally|again|still|only)\b[\s,.:;–—-]*)+/i;

/** A label that says what a line is, and is no part of what it says. */
const LABEL = /^\s*(?:decision|decided|agreed|resolved|open(?: question| point)?|question|left open|parked)\s*[:–]\s+/i;

/** Words an action is named with. With fewer too many matters sound alike, with more the one matter is lost among them. */
const WORDS_OF_AN_ACTION = 10;
/** From this likelihood a word of the phrase is one the matter is known by. */
const NAMES_FROM = 0.12;
/**
 * A short text in the record's own words: the stretch of one sentence that says best what is to be done, and beside it the
 * naming words it lacks.
 */
export function wordAction(phrase: Phrase | null, ranked: readonly RankedKeyword[]): Wording {
  const told = ranked.filter((r) => r.p > NAMES_FROM && phrase?.stems.has(r.keyword.stem)).length;
  const rest = ranked.filter((r) => !phrase?.stems.has(r.keyword.stem)).slice(0, WORDS_OF_AN_ACTION - told);
  return withNames(
    phrase ? capital(phrase.text.replace(DANGLING, '')) : '',
    rest.map((r) => r.keyword),
  );
}

/** Who does it is told apart from what is done. */
export function withoutOwners(reading: Reading, words: readonly RankedKeyword[], owner: readonly string[]): RankedKeyword[] {
  return words.filter((w) => !w.keyword.places[0]!.name || !reading.roster.mentions(w.keyword.word).some((m) => owner.includes(m.person)));
}

/** Words that lead on to something; a text does not end with one. */
const DANGLING = /(?:\s+(?:before|after|until|till|since|while|when|where|because|that|which|who|if|and|or|but|so|than|by|with|without|about|between|through|during|per|via))+$/i;

function withNames(text: string, keywords: readonly Keyword[]): Wording {
  const words = [...keywords].sort((a, b) => a.places[0]!.unit - b.places[0]!.unit || a.places[0]!.at - b.places[0]!.at).map((k) => (/^\p{Lu}\p{Ll}/u.test(k.word) && k.places[0]!.at === 0 && !k.places[0]!.name ? k.word.toLowerCase() : k.word));
  if (!text) return { text: words.length ? capital(words.join(', ')) : NOTHING, about: [] };
  return { text, about: words };
}

/** Decisions and questions keep the sentence that was said, without its lead-in, and after it what names the matter. */
export function wordPlain(best: Clause | undefined, ranked: readonly RankedKeyword[], question: boolean): Wording {
  if (!best) return { text: NOTHING, about: [] };
  let text = finish(
    best.text
      .replace(LABEL, '')
      .replace(LEAD_IN, '')
      .replace(/^\s*(?:!!|\?|->|→|=>|@)\s*/, ''),
    150,
  );
  if (question && !/\?$/.test(text)) text = `${text.replace(/[.!…]+$/, '')}?`;
  const own = new Set(wordsOf(text).map((w) => stem(w.replace(/'s$/, ''))));
  const rest = ranked
    .filter((r) => !own.has(r.keyword.stem))
    .slice(0, own.size >= 14 ? 3 : 5)
    .filter((r) => r.p > 0.08);
  return withNames(
    text,
    rest.map((r) => r.keyword),
  );
}

function shorten(text: string, longest: number): string {
  if (text.length <= longest) return text;
  const cut = text.slice(0, longest + 1);
  const at = Math.max(cut.lastIndexOf(', '), cut.lastIndexOf('; '), cut.lastIndexOf(' – '));
  const end = at > longest * 0.5 ? at : cut.lastIndexOf(' ');
  return text.slice(0, end > 0 ? end : longest).replace(/[\s,;–-]+$/, '');
}

function finish(text: string, longest: number): string {
  let out = shorten(text.replace(/^[\s,.;:–—-]+/, '').replace(/[\s.,;:–—-]+$/, ''), longest);
  const words = out.split(/\s+/);
  while (words.length > 2 && isEmptyWord(words[words.length - 1]!.toLowerCase()) && /^(and|but|so|or|the|a|an|to|of|for|if|because|with)$/i.test(words[words.length - 1]!)) words.pop();
  out = words.join(' ');
  return out ? capital(out) : NOTHING;
}

const capital = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : NOTHING);
