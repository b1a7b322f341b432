import { isEmptyWord, stem, wordsOf } from '../language/words.ts';
import type { Reading, ReadUnit } from './reading.ts';

/** One place where a word of matter was said. */
export interface WordPlace {
  unit: number;
  /** number of the word among all words of its unit */
  at: number;
  /** place in the unit's text */
  from: number;
  to: number;
  /** as it was said */
  word: string;
  stem: string;
  /** how it stands in what was said, as features: wherever the place is, and when it is one of the matter's own */
  signs: readonly string[];
  signsInside: readonly string[];
  /** stands where the verb of a promise or a request stands */
  promised: boolean;
  /** its unit reports what happened */
  past: boolean;
  /** a person's name */
  name: boolean;
}

const BEFORE_A_PROMISED_VERB =
  /\b(?:i['’]?ll|i will|i['’]?m going to|i can|i could|i have to|i need to|i should|let me|we['’]?ll|we need to|we have to|we should|you['’]?ll|can you|could you|would you|will you|please|will|has to|have to|needs? to|should|to)\s+(?:(?!(?:the|an?|my|your|our|his|her|their|this|that|these|those)\s)\w+\s+)?$/i;
/** Longest stretch of a unit that words are taken from, in characters. */
export const LONGEST = 1500;

const cut = new WeakMap<ReadUnit, WordPlace[]>();

/** A word that stays one when it is cut into words again. */
const PLAIN = /^[A-Za-z0-9]+$/;

/** Every word of a text with its place, a possessive ending left off. */
export function saidWords(text: string): { word: string; low: string; from: number; to: number }[] {
  return [...text.slice(0, LONGEST).matchAll(/[\p{L}\p{N}][\p{L}\p{N}'’.-]*[\p{L}\p{N}]|[\p{L}\p{N}]/gu)].map((m) => {
    const word = m[0].replace(/['’]s$/u, '');
    return { word, low: PLAIN.test(word) ? word.toLowerCase() : wordsOf(word).join(' '), from: m.index, to: m.index + word.length };
  });
}

/** Words of matter in a unit, found once however many matters it is looked at for. */
export function matterWords(reading: Reading, unit: ReadUnit): WordPlace[] {
  const known = cut.get(unit);
  if (known) return known;
  const out: WordPlace[] = [];
  const said = saidWords(unit.text);
  said.forEach(({ word, low, from, to }, at) => {
    if (low.length < 2 || isEmptyWord(low)) return;
    out.push({
      unit: unit.index,
      at,
      from,
      to,
      word,
      stem: stem(low),
      ...standing(unit, word, at, from, said[at - 1]?.low ?? '', said[at + 1]?.low ?? ''),
      name: reading.roster.isName(word),
    });
  });
  cut.set(unit, out);
  return out;
}

const ARTICLE = /^(?:the|a|an|my|your|our|his|her|their|this|that|these|those)$/;

const PREPOSITION_BEFORE = /^(?:of|for|about|with|on|in|from|at|by|into)$/;
const PREPOSITION_AFTER = /^(?:of|for|from|to)$/;
const OBJECT_AFTER = /^(?:the|a|an|my|your|our|his|her|their|it|them|him|you|us|this|that)$/;
const PRONOUN = /^(?:i|you|he|she|they|we|it|i'm|it's|that's)$/;

/** How a word stands in what was said, between the words before and after it. */
function standing(unit: ReadUnit, word: string, at: number, from: number, before: string, after: string): Pick<WordPlace, 'signs' | 'signsInside' | 'promised' | 'past'> {
  const signs: string[] = [];
  const signsInside: string[] = [];
  const cue = (...names: string[]) => names.some((n) => unit.cues.has(n));
  const promised = BEFORE_A_PROMISED_VERB.test(unit.text.slice(Math.max(0, from - 30), from));
  if (promised) {
    signs.push('promised');
    signsInside.push('promised-inside');
  }
  if (ARTICLE.test(before)) {
    signs.push('after-article');
    signsInside.push('after-article-inside');
  }
  if (PREPOSITION_BEFORE.test(before)) signs.push('after-preposition');
  if (PREPOSITION_AFTER.test(after)) signs.push('before-preposition');
  if (OBJECT_AFTER.test(after)) signs.push('before-object');
  if (PRONOUN.test(before)) signs.push('after-pronoun');
  if (at > 0 && /^\p{Lu}/u.test(word)) signs.push('capital');
  if (cue('request', 'you-do')) signs.push('in-request');
  if (cue('will-verb')) signsInside.push('in-promise');
  if (cue('obligation', 'we-will')) signs.push('in-duty');
  return { signs, signsInside, promised, past: cue('past') };
}
