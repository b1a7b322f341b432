import { contentStems, wordsOf } from '../language/words.ts';

/** Words that stand in a record: of which record, which of its segments, and what they say. */
export interface SaidAt {
  record: number;
  segment: number;
  words: string;
}

/** A decision or a commitment with the words it rests on. */
export interface Stated {
  text: string;
  said: readonly SaidAt[];
}

/** How many turns apart a decision and what follows from it may stand in a record. */
const NEAR = 6;

/** How somebody goes on from what was settled to what it makes them do. Common turns of talk. */
const THEREFORE = /^(?:(?:ok(?:ay)?|right|good|well|yes|and)[,.]?\s+)*(?:so|then|therefore|which means|that means|meaning|in that case|for that|because of that|to do (?:so|that)|accordingly)\b/iu;

/**
 * Whether the record says that a commitment follows from a decision. Near each other is not enough: both are stated in the same
 * words, or the commitment comes right after and says what it goes on from, by a word of going on or by naming the decision's
 * matter. People's names do not count as matter.
 * @param names what people are called
 */
export function followsFrom(decision: Stated, commitment: Stated, names: readonly string[]): boolean {
  const called = new Set(names.flatMap((n) => contentStems(wordsOf(n))));
  const matter = new Set(contentStems(wordsOf(decision.text)).filter((s) => !called.has(s)));
  return decision.said.some((d) =>
    commitment.said.some((c) => {
      const apart = c.segment - d.segment;
      if (c.record !== d.record || apart < 0 || apart > NEAR) return false;
      if (apart === 0) return true;
      const shared = new Set(contentStems(wordsOf(`${commitment.text} ${c.words}`)).filter((s) => matter.has(s))).size;
      return shared >= 2 || (shared === 1 && (apart <= 2 || matter.size <= 3)) || (apart === 1 && THEREFORE.test(c.words.trim()));
    }),
  );
}
