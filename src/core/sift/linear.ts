/** A feature vector: what is there, and how much of it. Absent names are zero. */
export type Features = Map<string, number>;

/** A logistic model: log-odds are the bias and the sum of weight times value. */
export interface LinearModel {
  bias: number;
  weights: Record<string, number>;
}

/** Log-odds the model gives to a feature vector; names it has no weight for count nothing. */
export function logOdds(model: LinearModel, features: Features): number {
  let sum = model.bias;
  for (const [name, value] of features) {
    const w = model.weights[name];
    if (w !== undefined) sum += w * value;
  }
  return sum;
}

export function probability(odds: number): number {
  return 1 / (1 + Math.exp(-Math.max(-30, Math.min(30, odds))));
}

/** Likelihoods of alternatives from their log-odds; they sum to one. */
export function softmax(odds: readonly number[]): number[] {
  const most = Math.max(...odds);
  const e = odds.map((o) => Math.exp(o - most));
  const sum = e.reduce((s, x) => s + x, 0);
  return e.map((x) => x / sum);
}

/** Features that moved a judgement up most, strongest first: what a reason can be told from. */
export function strongest(model: LinearModel, features: Features, count: number): string[] {
  return [...features]
    .map(([name, value]) => ({ name, gain: (model.weights[name] ?? 0) * value }))
    .filter((f) => f.gain > 0.05)
    .sort((a, b) => b.gain - a.gain)
    .slice(0, count)
    .map((f) => f.name);
}

const stepNames = new Map<string, Map<number, string>>();

/** Adds a number as overlapping steps, so that a linear model can bend with it. */
export function steps(features: Features, name: string, value: number, bounds: readonly number[]): void {
  let names = stepNames.get(name);
  if (!names) {
    names = new Map();
    stepNames.set(name, names);
  }
  for (const b of bounds) {
    if (value < b) continue;
    let key = names.get(b);
    if (key === undefined) {
      key = `${name}>=${b}`;
      names.set(b, key);
    }
    features.set(key, 1);
  }
}

const joined = new Map<string, Map<string, string>>();

/** `prefix:name`, made once: names put together anew for every feature cost more than all the sums. */
export function keyed(prefix: string, name: string): string {
  let names = joined.get(prefix);
  if (!names) {
    names = new Map();
    joined.set(prefix, names);
  }
  let key = names.get(name);
  if (key === undefined) {
    key = `${prefix}:${name}`;
    if (names.size > 20_000) names.clear();
    names.set(name, key);
  }
  return key;
}
