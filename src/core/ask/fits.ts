import { contentStems, wordsOf } from '../language/words.ts';
import type { OnRecord } from './on-record.ts';
import { stemsOf } from './question.ts';

/** So much of a subject's weight has to be in a line for it to be about the subject: of two words as rare as each other both. */
const ENOUGH = 0.6;
/** What the words beside a line count, against its own: less than lines whose own words are the subject. */
const BESIDE = 0.8;
/** Lines that have clearly less of the subject than the best one are about something else. */
const BESIDE_THE_BEST = 0.85;

/** How much of a subject's words are in some text, by their weight, 0 to 1. */
export function share(subject: readonly string[], words: string, weight: OnRecord['weight']): number {
  const own = new Set(contentStems(wordsOf(words)));
  let [both, all] = [0, 0];
  for (const s of subject) {
    const w = weight(s);
    all += w;
    if (own.has(s)) both += w;
  }
  return all === 0 ? 0 : both / all;
}

/**
 * The lines that are about a subject, those that have most of its words first; a line's own words count for more than the
 * words it rests on, since people speak of several matters in one breath.
 */
export function about<T extends { text: string; words: string }>(lines: readonly T[], subject: string, weight: OnRecord['weight']): T[] {
  const stems = stemsOf(subject);
  if (stems.length === 0) return [...lines];
  const scored = lines.map((line) => ({ line, share: Math.max(share(stems, line.text, weight), BESIDE * share(stems, `${line.text} ${line.words}`, weight)) })).filter((s) => s.share >= ENOUGH);
  const best = Math.max(0, ...scored.map((s) => s.share));
  return scored
    .filter((s) => s.share >= best * BESIDE_THE_BEST)
    .sort((a, b) => b.share - a.share)
    .map((s) => s.line);
}
