import type { Find } from '../../src/core/sift/find.ts';
import type { SiftModels } from '../../src/core/sift/models.ts';
import { sift } from '../../src/core/sift/sift.ts';
import { inOneLine } from '../../src/core/sift/wording.ts';
import type { Annotated } from '../meetings.ts';
import { type Answer, emptyTallies, f1, MEASURES, type Tallies, tally } from '../score.ts';
import { type CloseAnswers, learn } from './stages.ts';

/** Finds in the shape the scores are worked out on. */
export function answerOf(finds: readonly Find[]): Required<Answer> {
  const evidence = (f: Find) => [...new Set(f.evidence.map((e) => e.segment))].sort((a, b) => a - b);
  const plain = (kind: Find['kind']) => finds.filter((f) => f.kind === kind).map((f) => ({ text: inOneLine(f), evidence: evidence(f), confidence: f.confidence }));
  return {
    commitments: finds.filter((f) => f.kind === 'action').map((f) => ({ text: inOneLine(f), owner: f.owner, due: f.due, evidence: evidence(f), confidence: f.confidence })),
    decisions: plain('decision'),
    questions: plain('question'),
    updates: finds.flatMap((f) => (f.update ? [{ open: f.update.open, kind: f.update.kind, ...(f.update.due ? { due: f.update.due } : {}), ...(f.update.owner ? { owner: f.update.owner } : {}), evidence: evidence(f), confidence: f.confidence }] : [])),
  };
}

export interface Outcome {
  tallies: Tallies;
  bySeries: Map<string, Tallies>;
  judged: { confidence: number; right: boolean }[];
}

export function evaluate(meetings: readonly Annotated[], modelsFor: (m: Annotated) => SiftModels, close: CloseAnswers | null): Outcome {
  const tallies = emptyTallies();
  const bySeries = new Map<string, Tallies>();
  const judged: Outcome['judged'] = [];
  for (const m of meetings) {
    const answer = answerOf(sift(m.input, modelsFor(m), close?.get(m.name) ?? null).finds);
    const own = bySeries.get(m.series) ?? emptyTallies();
    bySeries.set(m.series, own);
    tally(own, answer, m.gold);
    judged.push(...tally(tallies, answer, m.gold));
  }
  return { tallies, bySeries, judged };
}

/**
 * Scores on series the weights have not seen, fold by fold.
 * @param besides meetings that every fold learns from and none is scored on
 */
export function leaveOut(meetings: readonly Annotated[], besides: readonly Annotated[], folds: number, close: CloseAnswers | null): Outcome {
  const series = [...new Set(meetings.map((m) => m.series))].sort();
  const fold = (m: Annotated) => series.indexOf(m.series) % folds;
  const models = new Map<number, SiftModels>();
  for (let k = 0; k < Math.min(folds, series.length); k++) models.set(k, learn([...meetings.filter((m) => fold(m) !== k), ...besides], close));
  return evaluate(meetings, (m) => models.get(fold(m))!, close);
}

export function showTallies(title: string, t: Tallies): string {
  const pct = (x: number) => (100 * x).toFixed(1).padStart(5);
  return [title, ...MEASURES.map((m) => `  ${m.padEnd(22)} P ${pct(t[m].given ? t[m].right / t[m].given : 0)}  R ${pct(t[m].wanted ? t[m].right / t[m].wanted : 0)}  F1 ${pct(f1(t[m]))}   (${t[m].right} of ${t[m].wanted}, ${t[m].given} given)`)].join('\n');
}

/** Of the finds with about this confidence, which share is right. */
export function reliability(judged: Outcome['judged']): { from: number; to: number; count: number; mean: number; right: number }[] {
  const bounds = [0, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0001];
  return bounds.slice(0, -1).map((from, i) => {
    const within = judged.filter((j) => j.confidence >= from && j.confidence < bounds[i + 1]!);
    const n = Math.max(1, within.length);
    return { from, to: Math.min(1, bounds[i + 1]!), count: within.length, mean: within.reduce((s, j) => s + j.confidence, 0) / n, right: within.filter((j) => j.right).length / n };
  });
}
