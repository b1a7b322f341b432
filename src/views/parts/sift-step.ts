/** How far the finds of a meeting are settled. */
export interface Settling {
  finds: number;
  left: number;
  /** held open after they were settled */
  loose: number;
}

/** Name of the event by which a view says how many more, or fewer, there are of each than when the page was made. */
export const SETTLING_CHANGED = 'ottik:settling';

/** What the step Sift says of itself. */
export function siftStepWords({ finds, left, loose }: Settling): string {
  if (left) return `${left} of ${finds} finds left`;
  return `${finds} finds settled${loose ? `, ${loose} loose` : ''}`;
}

const SIFT_FROM = 240;
const SIFT_LONG = 128;

/** The line under the steps: how far it is drawn through Sift, and the dashes that are left. */
export function siftStepLine({ finds, left }: Pick<Settling, 'finds' | 'left'>): { drawn: string; ahead: string } {
  const to = SIFT_FROM + SIFT_LONG * (finds ? (finds - left) / finds : 1);
  return { drawn: `M${SIFT_FROM} 8H${to}`, ahead: `M${to} 8H738` };
}
