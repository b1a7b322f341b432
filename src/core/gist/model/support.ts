import type { Roster } from '../../language/people.ts';
import { sentencesOf } from '../../language/sentences.ts';
import { contentStems, wordsOf } from '../../language/words.ts';
import { NEGATES, turnsIn } from '../../sift/meaning.ts';

/** So much of a sentence's matter has to stand in its segments; the rest is what joins it. */
const SUPPORTED_FROM = 0.6;
const NUMBER = /\d[\d.,:]*\d|\d/g;

/**
 * Whether a sentence of a model rests on the words it names: most of its words of matter and all of its numbers stand in
 * them, whoever it names speaks or is named there, and the sentence nearest to it is not turned by a “not” that it lacks, nor
 * it by one that is not there.
 */
export function holds(text: string, said: readonly { voice: string | null; text: string }[], roster: Roster): boolean {
  const words = said.map((s) => s.text).join(' ');
  const there = new Set(contentStems(wordsOf(words)));
  const numbers = new Set(words.match(NUMBER) ?? []);
  if ((text.match(NUMBER) ?? []).some((n) => !numbers.has(n))) return false;
  const present = new Set(said.flatMap((s) => [...(s.voice ? [roster.voice(s.voice)] : []), ...roster.mentions(s.text).map((m) => m.person)]));
  if (roster.mentions(text).some((m) => m.how !== 'role' && !present.has(m.person))) return false;
  const own = contentStems(wordsOf(text).filter((w) => !roster.isName(w.replace(/'s$/, ''))));
  if (own.length === 0 || own.filter((s) => there.has(s)).length / own.length < SUPPORTED_FROM) return false;
  const sentences = said.flatMap((s) => sentencesOf(s.text.slice(0, 4_000)).map((x) => s.text.slice(x.from, x.to)));
  const nearest = nearestTo(new Set(own), sentences);
  // a sentence made of several is turned where one of these is
  return negated(text) ? sentences.some((s) => negated(s) && speaksOf(s, new Set(own))) : !nearest.split(CLAUSE).some((clause) => !BARE_NO.test(clause) && negated(clause) && speaksOf(clause, new Set(own)));
}

/** Where a sentence may go on to something else. */
const CLAUSE = /[,;:–—.!?]|\s(?:and|but)\s/;

/** A “no” by itself answers something, and turns no sentence. */
const BARE_NO = /^\s*(?:no|nope|nah)\s*$/i;

const negated = (text: string) => turnsIn(text).some((w) => NEGATES.test(w) || /^(?:no|nobody|none|neither|nor|without)$/i.test(w));

/** Whether a clause is about nothing but what these words are about: “we won’t” is, “without it nothing moves” is not. */
const speaksOf = (clause: string, stems: ReadonlySet<string>) => contentStems(wordsOf(clause)).every((s) => stems.has(s)) || contentStems(wordsOf(clause)).filter((s) => stems.has(s)).length >= 2;

function nearestTo(stems: ReadonlySet<string>, sentences: readonly string[]): string {
  const near = (sentence: string) => contentStems(wordsOf(sentence)).filter((s) => stems.has(s)).length;
  return sentences.reduce((best, s) => (near(s) > near(best) ? s : best), sentences[0] ?? '');
}
