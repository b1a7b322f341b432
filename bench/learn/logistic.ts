import { type Features, type LinearModel, softmax } from '../../src/core/sift/linear.ts';

export interface Example {
  x: Features;
  y: 0 | 1;
  /** how much the example counts; 1 unless said otherwise */
  weight?: number;
}

export interface FitOptions {
  /** strength of the L2 penalty, per example */
  l2?: number;
  epochs?: number;
  /** names seen in fewer examples are left out */
  least?: number;
}

/** Small deterministic generator (mulberry32), so that learning twice gives the same weights. */
export function random(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * Logistic regression with an L2 penalty, fitted by AdaGrad (J. Duchi, E. Hazan, Y. Singer, 2011) over shuffled
 * examples. Deterministic.
 */
export function fitLogistic(examples: readonly Example[], { l2 = 1e-4, epochs = 14, least = 3 }: FitOptions = {}): LinearModel {
  const counts = new Map<string, number>();
  for (const e of examples) for (const k of e.x.keys()) counts.set(k, (counts.get(k) ?? 0) + 1);
  const index = new Map<string, number>();
  for (const [k, n] of counts) if (n >= least) index.set(k, index.size);
  const names = [...index.keys()];
  const rows = examples.map((e) => {
    const ids: number[] = [];
    const values: number[] = [];
    for (const [k, v] of e.x) {
      const i = index.get(k);
      if (i !== undefined && v !== 0) {
        ids.push(i);
        values.push(v);
      }
    }
    return { ids, values, y: e.y, weight: e.weight ?? 1 };
  });
  const w = new Float64Array(names.length);
  const sum = new Float64Array(names.length);
  const g2 = new Float64Array(names.length).fill(1e-2);
  const positives = examples.filter((e) => e.y === 1).length;
  let bias = Math.log((positives + 1) / (examples.length - positives + 1));
  let bias2 = 1e-2;
  let biasSum = 0;
  let averaged = 0;
  const rand = random(17);
  const order = rows.map((_, i) => i);
  for (let epoch = 0; epoch < epochs; epoch++) {
    shuffle(order, rand);
    const rate = 0.15 / (1 + epoch * 0.3);
    for (const at of order) {
      const r = rows[at]!;
      let s = bias;
      for (let k = 0; k < r.ids.length; k++) s += w[r.ids[k]!]! * r.values[k]!;
      const p = 1 / (1 + Math.exp(-Math.max(-30, Math.min(30, s))));
      const d = (p - r.y) * r.weight;
      bias2 += d * d;
      bias -= (rate * d) / Math.sqrt(bias2);
      for (let k = 0; k < r.ids.length; k++) {
        const id = r.ids[k]!;
        const g = d * r.values[k]! + l2 * w[id]!;
        g2[id]! += g * g;
        w[id]! -= (rate * g) / Math.sqrt(g2[id]!);
      }
    }
    if (epoch >= epochs / 2) {
      for (let k = 0; k < w.length; k++) sum[k]! += w[k]!;
      biasSum += bias;
      averaged++;
    }
  }
  return { bias: Math.round((biasSum / averaged) * 1000) / 1000, weights: rounded(names, sum, averaged) };
}

function shuffle(order: number[], rand: () => number): void {
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(rand() * (i + 1));
    [order[i], order[j]] = [order[j]!, order[i]!];
  }
}

function rounded(names: readonly string[], sum: Float64Array, averaged: number): Record<string, number> {
  const weights: Record<string, number> = {};
  names.forEach((name, k) => {
    const v = Math.round((sum[k]! / averaged) * 1000) / 1000;
    if (Math.abs(v) >= 0.01) weights[name] = v;
  });
  return weights;
}

/** Alternatives of which one, or some equally, were right. */
export interface Choice {
  options: readonly Features[];
  /** share of each option, summing to one */
  right: readonly number[];
  weight?: number;
}

/**
 * Conditional logit (D. McFadden, 1974): weights under which the right one of several alternatives is the likeliest,
 * fitted as {@link fitLogistic} is. What all alternatives share cancels out. The model has no bias.
 */
export function fitChoice(choices: readonly Choice[], { l2 = 1e-3, epochs = 14, least = 3 }: FitOptions = {}): LinearModel {
  const counts = new Map<string, number>();
  for (const c of choices) for (const x of c.options) for (const k of x.keys()) counts.set(k, (counts.get(k) ?? 0) + 1);
  const index = new Map<string, number>();
  for (const [k, n] of counts) if (n >= least) index.set(k, index.size);
  const names = [...index.keys()];
  const rows = choices.map((c) => ({
    options: c.options.map((x) => [...x].flatMap(([k, v]) => (index.has(k) && v !== 0 ? [[index.get(k)!, v] as const] : []))),
    right: c.right,
    weight: c.weight ?? 1,
  }));
  const w = new Float64Array(names.length);
  const sum = new Float64Array(names.length);
  const g2 = new Float64Array(names.length).fill(1e-2);
  const rand = random(17);
  const order = rows.map((_, i) => i);
  let averaged = 0;
  for (let epoch = 0; epoch < epochs; epoch++) {
    shuffle(order, rand);
    const rate = 0.15 / (1 + epoch * 0.3);
    for (const at of order) {
      const { options, right, weight } = rows[at]!;
      const p = softmax(options.map((x) => x.reduce((s, [k, v]) => s + w[k]! * v, 0)));
      const gradient = new Map<number, number>();
      options.forEach((x, i) => {
        const d = (p[i]! - right[i]!) * weight;
        for (const [k, v] of x) gradient.set(k, (gradient.get(k) ?? 0) + d * v);
      });
      for (const [k, d] of gradient) {
        const g = d + l2 * w[k]!;
        g2[k]! += g * g;
        w[k]! -= (rate * g) / Math.sqrt(g2[k]!);
      }
    }
    if (epoch >= epochs / 2) {
      for (let k = 0; k < w.length; k++) sum[k]! += w[k]!;
      averaged++;
    }
  }
  return { bias: 0, weights: rounded(names, sum, averaged) };
}
