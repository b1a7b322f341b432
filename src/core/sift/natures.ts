import { unitFeatures, type Vocabulary } from './features.ts';
import { raiseByForm } from './forms.ts';
import { type Features, type LinearModel, logOdds } from './linear.ts';
import type { Reading } from './reading.ts';
import { NATURES, type Nature, type Natures } from './shapes.ts';

export interface NatureModels {
  vocabulary: string[];
  /** from a unit's own features */
  first: Record<Nature, LinearModel>;
  /** from the first judgement of a unit and its neighbours, and from the close reader where there is one */
  second: Record<Nature, LinearModel>;
}

export function firstOdds(models: NatureModels, features: readonly Features[]): Record<Nature, Float64Array> {
  return Object.fromEntries(NATURES.map((n) => [n, Float64Array.from(features, (f) => logOdds(models.first[n], f))])) as Record<Nature, Float64Array>;
}

/** Second look at a unit: what it and its neighbours were taken for at first. */
export function secondFeatures(reading: Reading, first: Record<Nature, Float64Array>, i: number): Features {
  const f: Features = new Map();
  const clip = (x: number) => Math.max(-6, Math.min(6, x));
  for (const n of NATURES) {
    f.set(`first:${n}`, clip(first[n][i]!));
    for (const d of [-2, -1, 1, 2]) {
      const x = first[n][i + d];
      if (x !== undefined) f.set(`first:${n}${d > 0 ? '+' : ''}${d}`, clip(x));
    }
  }
  const u = reading.units[i]!;
  f.set(u.spoken ? 'spoken' : 'notes', 1);
  if (u.heading) f.set('heading', 1);
  const nature = reading.close?.nature;
  if (nature) {
    for (let k = 0; k < 6; k++) f.set(`close:${k}`, clip(nature[i]?.[k] ?? -4));
  }
  return f;
}

const vocabularies = new WeakMap<NatureModels, Vocabulary>();

/** What every unit is, as log-odds for each nature. */
export function readNatures(reading: Reading, models: NatureModels): Natures {
  let vocabulary = vocabularies.get(models);
  if (!vocabulary) {
    vocabulary = new Set(models.vocabulary);
    vocabularies.set(models, vocabulary);
  }
  const features = unitFeatures(reading, vocabulary);
  const first = firstOdds(models, features);
  const odds = Object.fromEntries(NATURES.map((n) => [n, new Float64Array(features.length)])) as Record<Nature, Float64Array>;
  for (let i = 0; i < features.length; i++) {
    const second = secondFeatures(reading, first, i);
    for (const n of NATURES) odds[n][i] = logOdds(models.second[n], second);
  }
  raiseByForm(reading.units, odds);
  return { features, odds };
}
