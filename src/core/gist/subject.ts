import { contentStems, wordsOf } from '../language/words.ts';
import type { Talk } from './turns.ts';

/** A stretch of a meeting that was about a subject. */
export interface Stretch {
  from: number;
  to: number;
  segment: number;
  start: number;
  seconds: number;
}

/** A turn of an exchange may leave the subject's words out; from this many turns on the subject has changed. */
const PAUSE = 4;

/**
 * When a subject was spoken of and for how long. A turn is about it when it has half of the subject's words (their
 * stems; all of them for a subject of one word); turns between two such, up to four, belong to the exchange.
 * @returns stretches in order; their seconds summed is the time spent on the subject
 */
export function timeOn(talk: Talk, subject: string): { stretches: Stretch[]; seconds: number } {
  const wanted = new Set(contentStems(wordsOf(subject)));
  if (wanted.size === 0) return { stretches: [], seconds: 0 };
  const least = Math.max(1, Math.ceil(wanted.size / 2));
  const hits: number[] = [];
  talk.turns.forEach((t, i) => {
    const own = new Set(t.stems);
    let both = 0;
    for (const s of wanted) if (own.has(s)) both++;
    if (both >= least) hits.push(i);
  });
  const stretches: Stretch[] = [];
  for (const i of hits) {
    const last = stretches[stretches.length - 1];
    if (last && i - last.to <= PAUSE + 1) last.to = i;
    else stretches.push({ from: i, to: i, segment: talk.turns[i]!.segment, start: talk.turns[i]!.start, seconds: 0 });
  }
  for (const s of stretches) s.seconds = talk.turns.slice(s.from, s.to + 1).reduce((sum, t) => sum + t.length, 0);
  return { stretches, seconds: stretches.reduce((sum, s) => sum + s.seconds, 0) };
}
