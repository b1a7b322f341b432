import { sentencesOf } from '../language/sentences.ts';
import { contentStems, sharedWeight, wordsOf } from '../language/words.ts';
import { namedWith } from './close/naming.ts';
import { cuesOf } from './cues.ts';
import { type Features, keyed, type LinearModel, logOdds, probability, steps } from './linear.ts';
import type { Reading, ReadUnit } from './reading.ts';
import type { Group } from './shapes.ts';

/** A sentence in or right around the places of a matter: what its wording can be made of. */
export interface Clause {
  text: string;
  unit: ReadUnit;
  index: number;
  words: string[];
  stems: ReadonlySet<string>;
  cues: ReadonlySet<string>;
  inside: boolean;
}

type Sentence = Omit<Clause, 'inside'>;

const cut = new WeakMap<ReadUnit, Sentence[]>();

/** A unit's sentences, cut once however many matters they are looked at for. */
function sentencesIn(unit: ReadUnit): Sentence[] {
  let sentences = cut.get(unit);
  if (!sentences) {
    sentences = sentencesOf(unit.text.slice(0, 1500), 400).map((s) => {
      const text = unit.text.slice(s.from, s.to);
      if (text.length === unit.text.length) return { text, unit, index: unit.index, words: [...unit.words], stems: unit.stems, cues: unit.cues };
      const words = wordsOf(text);
      return { text, unit, index: unit.index, words, stems: new Set(contentStems(words)), cues: new Set(cuesOf(text)) };
    });
    cut.set(unit, sentences);
  }
  return sentences;
}

/** Places looked at, from the start, the core and the end of a matter; the rest are repeats. */
const MOST_LOOKED_AT = 14;

/** Sentences of the matter's units, of the two before its first and the one after each. */
export function clausesOf(reading: Reading, group: Group): Clause[] {
  const inside = new Set(group.units.length > MOST_LOOKED_AT ? [...group.units.slice(0, MOST_LOOKED_AT - 4), group.core, ...group.units.slice(-3)] : group.units);
  const places = new Set<number>();
  for (const i of inside) for (const d of [-2, -1, 0, 1]) if (reading.units[i + d]) places.add(i + d);
  const out: Clause[] = [];
  for (const i of [...places].sort((a, b) => a - b)) {
    const unit = reading.units[i]!;
    if (unit.heading) continue;
    for (const sentence of sentencesIn(unit)) out.push({ ...sentence, inside: inside.has(i) });
  }
  return out;
}

const POINTING = /\b(?:it|that|this|them|those|these|one|ones|there|he|she|they|him|her|same)\b/i;
const SHOWN = [
  'will-verb',
  'will-do',
  'request',
  'obligation',
  'assign',
  'leave-me',
  'i-must',
  'i-can',
  'you-will',
  'you-do',
  'mark:ask',
  'wh',
  'past',
  'hypothetical',
  'refuse',
  'accept',
  'thanks',
  'decide',
  'consent',
  'put-off',
  'unknown',
  'joke',
  'done',
  'slip',
  'mark:arrow',
  'mark:digit',
  'retract',
  'habit',
  'next-topic',
  'we',
  'i',
  'you',
  'third',
];

/** What speaks for a clause saying what the matter is. */
export function clauseFeatures(reading: Reading, odds: Float64Array, group: Group, clause: Clause, all: readonly Clause[]): Features {
  const f: Features = new Map();
  f.set('always', 1);
  f.set(clause.unit.spoken ? 'spoken' : clause.unit.source.item ? 'list' : 'prose', 1);
  f.set(clause.inside ? 'inside' : clause.index < group.units[0]! ? 'before' : 'beside', 1);
  if (clause.index === group.core) f.set('core', 1);
  f.set('odds', Math.max(-4, Math.min(5, odds[clause.index]!)));
  const rest = new Set<string>();
  const near = new Set<string>();
  for (const c of all) {
    if (c === clause) continue;
    for (const s of c.stems) {
      near.add(s);
      if (c.inside) rest.add(s);
    }
  }
  const central = sharedWeight(clause.stems, rest, reading.weight);
  const around = sharedWeight(clause.stems, near, reading.weight);
  f.set('central', Math.min(12, central.weight));
  f.set('around', Math.min(12, around.weight));
  steps(f, 'central', central.count, [1, 2, 3, 4]);
  steps(f, 'around', around.count, [1, 2, 3, 5]);
  steps(f, 'matter', clause.stems.size, [1, 2, 3, 4, 5, 7, 9, 12, 16]);
  steps(f, 'words', clause.words.length, [4, 8, 14, 20, 28, 36]);
  f.set('density', clause.stems.size / Math.max(1, clause.words.length));
  const named = namedWith(reading, group, clause.unit);
  if (named) {
    const sum = [...clause.stems].reduce((all, s) => all + (named.get(s) ?? 0), 0);
    f.set('close:words', Math.min(6, sum));
    f.set('close:density', sum / Math.max(1, clause.stems.size));
  }
  for (const c of SHOWN) if (clause.cues.has(c)) f.set(keyed('cue', c), 1);
  if (POINTING.test(clause.text)) f.set('pointing', 1);
  const names = clause.unit.mentions.filter((m) => clause.text.includes(clause.unit.text.slice(m.from, m.to))).length;
  steps(f, 'names', names, [1, 2, 3]);
  const last = group.units[group.units.length - 1]!;
  if (last - group.units[0]! > 12) {
    f.set(clause.index - group.units[0]! > 12 ? 'later-part' : 'first-part', 1);
    if (names >= 2 && clause.index - group.units[0]! > 12) f.set('wrap-up', 1);
  }
  if (clause.index > reading.units.length * 0.88) f.set('late', 1);
  if (clause.unit.dates.some((d) => d.date && clause.text.includes(d.phrase))) f.set('dated', 1);
  if (all.some((c) => c.index === clause.index && c !== clause)) f.set('one-of-several', 1);
  return f;
}

/** Clauses with how likely each says what the matter is, likeliest first. */
export function rankClauses(reading: Reading, odds: Float64Array, group: Group, model: LinearModel): { clause: Clause; p: number }[] {
  const all = clausesOf(reading, group);
  return all.map((clause) => ({ clause, p: probability(logOdds(model, clauseFeatures(reading, odds, group, clause, all))) })).sort((a, b) => b.p - a.p);
}

/** By unit, how likely its best sentence says what the matter is. */
export function bestByUnit(ranked: readonly { clause: Clause; p: number }[]): Map<number, number> {
  const out = new Map<number, number>();
  for (const { clause, p } of ranked) out.set(clause.index, Math.max(out.get(clause.index) ?? 0, p));
  return out;
}
