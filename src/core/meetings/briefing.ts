import type { IsoDate } from '../dates/calendar.ts';
import { type LedgerEvent, standingEvents } from '../ledger/events.ts';
import { isOpen, type Standing } from '../ledger/state.ts';

/** A commitment as a briefing sees it. */
export interface BriefingItem {
  id: number;
  ref: string;
  now: Standing;
  events: readonly LedgerEvent[];
}

export interface BriefingInput {
  today: IsoDate;
  /** the last time these people met; null when they never did */
  since: IsoDate | null;
  me: string;
  /** who one is going to meet */
  them: readonly string[];
  commitments: readonly BriefingItem[];
  decisions: readonly { ref: string; text: string; on: IsoDate }[];
  questions: readonly { ref: string; text: string; on: IsoDate; open: boolean }[];
}

export interface Promised {
  id: number;
  ref: string;
  text: string;
  owner: string[];
  due: IsoDate | null;
  late: boolean;
  waiting: boolean;
  /** it was done, and when */
  doneOn: IsoDate | null;
}

/** What one has to know before one meets somebody. */
export interface Briefing {
  since: IsoDate | null;
  theirs: Promised[];
  mine: Promised[];
  /** of theirs and mine, what is late */
  late: Promised[];
  /** theirs and mine that ended since last time */
  doneSince: Promised[];
  /** what changed since last time: reference and words such as `moved to 2026-03-13` */
  changed: { ref: string; text: string; kind: LedgerEvent['kind']; on: IsoDate; due: IsoDate | null }[];
  decided: { ref: string; text: string; on: IsoDate }[];
  /** questions left open */
  parked: { ref: string; text: string; on: IsoDate }[];
}

/** Both sides' promises side by side, what is late, what happened since last time, what was decided and what was parked. */
export function briefing(input: BriefingInput): Briefing {
  const { today, since, me } = input;
  const them = new Set(input.them.filter((t) => t !== me));
  const view = (c: BriefingItem): Promised => ({ id: c.id, ref: c.ref, text: c.now.text, owner: c.now.owner, due: c.now.due, late: isOpen(c.now.state) && c.now.due !== null && c.now.due < today, waiting: c.now.state === 'blocked', doneOn: c.now.state === 'done' ? c.now.endedOn : null });
  const byDate = (a: Promised, b: Promised) => ((a.due ?? '9999') < (b.due ?? '9999') ? -1 : (a.due ?? '9999') > (b.due ?? '9999') ? 1 : a.id - b.id);
  const open = input.commitments.filter((c) => isOpen(c.now.state));
  const theirs = open.filter((c) => c.now.owner.some((o) => them.has(o)));
  const mine = open.filter((c) => c.now.owner.includes(me));
  const between = input.commitments.filter((c) => c.now.owner.some((o) => them.has(o) || o === me));
  const after = (day: IsoDate | null) => day !== null && (since === null || day > since);
  const changed = between.flatMap((c) =>
    standingEvents(c.events)
      .filter((e) => after(e.on) && (e.kind === 'moved' || e.kind === 'handed over' || e.kind === 'blocked' || e.kind === 'reopened'))
      .map((e) => ({ ref: c.ref, text: c.now.text, kind: e.kind, on: e.on, due: e.data.due ?? null })),
  );
  return {
    since,
    theirs: theirs.map(view).sort(byDate),
    mine: mine.map(view).sort(byDate),
    late: [...new Set([...theirs, ...mine])]
      .map(view)
      .filter((p) => p.late)
      .sort(byDate),
    doneSince: between
      .filter((c) => c.now.state === 'done' && after(c.now.endedOn))
      .map(view)
      .sort(byDate),
    changed: changed.sort((a, b) => (a.on < b.on ? -1 : 1)),
    decided: input.decisions.filter((d) => after(d.on) || d.on === since),
    parked: input.questions.filter((q) => q.open).map(({ ref, text, on }) => ({ ref, text, on })),
  };
}
