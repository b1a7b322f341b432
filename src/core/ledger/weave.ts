import { daysBetween, type IsoDate } from '../dates/calendar.ts';
import { type EventKind, type LedgerEvent, standingEvents } from './events.ts';
import { type Ending, isEnded, isOpen, standingOf } from './state.ts';

/** A commitment with all that happened to it. */
export interface WovenCommitment {
  id: number;
  ref: string;
  events: readonly LedgerEvent[];
  carried: number;
}

/** A piece of a thread that looks the same all along. */
export interface Stretch {
  from: IsoDate;
  to: IsoDate;
  look: 'plain' | 'late' | 'waiting' | 'late and waiting';
}

export interface Knot {
  on: IsoDate;
  kind: EventKind;
  /** id of the event */
  event: number;
}

/** One row of the Weave: a commitment, or the part of its life in which one person held it. */
export interface WeaveRow {
  key: string;
  id: number;
  ref: string;
  text: string;
  /** who holds it in this row; ids, empty while it is nobody's */
  holder: string[];
  stretches: Stretch[];
  knots: Knot[];
  /** the day it is due, while it is open and in its last holder's row */
  due: IsoDate | null;
  /** days late today, 0 when it is not */
  late: number;
  open: boolean;
  ended: Ending | null;
  /** key of the row it went to, and the day */
  handedTo: { row: string; on: IsoDate } | null;
}

export interface WeaveGroup {
  /** id of the holder, `nobody`, or the empty string where rows are not grouped */
  holder: string;
  rows: WeaveRow[];
}

export type WeaveOrder = 'owner' | 'age' | 'due' | 'carried';

/**
 * Threads of commitments, in groups.
 *
 * @param order  by owner every holder has a group and a hand-over crosses from one to the next; otherwise one group
 * @param today  where open threads end; the day after which nothing has happened yet
 * @param closed whether ended threads are shown
 */
export function weave(commitments: readonly WovenCommitment[], order: WeaveOrder, today: IsoDate, closed: boolean): WeaveGroup[] {
  const threads = commitments.map((c) => ({ c, now: standingOf(c.events) })).filter(({ now }) => now.state !== 'withdrawn' && (closed || isOpen(now.state)));
  const age = (t: (typeof threads)[number]) => daysBetween(t.now.madeOn, t.now.endedOn ?? today);
  const number = (t: (typeof threads)[number]) => Number(t.c.ref.slice(2));
  if (order !== 'owner') {
    const sorted = threads.toSorted((a, b) => (order === 'age' ? age(b) - age(a) : order === 'carried' ? b.c.carried - a.c.carried : (a.now.due ?? '9999') < (b.now.due ?? '9999') ? -1 : 1) || number(a) - number(b));
    return [{ holder: '', rows: sorted.map(({ c }) => rowsOf(c, today, false)[0]!) }];
  }
  const groups = new Map<string, WeaveRow[]>();
  for (const { c } of threads.toSorted((a, b) => number(a) - number(b))) {
    for (const row of rowsOf(c, today, true)) {
      const holder = row.holder.join(' ') || NOBODY;
      const list = groups.get(holder);
      if (list) list.push(row);
      else groups.set(holder, [row]);
    }
  }
  return [...groups].map(([holder, rows]) => ({ holder, rows })).sort((a, b) => Number(a.holder === NOBODY) - Number(b.holder === NOBODY) || earliest(a) - earliest(b) || (a.holder < b.holder ? -1 : 1));
}

export const NOBODY = 'nobody';
const earliest = (g: WeaveGroup) => Math.min(...g.rows.map((r) => Number(r.ref.slice(2))));

/** The rows of one commitment: one, or one for each holder it had. */
function rowsOf(c: WovenCommitment, today: IsoDate, byHolder: boolean): WeaveRow[] {
  const events = standingEvents(c.events);
  const now = standingOf(c.events);
  const end = now.endedOn ?? today;
  const rows: WeaveRow[] = [];
  let due: IsoDate | null = null;
  let waiting = false;
  let at: IsoDate | null = null;
  const begin = (holder: string[]): WeaveRow => ({ key: `${c.ref}.${rows.length}`, id: c.id, ref: c.ref, text: now.text, holder, stretches: [], knots: [], due: null, late: 0, open: false, ended: null, handedTo: null });
  let row = begin([]);
  const until = (to: IsoDate) => {
    if (at !== null && to > at) row.stretches.push(...stretchesBetween(at, to, due, waiting));
    at = to;
  };
  for (const e of events) {
    const on = e.on > end && e.kind !== 'reopened' ? end : e.on;
    if (e.kind === 'made') {
      row = begin(e.data.owner ?? []);
      rows.push(row);
      at = on;
      due = e.data.due ?? null;
    } else {
      until(on);
      const to = e.kind === 'handed over' || (e.kind === 'moved' && e.data.owner) ? e.data.owner : undefined;
      if (byHolder && to && to.join() !== row.holder.join()) {
        const next = begin(to);
        row.handedTo = { row: next.key, on };
        row = next;
        rows.push(row);
      } else if (to) row.holder = to;
    }
    if (e.kind === 'moved') due = e.data.due ?? null;
    if (e.kind === 'blocked') waiting = true;
    else if (e.kind === 'moved' || e.kind === 'done' || e.kind === 'dropped' || e.kind === 'merged' || e.kind === 'reopened' || (e.kind === 'restated' && e.data.reason !== 'still blocked')) waiting = false;
    row.knots.push({ on, kind: e.kind, event: e.id });
  }
  until(end);
  row.open = isOpen(now.state);
  row.due = row.open ? now.due : null;
  row.late = row.open && now.due !== null && now.due < today ? daysBetween(now.due, today) : 0;
  row.ended = isEnded(now.state) ? now.state : null;
  return rows;
}

/** A stretch of time in one or two pieces: before the due date, and after it. */
function stretchesBetween(from: IsoDate, to: IsoDate, due: IsoDate | null, waiting: boolean): Stretch[] {
  const look = (late: boolean): Stretch['look'] => (late ? (waiting ? 'late and waiting' : 'late') : waiting ? 'waiting' : 'plain');
  if (due === null || due >= to) return [{ from, to, look: look(false) }];
  if (due <= from) return [{ from, to, look: look(true) }];
  return [
    { from, to: due, look: look(false) },
    { from: due, to, look: look(true) },
  ];
}

/** How many commitments were made and how many ended from one sitting up to the next. */
export function madeAndEnded(commitments: readonly WovenCommitment[], sittings: readonly IsoDate[]): { made: number; ended: number }[] {
  const out = sittings.map(() => ({ made: 0, ended: 0 }));
  const column = (day: IsoDate) => {
    let k = -1;
    for (const [i, s] of sittings.entries()) if (s <= day) k = i;
    return Math.max(0, k);
  };
  for (const c of commitments) {
    const now = standingOf(c.events);
    if (now.state === 'withdrawn' || out.length === 0) continue;
    out[column(now.madeOn)]!.made++;
    if (now.endedOn) out[column(now.endedOn)]!.ended++;
  }
  return out;
}
