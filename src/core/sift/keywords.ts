import { isEmptyWord, stem, wordsOf } from '../language/words.ts';
import type { Clause } from './clauses.ts';
import type { Group } from './group.ts';
import { type Features, type LinearModel, logOdds, probability, steps } from './linear.ts';
import type { Reading } from './reading.ts';

/** A word that may name the matter, with where it stands. */
export interface Keyword {
  stem: string;
  /** as it was said, first time */
  word: string;
  /** clauses it stands in, as positions in the list it was made from */
  clauses: number[];
  /** place in its first clause, for keeping the record's order */
  at: number;
}

/** Words of matter in a list of clauses. People's names are left out: who is told apart from what. */
export function keywordsOf(reading: Reading, clauses: readonly Clause[]): Keyword[] {
  const out = new Map<string, Keyword>();
  clauses.forEach((c, k) => {
    const said = c.text.match(/[\p{L}\p{N}][\p{L}\p{N}'’.-]*[\p{L}\p{N}]|[\p{L}\p{N}]/gu) ?? [];
    said.forEach((raw, at) => {
      const word = raw.replace(/['’]s$/u, '');
      const low = wordsOf(word).join(' ');
      if (low.length < 3 || isEmptyWord(low) || reading.roster.isName(word)) return;
      const s = stem(low);
      const known = out.get(s);
      if (!known) out.set(s, { stem: s, word, clauses: [k], at: k * 1000 + at });
      else if (known.clauses[known.clauses.length - 1] !== k) known.clauses.push(k);
    });
  });
  return [...out.values()];
}

/** What speaks for a word naming the matter. */
export function keywordFeatures(reading: Reading, group: Group, k: Keyword, clauses: readonly Clause[], p: readonly number[]): Features {
  const f: Features = new Map();
  f.set('always', 1);
  const mine = k.clauses.map((i) => clauses[i]!);
  const inside = mine.filter((c) => c.inside);
  steps(f, 'places', mine.length, [2, 3, 4]);
  steps(f, 'inside', inside.length, [1, 2, 3]);
  const weight = reading.weight(k.stem);
  f.set('weight', weight);
  steps(f, 'weight', weight, [2.5, 3, 3.5, 4, 4.5]);
  f.set('best', Math.max(...k.clauses.map((i) => p[i]!)));
  f.set(
    'sum',
    Math.min(
      2,
      k.clauses.reduce((s, i) => s + p[i]!, 0),
    ),
  );
  if (mine.some((c) => c.index === group.core)) f.set('in-core', 1);
  const first = group.units[0]!;
  if (mine.some((c) => c.index === first)) f.set('in-first', 1);
  if (!inside.length) f.set(mine[0]!.index < first ? 'before-only' : 'beside-only', 1);
  if (/\d/.test(k.word)) f.set('digit', 1);
  if (/^\p{Lu}/u.test(k.word) && k.at % 1000 > 0) f.set('capital', 1);
  steps(f, 'long', k.word.length, [5, 7, 10]);
  if (/(?:ing|ed)$/.test(k.word)) f.set('verb-like', 1);
  if (/(?:ly)$/.test(k.word)) f.set('adverb-like', 1);
  if (/(?:tion|ment|ness|ance|ing|er|ist|age|ure|ity)s?$/.test(k.word)) f.set('noun-like', 1);
  if (TIME.test(k.word.toLowerCase())) f.set('time', 1);
  if (TALK.has(k.word.toLowerCase())) f.set('talk', 1);
  if (reading.input.open.some((o) => o.text.toLowerCase().includes(k.word.toLowerCase()))) f.set('in-open', 1);
  const neighbour = mine.map((c) => {
    const at = c.words.indexOf(k.word.toLowerCase());
    return at > 0 ? c.words[at - 1]! : '';
  });
  if (neighbour.some((w) => /^(?:the|a|an|my|your|our|his|her|their|this|that|these|those|of|for|about|with|on)$/.test(w))) f.set('after-article', 1);
  if (neighbour.some((w) => /^(?:to|will|i'll|can|you|we|i|please|and)$/.test(w))) f.set('after-verb-place', 1);
  return f;
}

const TIME =
  /^(?:(?:mon|tues|wednes|thurs|fri|satur|sun)day|today|tonight|tomorrow|yesterday|morning|evening|afternoon|week|weeks|month|months|day|days|minute|minutes|hour|hours|next|january|february|march|april|june|july|august|september|october|november|december|first|second|third|fourth|fifth|sixth|seventh|eighth|ninth|tenth|eleventh|twelfth|\w+teenth|twentieth|thirtieth|twenty[- ]?\w*|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|thirty|mid-\w+|o'clock|early|late|later|soon|end)$/;
const TALK = new Set(
  'really actually maybe perhaps honestly somebody someone anybody nobody everybody everyone something anything nothing everything anyway though because while whether always never quite rather pretty good fine great lovely nice sorry people person happy better best whole couple little look want need tell ask give take make come told asked said probably suppose believe remember else already'.split(
    ' ',
  ),
);

/** Words that name the matter and do not stand in `text` yet, in the record's order. */
export function chooseKeywords(reading: Reading, group: Group, clauses: readonly Clause[], p: readonly number[], model: LinearModel, text: string, most: number): string[] {
  const own = new Set(wordsOf(text).map((w) => stem(w.replace(/'s$/, ''))));
  return keywordsOf(reading, clauses)
    .filter((k) => !own.has(k.stem) && !TIME.test(k.word.toLowerCase()))
    .map((k) => ({ k, q: probability(logOdds(model, keywordFeatures(reading, group, k, clauses, p))) }))
    .filter((x) => x.q > 0.16)
    .sort((a, b) => b.q - a.q)
    .slice(0, most)
    .sort((a, b) => a.k.at - b.k.at)
    .map((x) => (/^\p{Lu}\p{Ll}/u.test(x.k.word) && x.k.at % 1000 === 0 ? x.k.word.toLowerCase() : x.k.word));
}
