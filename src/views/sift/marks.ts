import type { KeptFind } from '../../server/sift/finds.ts';

/** A stretch of a segment's text with one look: which find it belongs to and what was read from it. */
export interface Run {
  text: string;
  find: number | null;
  kind: KeptFind['kind'] | null;
  verdict: KeptFind['verdict'] | null;
  current: boolean;
  what: 'who' | 'when' | 'assent' | null;
  from: number;
  /** finds whose words end with this run: their lines to the margin begin here */
  ends: number[];
}

interface Mark {
  from: number;
  to: number;
  find: KeptFind;
  what: Run['what'];
}

/** Marks by segment, of all finds. */
export function marksBySegment(finds: readonly KeptFind[], record: number): Map<number, Mark[]> {
  const out = new Map<number, Mark[]>();
  const put = (segment: number, mark: Mark) => {
    const list = out.get(segment);
    if (list) list.push(mark);
    else out.set(segment, [mark]);
  };
  for (const find of finds) {
    if (find.record !== record) continue;
    for (const e of find.evidence) put(e.segment, { from: e.from, to: e.to, find, what: null });
    for (const c of find.clues) put(c.segment, { from: c.from, to: c.to, find, what: c.what });
  }
  return out;
}

/** Cuts a text at every edge of a mark; where marks overlap, the current find's go before the others'. */
export function runsOf(text: string, marks: readonly Mark[], current: number | null): Run[] {
  if (marks.length === 0) return [{ text, find: null, kind: null, verdict: null, current: false, what: null, from: 0, ends: [] }];
  const edges = new Set([0, text.length]);
  for (const m of marks) {
    edges.add(Math.max(0, Math.min(text.length, m.from)));
    edges.add(Math.max(0, Math.min(text.length, m.to)));
  }
  const cuts = [...edges].sort((a, b) => a - b);
  const runs: Run[] = [];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i]!, cuts[i + 1]!];
    const over = marks.filter((m) => m.from < to && from < m.to);
    const mine = over.filter((m) => m.find.id === current);
    const top = mine.length ? mine : over.filter((m) => m.find.verdict !== 'passed').length ? over.filter((m) => m.find.verdict !== 'passed') : over;
    const clue = top.find((m) => m.what);
    const one = clue ?? top[0];
    runs.push({ text: text.slice(from, to), find: one?.find.id ?? null, kind: one?.find.kind ?? null, verdict: one?.find.verdict ?? null, current: mine.length > 0, what: clue?.what ?? null, from, ends: marks.filter((m) => m.what === null && Math.min(m.to, text.length) === to).map((m) => m.find.id) });
  }
  return runs;
}
