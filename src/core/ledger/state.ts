import { type LedgerEvent, standingEvents } from './events.ts';

export const STATES = ['open', 'blocked', 'done', 'dropped', 'merged', 'withdrawn'] as const;
export type CommitmentState = (typeof STATES)[number];

/** Where a commitment stands after all that happened to it. */
export interface Standing {
  text: string;
  owner: string[];
  due: string | null;
  state: CommitmentState;
  madeOn: string;
  /** the day it was done, dropped, or merged into another */
  endedOn: string | null;
  /** how often its date was moved after it had one */
  moved: number;
  handedOver: number;
  /** the last day anybody said or answered anything of it; letters that went out do not count */
  lastOn: string;
  /** the last day it was handed over */
  handedOn: string | null;
  /** the last day its owner was written to about it */
  writtenOn: string | null;
  /** a letter asked its owner to confirm, and nothing has been heard since */
  awaiting: boolean;
  /** out of sight until a day, or `backlog`; null while it is at hand */
  putOff: string | null;
  /** the commitment it waits for, while it waits */
  waitsFor: number | null;
  /** somebody said that it needs no date */
  undated: boolean;
}

/**
 * Folds a commitment's events, in the order they were written down, into its present state.
 * A commitment whose `made` was taken back is withdrawn: it keeps its reference and leaves the Ledger.
 *
 * @throws Error when there is no event at all, since such a commitment was never made
 */
export function standingOf(events: readonly LedgerEvent[]): Standing {
  const first = events[0];
  if (!first) throw new Error('a commitment has at least the event that made it');
  const standing = standingEvents(events);
  const made = standing.find((e) => e.kind === 'made');
  const now: Standing = {
    text: (made ?? first).data.text ?? '',
    owner: (made ?? first).data.owner ?? [],
    due: (made ?? first).data.due ?? null,
    state: made ? 'open' : 'withdrawn',
    madeOn: (made ?? first).on,
    endedOn: null,
    moved: 0,
    handedOver: 0,
    lastOn: (made ?? first).on,
    handedOn: null,
    writtenOn: null,
    awaiting: false,
    putOff: null,
    waitsFor: null,
    undated: false,
  };
  if (!made) return now;
  for (const e of standing) {
    // putting something off is housekeeping, no news of it, and so is saying that it needs no date
    if (e.kind === 'no date') {
      now.undated = true;
      continue;
    }
    if (e.kind === 'put off' || e.kind === 'taken up') {
      now.putOff = e.kind === 'put off' ? (e.data.until ?? 'backlog') : null;
      continue;
    }
    if (e.kind === 'merged') {
      if (e.data.into !== undefined) {
        now.state = 'merged';
        now.endedOn = e.on;
        now.putOff = null;
      }
      continue;
    }
    if (e.kind === 'written') {
      now.writtenOn = e.on;
      if (e.data.asks) now.awaiting = true;
      continue;
    }
    if (e.on > now.lastOn) now.lastOn = e.on;
    now.awaiting = false;
    switch (e.kind) {
      case 'moved':
        if (now.due !== null && e.data.due !== now.due) now.moved++;
        now.due = e.data.due ?? null;
        now.undated = false;
        if (e.data.owner) now.owner = e.data.owner;
        if (now.state === 'blocked') now.state = 'open';
        break;
      case 'handed over':
        now.owner = e.data.owner ?? now.owner;
        // whoever takes it over may have said by when
        if (e.data.due !== undefined) {
          if (now.due !== null && e.data.due !== now.due) now.moved++;
          now.due = e.data.due;
          now.undated = false;
        }
        now.handedOver++;
        now.handedOn = e.on;
        break;
      case 'reworded':
        now.text = e.data.text ?? now.text;
        break;
      case 'blocked':
        now.state = 'blocked';
        now.endedOn = null;
        now.waitsFor = e.data.waitsFor ?? null;
        break;
      case 'done':
      case 'dropped':
        now.state = e.kind;
        now.endedOn = e.on;
        now.putOff = null;
        break;
      case 'reopened':
        now.state = 'open';
        now.endedOn = null;
        break;
      case 'restated':
        if (now.state === 'blocked' && e.data.reason !== 'still blocked') now.state = 'open';
        break;
      default:
        break;
    }
  }
  if (now.state !== 'blocked') now.waitsFor = null;
  return now;
}

export function isOpen(state: CommitmentState): boolean {
  return state === 'open' || state === 'blocked';
}

/** The states a commitment ends in; it may be reopened from each. */
export const ENDED = ['done', 'dropped', 'merged'] as const satisfies readonly CommitmentState[];
export type Ending = (typeof ENDED)[number];

export function isEnded(state: CommitmentState): state is Ending {
  return (ENDED as readonly CommitmentState[]).includes(state);
}

/**
 * Whether `from` would wait for itself if it waited for `on`.
 * @param waits what each commitment waits for
 */
export function wouldCircle(from: number, on: number, waits: ReadonlyMap<number, number>): boolean {
  const seen = new Set<number>();
  for (let at: number | undefined = on; at !== undefined && !seen.has(at); at = waits.get(at)) {
    if (at === from) return true;
    seen.add(at);
  }
  return false;
}
