/**
 * Scores finds against what a careful reader took from the same records.
 * A find counts when its evidence touches the reader's (within one segment) and its wording shares content with theirs
 * (Dice coefficient of stemmed content words, at least 0.2), one to one, best first.
 */
export interface Answer {
  commitments: { text: string; owner: string[]; due: string | null; evidence: number[]; confidence?: number }[];
  decisions: { text: string; evidence: number[]; confidence?: number }[];
  questions: { text: string; evidence: number[]; confidence?: number }[];
  updates: { open: string; kind: string; due?: string | null; owner?: string[] | null; evidence: number[]; confidence?: number }[];
}

const STOP = new Set('a an the to of for and or in on at by with from that this it is be will we i you he she they our their his her my your up out about into as so do'.split(' '));
const bag = (t: string) =>
  new Set(
    t
      .toLowerCase()
      .replace(/[^a-z0-9 ]+/g, ' ')
      .split(/\s+/)
      .filter((w) => w && !STOP.has(w))
      .map((w) => w.replace(/(ing|ed|es|s|ly)$/, '')),
  );

export function likeness(a: string, b: string): number {
  const x = bag(a);
  const y = bag(b);
  let n = 0;
  for (const w of x) if (y.has(w)) n++;
  return x.size + y.size ? (2 * n) / (x.size + y.size) : 0;
}

const touches = (p: readonly number[], g: readonly number[]) => p.some((i) => g.some((j) => Math.abs(i - j) <= 1));
export const samePeople = (a: readonly string[] = [], b: readonly string[] = []) => [...new Set(a)].sort().join() === [...new Set(b)].sort().join();

type Placed = { text: string; evidence: readonly number[]; owner?: readonly string[] };

/** Pairs of positions (given, wanted). */
export function pairUp(given: readonly Placed[], wanted: readonly Placed[]): [number, number][] {
  const all: { i: number; j: number; w: number }[] = [];
  given.forEach((p, i) => {
    wanted.forEach((g, j) => {
      if (!touches(p.evidence, g.evidence)) return;
      const s = likeness(p.text, g.text);
      if (s >= 0.2) all.push({ i, j, w: s + (g.owner && samePeople(p.owner, g.owner) ? 0.2 : 0) });
    });
  });
  all.sort((a, b) => b.w - a.w);
  const i = new Set<number>();
  const j = new Set<number>();
  const out: [number, number][] = [];
  for (const x of all) {
    if (i.has(x.i) || j.has(x.j)) continue;
    i.add(x.i);
    j.add(x.j);
    out.push([x.i, x.j]);
  }
  return out;
}

export interface Tally {
  right: number;
  given: number;
  wanted: number;
}

export const MEASURES = ['commitments', 'with owner and date', 'decisions', 'questions', 'updates'] as const;
export type Measure = (typeof MEASURES)[number];
export type Tallies = Record<Measure, Tally>;

export function emptyTallies(): Tallies {
  return Object.fromEntries(MEASURES.map((m) => [m, { right: 0, given: 0, wanted: 0 }])) as Tallies;
}

/** Two tallies as one. */
export function added(a: Tallies, b: Tallies): Tallies {
  return Object.fromEntries(MEASURES.map((m) => [m, { right: a[m].right + b[m].right, given: a[m].given + b[m].given, wanted: a[m].wanted + b[m].wanted }])) as Tallies;
}

/** Adds one meeting to the tallies; gives back, for each find with a confidence, whether it was right. */
export function tally(into: Tallies, answer: Answer, gold: Answer): { confidence: number; right: boolean }[] {
  const judged: { confidence: number; right: boolean }[] = [];
  for (const kind of ['commitments', 'decisions', 'questions'] as const) {
    const pairs = pairUp(answer[kind], gold[kind]);
    const t = into[kind];
    t.right += pairs.length;
    t.given += answer[kind].length;
    t.wanted += gold[kind].length;
    const hit = new Set(pairs.map(([i]) => i));
    for (const [i, a] of answer[kind].entries()) if (a.confidence !== undefined) judged.push({ confidence: a.confidence, right: hit.has(i) });
    if (kind !== 'commitments') continue;
    const strict = into['with owner and date'];
    strict.given += answer.commitments.length;
    strict.wanted += gold.commitments.length;
    for (const [i, j] of pairs) {
      const p = answer.commitments[i]!;
      const g = gold.commitments[j]!;
      if (samePeople(p.owner, g.owner) && (p.due ?? null) === (g.due ?? null)) strict.right++;
    }
  }
  const t = into.updates;
  t.given += answer.updates.length;
  t.wanted += gold.updates.length;
  for (const p of answer.updates) {
    const g = gold.updates.find((x) => x.open === p.open);
    const right = !!g && p.kind === g.kind && (g.kind !== 'moved' || (p.due ?? null) === (g.due ?? null)) && (g.kind !== 'reassigned' || samePeople(p.owner ?? [], g.owner ?? []));
    if (right) t.right++;
    if (p.confidence !== undefined) judged.push({ confidence: p.confidence, right });
  }
  return judged;
}

export function f1({ right, given, wanted }: Tally): number {
  return given + wanted ? (2 * right) / (given + wanted) : 0;
}
