import { contentStems, wordsOf } from '../language/words.ts';
import type { Clue, Evidence, Find } from './find.ts';

/** What tells whether two finds of one meeting are the same one, said in two of its records. */
export type Told = Pick<Find, 'kind' | 'text' | 'about' | 'owner' | 'due' | 'update'>;

/** From this likeness two finds count as one. */
const SAME_FROM = 0.5;
/** Words that must be shared, unless one of the two has fewer. */
const LEAST_SHARED = 2;

/**
 * How alike two finds are, 0 to 1: the share of the shorter one's words that the other has too, more where owner and
 * date agree, less where they are told differently. News of one commitment is the same news.
 */
export function likeness(a: Told, b: Told): number {
  if (a.kind !== b.kind) return 0;
  if (a.update || b.update) return a.update?.open === b.update?.open ? 1 : 0;
  const [x, y] = [stemsOf(a), stemsOf(b)];
  const fewer = Math.min(x.size, y.size);
  const shared = [...x].filter((s) => y.has(s)).length;
  if (fewer === 0 || shared < Math.min(LEAST_SHARED, fewer)) return 0;
  let out = shared / fewer;
  if (a.kind === 'action') {
    if (a.owner.length && b.owner.length) out += a.owner.some((o) => b.owner.includes(o)) ? 0.15 : -0.25;
    if (a.due && b.due) out += a.due === b.due ? 0.15 : -0.1;
  }
  return Math.max(0, Math.min(1, out));
}

/** Of several finds the one that is most likely the same, or null where none is likely enough. */
export function twinOf<F extends Told>(find: Told, others: readonly F[]): F | null {
  let best: F | null = null;
  let most = SAME_FROM;
  for (const other of others) {
    const like = likeness(find, other);
    if (like >= most && (best === null || like > most)) [best, most] = [other, like];
  }
  return best;
}

function stemsOf(f: Told): Set<string> {
  return new Set(contentStems(wordsOf([f.text, ...f.about].join(' '))));
}

/** Where a find stands in another record of its meeting. */
export interface Elsewhere {
  record: number;
  evidence: Evidence[];
  clues: Clue[];
}

/** A find as it is shown beside one of the records it stands in. */
export function seenIn<F extends { record: number; evidence: Evidence[]; clues: Clue[]; also: Elsewhere[] }>(find: F, record: number): F {
  const there = find.also.find((e) => e.record === record);
  if (find.record === record || !there) return find;
  const home: Elsewhere = { record: find.record, evidence: find.evidence, clues: find.clues };
  return { ...find, ...there, also: [home, ...find.also.filter((e) => e !== there)] };
}
