import { type CommitmentState, isLoose, isOpen } from './state.ts';

/** What counting needs to know of a commitment. */
export interface Counted {
  state: CommitmentState;
  owner: readonly unknown[];
  due: string | null;
  undated: boolean;
  /** out of sight until a day, or `backlog` */
  putOff: string | null;
}

/** Figures that mean the same on every page. */
export interface Figures {
  open: number;
  late: number;
  loose: number;
  putOff: number;
  backlog: number;
}

/** Out of sight: put off to a day that has not come, or in the backlog. On its day it is back. */
export const isPutOff = (c: Pick<Counted, 'putOff'>, today: string) => c.putOff !== null && (c.putOff === 'backlog' || c.putOff > today);

/** Counts as open: neither ended nor out of sight. */
export const countsAsOpen = (c: Pick<Counted, 'state' | 'putOff'>, today: string) => isOpen(c.state) && !isPutOff(c, today);

/** Late: counts as open, and its date has passed. */
export const isLate = (c: Pick<Counted, 'state' | 'putOff' | 'due'>, today: string) => countsAsOpen(c, today) && c.due !== null && c.due < today;

/** Loose and in sight. */
export const countsAsLoose = (c: Counted, today: string) => countsAsOpen(c, today) && isLoose(c);

/** The figures of some commitments; put off and backlog are counted apart from open. */
export function figuresOf(commitments: readonly Counted[], today: string): Figures {
  const count = (fits: (c: Counted) => boolean) => commitments.reduce((n, c) => n + (fits(c) ? 1 : 0), 0);
  return {
    open: count((c) => countsAsOpen(c, today)),
    late: count((c) => isLate(c, today)),
    loose: count((c) => countsAsLoose(c, today)),
    putOff: count((c) => isOpen(c.state) && isPutOff(c, today) && c.putOff !== 'backlog'),
    backlog: count((c) => isOpen(c.state) && c.putOff === 'backlog'),
  };
}
