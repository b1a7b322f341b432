import { daysBetween, type IsoDate } from '../dates/calendar.ts';
import type { PassageKind } from './query.ts';

/** What kinds weigh: what was settled is looked for more often than what was talked about; minutes and letters repeat it. Set by hand. */
export const KIND_WEIGHT: Readonly<Record<PassageKind, number>> = { decision: 1.4, commitment: 1.4, question: 1.25, said: 1, answer: 1, jotting: 1, letter: 0.85, minutes: 0.85 };

/** Days after which age has taken half of what it can take. */
const HALF = 180;
/** What is left to the oldest passage. */
const FLOOR = 0.5;

/** How much a passage's age leaves of its score: 1 today, 0.75 after half a year, never less than 0.5. */
export function recency(on: IsoDate, today: IsoDate): number {
  return FLOOR + (1 - FLOOR) * 2 ** (-Math.max(0, daysBetween(on, today)) / HALF);
}

/**
 * How passages are ordered: gives the function that scores one; the higher, the further up. `bm25` is as FTS5 gives it:
 * Okapi BM25 with k1 1.2 and b 0.75, negative, the smaller the better.
 * @source S. Robertson, H. Zaragoza, “The Probabilistic Relevance Framework: BM25 and Beyond”, 2009; the factors are ours
 */
export function scorer(today: IsoDate): (passage: { kind: PassageKind; on: IsoDate; bm25: number }) => number {
  const ages = new Map<IsoDate, number>();
  return ({ kind, on, bm25 }) => {
    let left = ages.get(on);
    if (left === undefined) {
      left = recency(on, today);
      ages.set(on, left);
    }
    return Math.max(0, -bm25) * KIND_WEIGHT[kind] * left;
  };
}
