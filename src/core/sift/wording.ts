import { sentencesOf } from '../language/sentences.ts';
import { trimEnd, trimMarks } from '../language/trim.ts';
import { isEmptyWord, stem, wordsOf } from '../language/words.ts';
import { breathOf } from './breath.ts';
import type { Clause } from './clauses.ts';
import type { Keyword, RankedKeyword } from './keywords.ts';
import { inFull, TURNS } from './meaning.ts';
import type { Phrase } from './phrase.ts';
import type { Reading, ReadUnit } from './reading.ts';

const NOTHING = 'Something was said here';

/** What a matter is called: words that can stand by themselves, and naming words they lack. */
export interface Wording {
  text: string;
  /** words the matter is known by that the text does not have, in the order they were said */
  about: string[];
  /** units that the text was taken from: those of a sentence that runs over several captions are all evidence */
  units: readonly number[];
}

/** Both in one line, for lists that have no room to show them apart: "Lay the whole book out (thirty-six, spreads)". */
export function inOneLine({ text, about }: Pick<Wording, 'text' | 'about'>): string {
  if (about.length === 0) return text;
  const end = /[?]$/.test(text) ? '?' : '';
  return `${trimEnd(text, '.!?…,;:')}${end} (${about.join(', ')})`;
}

/** What is said before the matter itself and can go wherever it stands; and what can only where a pause parts it from what follows. */
const FILLER = "okay|ok|yeah|yes|yep|and|but|um|uh|er|ah|oh|actually|anyway|alright|all right|ja|ya|righto|because|hang on|wait|thanks|thank you|lovely|perfect|brilliant|i mean|you know|i think|i suppose|i guess|i[’']d say|of course|for the record";
const PARTED = 'so|right|well|no|then|now|sure|fine|great|good|look|listen|also|or|plus|see|sorry|one more thing|next|first|second|third|last|finally|again|still';
const LEAD_IN = new RegExp(`^(?:(?:${FILLER})\\b(?![’'-])[\\s,.:;–—]*|(?:so|well|now|then)\\s+(?=(?:i|we|you|he|she|they|it|the|that|this|let[’']s|no|yes|yeah|okay|ok)\\b)|(?:${PARTED})\\s*(?:[,;]|[:.–—](?=\\s))[\\s,;.:–—]*)+`, 'i');

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
export function wordAction(reading: Reading, phrase: Phrase | null, ranked: readonly RankedKeyword[]): Wording {
  const told = ranked.filter((r) => r.p > NAMES_FROM && phrase?.stems.has(r.keyword.stem)).length;
  const rest = ranked.filter((r) => !phrase?.stems.has(r.keyword.stem)).slice(0, WORDS_OF_AN_ACTION - told);
  const units = phrase ? breathOf(reading, phrase.unit).units.filter((u) => u.index >= phrase.first.unit.index && u.index <= phrase.last.unit.index) : [];
  return withNames(
    phrase ? capital(hung(inFull(reading, phrase)).replace(BROKEN_OFF, '$& …')) : '',
    rest.map((r) => r.keyword),
    units,
  );
}

/** Who does it and by when is told apart from what is done. */
export function withoutOwners(reading: Reading, words: readonly RankedKeyword[], owner: readonly string[]): RankedKeyword[] {
  const dated = ({ unit, from }: Keyword['places'][number]) => reading.units[unit]!.dates.some((d) => d.date && from >= d.from && from < d.to);
  return words.filter((w) => !w.keyword.places.every(dated) && (!w.keyword.places[0]!.name || !reading.roster.mentions(w.keyword.word).some((m) => owner.includes(m.person))));
}

/** Words that lead on to something; a text does not end with one. */
const DANGLING = /^(?:before|after|since|while|when|where|because|that|which|who|and|or|but|so|than|by|with|about|between|through|during|per|via)$/i;

/** A text without the words at its end that lead on to what does not come. */
function hung(text: string): string {
  let end = text.length;
  for (;;) {
    const bare = text.slice(0, end).trimEnd();
    const word = bare.slice(Math.max(bare.lastIndexOf(' '), bare.lastIndexOf('\n'), bare.lastIndexOf('\t')) + 1);
    if (word.length === bare.length || bare.length < end || !DANGLING.test(word)) return text.slice(0, end);
    end = bare.length - word.length;
    while (end > 0 && text[end - 1]!.trim() === '') end--;
  }
}

/** Where somebody broke off after a word that turns the meaning, the title says so. */
const BROKEN_OFF = /\s(?:without|until|till|unless|if|except|not)$/i;

function withNames(text: string, keywords: readonly Keyword[], units: readonly ReadUnit[]): Wording {
  const words = [...keywords].sort((a, b) => a.places[0]!.unit - b.places[0]!.unit || a.places[0]!.at - b.places[0]!.at).map((k) => (/^\p{Lu}\p{Ll}/u.test(k.word) && k.places[0]!.at === 0 && !k.places[0]!.name ? k.word.toLowerCase() : k.word));
  const from = units.map((u) => u.index);
  if (!text) return { text: words.length ? capital(words.join(', ')) : NOTHING, about: [], units: from };
  return { text, about: words, units: from };
}

/** Decisions and questions keep the sentence that was said, whole where captions cut it, without its lead-in, and after it what names the matter. */
export function wordPlain(reading: Reading, best: Clause | undefined, ranked: readonly RankedKeyword[], question: boolean): Wording {
  if (!best) return { text: NOTHING, about: [], units: [] };
  const sentence = wholeSentence(reading, best);
  const text = asSaid(sentence.text, question);
  const own = new Set(wordsOf(text).map((w) => stem(w.replace(/'s$/, ''))));
  const rest = ranked
    .filter((r) => !own.has(r.keyword.stem))
    .slice(0, own.size >= 14 ? 3 : 5)
    .filter((r) => r.p > 0.08);
  return withNames(
    text,
    rest.map((r) => r.keyword),
    sentence.units,
  );
}

/** A sentence as a title: without its label and lead-in, and with a question mark where it is a question. */
export function asSaid(sentence: string, question: boolean): string {
  const text = finish(
    sentence
      .replace(LABEL, '')
      .replace(LEAD_IN, '')
      .replace(/^\s*(?:!!|\?|->|→|=>|@)\s*/, ''),
    150,
  );
  return question && !/\?$/.test(text) ? `${trimEnd(text, '.!…')}?` : text;
}

/** The sentence a clause is part of, across the captions it was cut into. */
function wholeSentence(reading: Reading, { unit, text }: Clause): { text: string; units: ReadUnit[] } {
  const breath = breathOf(reading, unit);
  if (breath.units.length === 1) return { text, units: [unit] };
  const at = breath.starts[breath.units.indexOf(unit)]! + unit.text.indexOf(text);
  const sentence = sentencesOf(breath.text, 400).find((s) => s.from <= at && at < s.to);
  if (!sentence) return { text, units: [unit] };
  return { text: breath.text.slice(sentence.from, sentence.to), units: breath.units.filter((u, k) => breath.starts[k]! < sentence.to && breath.starts[k]! + u.text.length > sentence.from) };
}

/** Cut where the text may end, unless what would go holds a number or a word that turns the meaning. */
function shorten(text: string, longest: number): string {
  if (text.length <= longest) return text;
  const kept = cutAt(text, longest);
  return text
    .slice(kept.length)
    .split(/[^\p{L}\p{N}'’]+/u)
    .some((w) => TURNS.test(w) || /\d/.test(w))
    ? text
    : kept;
}

function cutAt(text: string, longest: number): string {
  const cut = text.slice(0, longest + 1);
  const at = Math.max(cut.lastIndexOf(', '), cut.lastIndexOf('; '), cut.lastIndexOf(' – '));
  const end = at > longest * 0.5 ? at : cut.lastIndexOf(' ');
  return trimEnd(text.slice(0, end > 0 ? end : longest), ',;–-');
}

function finish(text: string, longest: number): string {
  let out = shorten(trimMarks(text, ',.;:–—-'), longest);
  const words = out.split(/\s+/);
  while (words.length > 2 && isEmptyWord(words[words.length - 1]!.toLowerCase()) && /^(and|but|so|or|the|a|an|to|of|for|if|because|with)$/i.test(words[words.length - 1]!)) words.pop();
  out = words.join(' ');
  return out ? capital(out) : NOTHING;
}

const capital = (text: string) => (text ? text[0]!.toUpperCase() + text.slice(1) : NOTHING);
