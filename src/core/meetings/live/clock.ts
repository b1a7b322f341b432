/** Something that happened in a meeting that is held, in the order it happened. */
export interface Mark {
  kind: 'begin' | 'point' | 'tick' | 'untick' | 'end' | 'again';
  /** the point of the agenda it is about */
  item: number | null;
  /** a moment, in milliseconds */
  at: number;
}

/** A point of the agenda as the clock sees it; times in seconds. */
export interface Timed {
  item: number;
  planned: number;
  used: number;
  /** what is left for it: of its own plan while it is talked about, of what remains of the meeting while it is ahead */
  left: number;
  done: boolean;
  current: boolean;
}

export interface Clock {
  running: boolean;
  /** seconds since it began, without the time it stood still */
  gone: number;
  /** seconds the meeting was planned for */
  planned: number;
  points: Timed[];
}

/**
 * How a meeting stands: what each point has used, and where less is left than the points ahead
 * were given, it is spread over them by that. Points that are ticked off get none.
 * @param points  of the agenda in their order, with the minutes each was given
 * @param minutes the meeting was planned for
 */
export function clockOf(points: readonly { id: number; minutes: number }[], marks: readonly Mark[], minutes: number, now: number): Clock {
  const used = new Map<number, number>();
  const done = new Set<number>();
  let current: number | null = null;
  let since: number | null = null;
  let gone = 0;
  const until = (at: number) => {
    if (since === null) return;
    const seconds = Math.max(0, (at - since) / 1000);
    gone += seconds;
    if (current !== null) used.set(current, (used.get(current) ?? 0) + seconds);
    since = at;
  };
  for (const m of marks) {
    until(m.at);
    if (m.kind === 'begin' || m.kind === 'again') since = m.at;
    if (m.kind === 'point') current = m.item;
    if (m.kind === 'tick' && m.item !== null) done.add(m.item);
    if (m.kind === 'untick' && m.item !== null) done.delete(m.item);
    if (m.kind === 'end') since = null;
  }
  const running = since !== null;
  until(now);
  const planned = minutes * 60;
  const ahead = points.filter((p) => !done.has(p.id));
  // what a point has used of its own plan is not wanted again
  const wants = (p: { id: number; minutes: number }) => Math.max(0, p.minutes * 60 - (used.get(p.id) ?? 0));
  const wanted = ahead.reduce((n, p) => n + wants(p), 0);
  const remains = Math.max(0, planned - gone);
  // nobody gets more than they asked for: what is left over is free
  const share = wanted > 0 ? Math.min(1, remains / wanted) : 0;
  return {
    running,
    gone,
    planned,
    points: points.map((p) => ({
      item: p.id,
      planned: p.minutes * 60,
      used: used.get(p.id) ?? 0,
      left: done.has(p.id) ? 0 : wants(p) * share,
      done: done.has(p.id),
      current: p.id === current && !done.has(p.id),
    })),
  };
}

/** Seconds as a clock shows them: `3:28`, `1:04:10`; what is over has a sign. */
export function clockWords(seconds: number): string {
  const s = Math.round(Math.abs(seconds));
  const [h, m, rest] = [Math.floor(s / 3600), Math.floor((s % 3600) / 60), s % 60];
  const two = (n: number) => String(n).padStart(2, '0');
  return `${seconds < -0.5 ? '+' : ''}${h ? `${h}:${two(m)}` : m}:${two(rest)}`;
}
