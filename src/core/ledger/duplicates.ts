import { contentStems, wordsOf } from '../language/words.ts';

/** A commitment, as far as it tells whether another one is the same. */
export interface Comparable {
  id: number;
  text: string;
  owner: readonly string[];
  due: string | null;
}

export interface Pair {
  /** the older one, which stays when the two are merged */
  keep: number;
  other: number;
  /** 0 to 1 */
  like: number;
}

/** From this likeness two commitments are shown as perhaps the same. */
const ALIKE_FROM = 0.6;
/** A word that stands in so many commitments tells nothing of two of them. */
const MOST_SHARING = 60;

/**
 * Pairs of commitments that may be the same: most of the words of the shorter one stand in the other too (Szymkiewicz and
 * Simpson's overlap), the more so with one owner and one day. Only those that share a rare word are compared, so the work
 * grows with their number and not with its square.
 */
export function duplicatePairs(all: readonly Comparable[]): Pair[] {
  const stems = new Map(all.map((c) => [c.id, new Set(contentStems(wordsOf(c.text)))]));
  const by = new Map<string, Comparable[]>();
  for (const c of all) for (const s of stems.get(c.id)!) by.set(s, [...(by.get(s) ?? []), c]);
  const compared = new Set<string>();
  const out: Pair[] = [];
  for (const list of by.values()) {
    if (list.length < 2 || list.length > MOST_SHARING) continue;
    for (const [i, a] of list.entries()) {
      for (const b of list.slice(i + 1)) {
        const [keep, other] = a.id < b.id ? [a, b] : [b, a];
        const key = `${keep.id} ${other.id}`;
        if (compared.has(key)) continue;
        compared.add(key);
        const like = alike(keep, other, stems.get(keep.id)!, stems.get(other.id)!);
        if (like >= ALIKE_FROM) out.push({ keep: keep.id, other: other.id, like });
      }
    }
  }
  return out.sort((a, b) => b.like - a.like || a.keep - b.keep || a.other - b.other);
}

function alike(a: Comparable, b: Comparable, x: ReadonlySet<string>, y: ReadonlySet<string>): number {
  const fewer = Math.min(x.size, y.size);
  const shared = [...x].filter((s) => y.has(s)).length;
  if (fewer === 0 || shared < Math.min(2, fewer)) return 0;
  // of two that have all the words of the shorter one, the one with fewer others is the likelier
  let like = 0.9 * (shared / fewer) + 0.1 * (shared / (x.size + y.size - shared));
  // one word alone is a subject, and not yet a job
  if (shared === 1) like *= 0.6;
  if (a.owner.length && b.owner.length) like += a.owner.some((o) => b.owner.includes(o)) ? 0.1 : -0.2;
  if (a.due && b.due) like += a.due === b.due ? 0.1 : -0.05;
  return Math.round(100 * Math.max(0, Math.min(1, like))) / 100;
}
