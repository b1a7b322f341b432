import type { IsoDate } from '../dates/calendar.ts';
import { listOf, shortDay } from '../language/days.ts';
import { daysAway, relativeDay } from '../ledger/due.ts';
import { isOpen } from '../ledger/state.ts';
import type { CommitmentOnRecord, Happened, OnRecord, Source } from './on-record.ts';

/** Whoever holds a commitment, by name; `you` for whoever asks. */
export function holders(c: CommitmentOnRecord, me: string): string {
  return c.owner.length === 0 ? 'nobody' : listOf(c.owner.map((o) => (o.id === me ? 'you' : o.name)));
}

/** `due Fri 6 Mar, tomorrow`, or that it has no date. */
export const dueWords = (due: IsoDate | null, today: IsoDate): string => (due === null ? 'no date' : `due ${shortDay(due, today)}, ${relativeDay(due, today)}`);

/** How a commitment stands, as the end of a sentence: `is done since Thu 26 Feb`, `is open, due Fri 6 Mar, tomorrow`. */
export function standing(c: CommitmentOnRecord, today: IsoDate): string {
  if (c.state === 'done') return `was done on ${shortDay(c.endedOn!, today)}${c.due && c.endedOn! > c.due ? `, after its date ${shortDay(c.due, today)}` : ''}`;
  if (c.state === 'dropped') return `was dropped on ${shortDay(c.endedOn!, today)}`;
  if (c.state === 'merged') return `went into another commitment on ${shortDay(c.endedOn!, today)}`;
  const off = c.putOff === null ? '' : c.putOff === 'backlog' ? ', in the backlog' : `, put off until ${shortDay(c.putOff, today)}`;
  return `is ${c.state === 'blocked' ? 'waiting' : 'open'}, ${dueWords(c.due, today)}${off}`;
}

/** Dates that were promised, the first first: when each was said, and for which day. */
export function promises(c: CommitmentOnRecord): { on: IsoDate; due: IsoDate | null; source: Source }[] {
  return c.history.filter((h) => (h.kind === 'made' || h.kind === 'moved' || h.kind === 'handed over') && h.due !== undefined).map((h) => ({ on: h.on, due: h.due ?? null, source: h.source }));
}

export const made = (c: CommitmentOnRecord): Happened | undefined => c.history.find((h) => h.kind === 'made');

/** The last thing that was said of it, and where. */
export const lastSaid = (c: CommitmentOnRecord): Happened | undefined => c.history.findLast((h) => h.kind !== 'written' && h.kind !== 'put off' && h.kind !== 'taken up');

/** What its present holder took it on with: the hand-over, or the beginning. */
export const takenOn = (c: CommitmentOnRecord): Happened | undefined => c.history.findLast((h) => h.kind === 'handed over') ?? made(c);

/** Open ones first, late before those to come, then the newest. */
export function byUrgency(a: CommitmentOnRecord, b: CommitmentOnRecord): number {
  const open = Number(isOpen(b.state)) - Number(isOpen(a.state));
  if (open !== 0) return open;
  if (isOpen(a.state)) return (a.due ?? '9') < (b.due ?? '9') ? -1 : 1;
  return (a.endedOn ?? '') > (b.endedOn ?? '') ? -1 : 1;
}

/** `Thu 5 Mar, today` for the day something was. */
export const dayWords = (on: IsoDate, today: IsoDate): string => `${shortDay(on, today)}, ${daysAway(on, today)}`;

/** The same words for whoever asks: `you`, or the name. */
export const nameOf = (id: string, r: Pick<OnRecord, 'me' | 'names'>): string => (id === r.me ? 'you' : (r.names.get(id) ?? id));
