import { type CommitmentState, isOpen } from './state.ts';

// What the words of the Ledger mean, here and nowhere else. Each word that is counted without being read has a twin in SQL,
// `src/server/ledger/predicates.ts`; a test holds that both agree.

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

/** A commitment that lacks an owner or a date stays flagged until it has both, or somebody has said that it needs no date. */
export function isLoose(s: { owner: readonly unknown[]; due: string | null; state: CommitmentState; undated: boolean }): boolean {
  return isOpen(s.state) && (s.owner.length === 0 || (s.due === null && !s.undated));
}

/** Loose and in sight. */
export const countsAsLoose = (c: Counted, today: string) => countsAsOpen(c, today) && isLoose(c);

/** Due: counts as open, and its day has come or passed. */
export const isDue = (c: Pick<Counted, 'state' | 'putOff' | 'due'>, today: string) => countsAsOpen(c, today) && c.due !== null && c.due <= today;

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
