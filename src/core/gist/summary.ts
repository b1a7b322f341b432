import { sentencesOf } from '../language/sentences.ts';
import { contentStems, wordsOf } from '../language/words.ts';
import { breathsOf } from '../record/breath.ts';
import type { Topic } from './topics.ts';
import type { Talk } from './turns.ts';

export type SummaryLength = 'brief' | 'usual' | 'everything';

/** A sentence of the summary, in the record's own words, with where it was said. */
export interface SummaryLine {
  segment: number;
  voice: string | null;
  text: string;
  /** place of its topic in the list of topics */
  topic: number;
  /** which turn-taking matter it carries, when something was found there */
  carries: 'action' | 'decision' | 'question' | 'update' | null;
}

/** A place where something was found: it is worth more than its words. */
export interface Weighty {
  segment: number;
  kind: 'action' | 'decision' | 'question' | 'update';
  confidence: number;
}

/** Sentences of each length: at most so many, and no more than this share of the turns. */
const LENGTHS: Record<SummaryLength, { most: number; share: number }> = {
  brief: { most: 4, share: 0.15 },
  usual: { most: 10, share: 0.3 },
  everything: { most: 30, share: 0.5 },
};
const KIND_WORTH = { decision: 1, action: 0.8, question: 0.6, update: 0.5 };
/** How much saying something again counts against a sentence (J. Carbonell and J. Goldstein, maximal marginal relevance, 1998). */
const AGAINST_REPEATS = 0.6;

/**
 * Summary made of the record's own sentences: nearest to what the meeting was about as a whole (the centroid of
 * D. Radev et al., 2004), what was found there counted in, sentences that say the same again left out, and every
 * topic heard before any is heard twice as often as its length allows. In the order of the record.
 */
export function summaryOf(talk: Talk, topics: readonly Topic[], found: readonly Weighty[], length: SummaryLength): SummaryLine[] {
  const { turns } = talk;
  const spread = new Map<string, number>();
  for (const t of turns) for (const s of new Set(t.stems)) spread.set(s, (spread.get(s) ?? 0) + 1);
  const rare = (s: string) => Math.log((1 + turns.length) / (1 + (spread.get(s) ?? 0)));
  const centroid = new Map<string, number>();
  for (const t of turns) for (const s of t.stems) centroid.set(s, (centroid.get(s) ?? 0) + rare(s));
  const worth = new Map<number, Weighty>();
  for (const f of found) {
    const before = worth.get(f.segment);
    if (!before || KIND_WORTH[f.kind] * f.confidence > KIND_WORTH[before.kind] * before.confidence) worth.set(f.segment, f);
  }
  const topicOf = (i: number) => topics.findIndex((t) => i >= t.from && i <= t.to);
  const candidates = sentencesSaid(talk)
    .filter((c) => c.stems.size >= 3)
    .map((c) => {
      let near = 0;
      for (const s of c.stems) near += centroid.get(s) ?? 0;
      const carried = c.segments.flatMap((s) => worth.get(s) ?? []).sort((a, b) => KIND_WORTH[b.kind] * b.confidence - KIND_WORTH[a.kind] * a.confidence);
      return { ...c, topic: topicOf(c.i), near: near / (6 + c.stems.size), carries: carried[0] ?? null };
    });
  const top = candidates.reduce((m, c) => Math.max(m, c.near), 0) || 1;
  const { most, share } = LENGTHS[length];
  const wanted = Math.min(most, Math.max(1, Math.round(turns.length * share)));
  const used = new Map<number, number>();
  const chosen: typeof candidates = [];
  const pool = candidates.map((c) => ({ ...c, score: c.near / top + (c.carries ? KIND_WORTH[c.carries.kind] * c.carries.confidence : 0) })).sort((a, b) => b.score - a.score || a.i - b.i || a.segments[0]! - b.segments[0]!);
  // the best few hundred are enough to choose from, however long the day was
  const open = pool.slice(0, 400);
  while (chosen.length < wanted && open.length > 0) {
    let best = 0;
    let bestScore = Number.NEGATIVE_INFINITY;
    for (let k = 0; k < open.length; k++) {
      const c = open[k]!;
      const repeats = chosen.reduce((m, d) => Math.max(m, likeness(c.stems, d.stems)), 0);
      const room = topics[c.topic] ? (topics[c.topic]!.length || 1) / Math.max(1, talk.length) : 1;
      const score = c.score - AGAINST_REPEATS * repeats - 0.35 * Math.max(0, (used.get(c.topic) ?? 0) - room * wanted);
      if (score > bestScore) {
        bestScore = score;
        best = k;
      }
    }
    const [c] = open.splice(best, 1);
    if (chosen.some((d) => likeness(c!.stems, d.stems) > 0.8)) continue;
    chosen.push(c!);
    used.set(c!.topic, (used.get(c!.topic) ?? 0) + 1);
  }
  return chosen.sort((a, b) => a.i - b.i || a.segments[0]! - b.segments[0]! || a.at - b.at).map((c) => ({ segment: c.segments[0]!, voice: c.voice, text: c.text, topic: c.topic, carries: c.carries?.kind ?? null }));
}

/** A whole sentence: in one turn, or across the captions it was cut into. */
interface Sentence {
  /** the turn it begins in */
  i: number;
  /** where in the run of turns it begins */
  at: number;
  segments: number[];
  voice: string | null;
  text: string;
  stems: ReadonlySet<string>;
}

function sentencesSaid({ turns, captions }: Talk): Sentence[] {
  const spoken = turns.flatMap((t, i) => (t.heading ? [] : [{ ...t, i, end: t.start + t.length }]));
  return (captions ? breathsOf(spoken) : spoken.map((t) => [t])).flatMap((run) => {
    const text = run.map((t) => t.text).join(' ');
    const starts: number[] = [];
    for (let k = 0; k < run.length; k++) starts.push((starts.at(-1) ?? 0) + (starts.length ? run[starts.length - 1]!.text.length + 1 : 0));
    return sentencesOf(text.length > 4000 ? text.slice(0, 4000) : text).map((s): Sentence => {
      const own = run.filter((t, k) => starts[k]! < s.to && starts[k]! + t.text.length > s.from);
      const said = text.slice(s.from, s.to);
      return { i: own[0]!.i, at: s.from, segments: own.map((t) => t.segment), voice: own[0]!.voice, text: said, stems: new Set(contentStems(wordsOf(said))) };
    });
  });
}

function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let both = 0;
  for (const s of a) if (b.has(s)) both++;
  return both / Math.max(1, Math.sqrt(a.size * b.size));
}
