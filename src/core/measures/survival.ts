/** How long something lasted, and whether it ended then or was only watched until then. */
export interface Lasted {
  /** days */
  days: number;
  ended: boolean;
  /** it was watched from this day on only, and could not have ended before; left out for day 0 */
  since?: number;
}

/** A step of the curve: the share that is still open after so many days. */
export interface Step {
  days: number;
  share: number;
  /** 95 per cent interval */
  from: number;
  to: number;
  /** how many were still watched right before */
  atRisk: number;
  ended: number;
  /** how many were watched no longer, from this step to the next */
  left: number;
  /** standard error of the share, by Greenwood’s formula */
  error: number;
}

export interface Survival {
  n: number;
  ended: number;
  /** from day 0 on; one for each day on which something ended */
  steps: Step[];
  /** days after which half have ended; null while more than half are open */
  median: number | null;
  /** 95 per cent interval of the median; null on a side the curve does not reach */
  medianFrom: number | null;
  medianTo: number | null;
}

const Z = 1.959964;

/**
 * Time until something ends, with what has not ended counted for as long as it was watched (E. L. Kaplan, P. Meier, 1958).
 * The variance is M. Greenwood’s (1926); the interval is taken on the log-log scale, on which it stays between 0 and 1
 * (J. D. Kalbfleisch, R. L. Prentice, 1980). That of the median is where the interval of the curve crosses one half
 * (R. Brookmeyer, J. Crowley, 1982). What was watched from a later day on is at risk from then on alone (delayed entry).
 */
export function survivalOf(all: readonly Lasted[]): Survival {
  const by = new LastedBy();
  for (const a of all) by.add(a.days, a.ended, a.since ?? 0);
  return survivalBy(by);
}

/** How many ended, were watched no longer and began to be watched, by day: all that the estimate needs, however many there are. */
export class LastedBy {
  readonly ended = new Map<number, number>();
  readonly left = new Map<number, number>();
  readonly since = new Map<number, number>();
  n = 0;
  add(days: number, ended: boolean, since = 0): void {
    this.n++;
    const of = ended ? this.ended : this.left;
    of.set(days, (of.get(days) ?? 0) + 1);
    if (since > 0) this.since.set(since, (this.since.get(since) ?? 0) + 1);
  }
}

/** The same from numbers by day. */
export function survivalBy(by: LastedBy): Survival {
  const entries = [...by.since].sort((a, b) => a[0] - b[0]);
  let atRisk = by.n - entries.reduce((n, e) => n + e[1], 0);
  let entered = 0;
  let [share, sum] = [1, 0];
  const steps: Step[] = [{ days: 0, share: 1, from: 1, to: 1, atRisk, ended: 0, left: 0, error: 0 }];
  for (const days of [...new Set([...by.ended.keys(), ...by.left.keys()])].sort((a, b) => a - b)) {
    const [ended, left] = [by.ended.get(days) ?? 0, by.left.get(days) ?? 0];
    while (entered < entries.length && entries[entered]![0] < days) atRisk += entries[entered++]![1];
    if (ended > 0 && atRisk > 0) {
      share *= 1 - ended / atRisk;
      sum += atRisk > ended ? ended / (atRisk * (atRisk - ended)) : Number.POSITIVE_INFINITY;
      steps.push({ days, share, ...interval(share, sum), atRisk, ended, left, error: share === 0 ? 0 : share * Math.sqrt(sum) });
    } else steps.at(-1)!.left += left;
    atRisk -= ended + left;
  }
  const first = (fits: (s: Step) => boolean) => steps.find(fits)?.days ?? null;
  return { n: by.n, ended: [...by.ended.values()].reduce((a, b) => a + b, 0), steps, median: first((s) => s.share <= 0.5), medianFrom: first((s) => s.from <= 0.5), medianTo: first((s) => s.to <= 0.5) };
}

function interval(share: number, sum: number): { from: number; to: number } {
  if (share <= 0 || share >= 1) return { from: share, to: share };
  const log = Math.log(share);
  const half = (Z * Math.sqrt(sum)) / Math.abs(log);
  return { from: share ** Math.exp(half), to: share ** Math.exp(-half) };
}

/** The share still open after so many days; the curve stays where its last step left it. */
export function shareAfter(s: Pick<Survival, 'steps'>, days: number): number {
  let [low, high] = [0, s.steps.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (s.steps[middle]!.days <= days) low = middle + 1;
    else high = middle;
  }
  return s.steps[low - 1]?.share ?? 1;
}

/** Days after which half of what has ended had ended, whatever is open: too short, since what takes long is still open. */
export function naiveMedian(all: readonly Lasted[]): number | null {
  const ended = all
    .filter((a) => a.ended)
    .map((a) => a.days)
    .sort((a, b) => a - b);
  if (ended.length === 0) return null;
  const middle = ended.length >> 1;
  return ended.length % 2 ? ended[middle]! : (ended[middle - 1]! + ended[middle]!) / 2;
}
