import type { IsoDate } from '../dates/calendar.ts';
import type { CommitmentState } from '../ledger/state.ts';

/** What measuring needs to know of a commitment. */
export interface Measured {
  id: number;
  ref: string;
  project: string;
  series: string | null;
  /** ids of whoever holds it now */
  owner: readonly string[];
  state: CommitmentState;
  madeOn: IsoDate;
  /** the day it was done, dropped or merged */
  endedOn: IsoDate | null;
  due: IsoDate | null;
  /** each date it had, from the day it was given, the first first */
  dues: readonly { on: IsoDate; due: IsoDate | null }[];
  moved: number;
  /** meetings of its series it was still open in after the one it was made in */
  carried: number;
  loose: boolean;
}

/** What is counted as a promise: what was merged stands for another one. */
export const counts = (c: Measured): boolean => c.state !== 'merged' && c.state !== 'withdrawn';
