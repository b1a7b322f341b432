import type { IsoDate } from '../dates/calendar.ts';
import { shortDay } from '../language/days.ts';

export const POINT_KINDS = ['review', 'own', 'carried', 'standing', 'question', 'read-back'] as const;
export type PointKind = (typeof POINT_KINDS)[number];

/** A point of an agenda. */
export interface Point {
  kind: PointKind;
  title: string;
  minutes: number;
  /** why it is there, in a sentence */
  why: string;
  /** what it is about: a question’s reference, or the number of the point that was not reached */
  about: string | null;
}

/** A commitment that is brought to a meeting. */
export interface Brought {
  id: number;
  owner: string[];
  late: boolean;
  /** how likely it is to miss its date, where that can be told */
  miss: number | null;
}

export interface AgendaInput {
  today: IsoDate;
  /** the meeting was planned for so long */
  minutes: number;
  open: readonly Brought[];
  questions: readonly { ref: string; text: string; on: IsoDate }[];
  /** points of the last meeting that were not reached */
  missed: readonly { id: number; title: string; minutes: number; on: IsoDate }[];
  standing: readonly { title: string; minutes: number }[];
}

const QUESTION = 4;
const READ_BACK = 5;
/** Minutes a late commitment takes, and one that is not. */
const [LATE, OTHER] = [1.5, 0.5];
/** The review takes at most this part of a meeting. */
const REVIEW_AT_MOST = 0.4;
/** Questions that are brought up again: those parked longest, so many at most. */
const QUESTIONS_AT_MOST = 3;

/** The next agenda: what is open from before, what was not reached, what stands every time, what was parked, and the read-back. */
export function buildAgenda({ today, minutes, open, questions, missed, standing }: AgendaInput): Point[] {
  const late = open.filter((c) => c.late).length;
  const review = Math.max(3, Math.min(Math.round(late * LATE + (open.length - late) * OTHER), Math.round(minutes * REVIEW_AT_MOST)));
  return [
    ...(open.length ? [{ kind: 'review' as const, title: 'Open from before', minutes: review, why: `${open.length} open${late ? `, ${late} late` : ''}`, about: null }] : []),
    ...missed.map((m) => ({ kind: 'carried' as const, title: m.title, minutes: m.minutes, why: `not reached on ${shortDay(m.on, today)}`, about: String(m.id) })),
    ...standing.map((s) => ({ kind: 'standing' as const, title: s.title, minutes: s.minutes, why: 'every time', about: null })),
    ...[...questions]
      .sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0))
      .slice(0, QUESTIONS_AT_MOST)
      .map((q) => ({ kind: 'question' as const, title: q.text, minutes: QUESTION, why: `${q.ref}, parked on ${shortDay(q.on, today)}`, about: q.ref })),
    { kind: 'read-back', title: 'Read-back', minutes: READ_BACK, why: 'who does what by when, before it ends', about: null },
  ];
}

/** Who brings what to the review: those whose commitments are least likely to be done in time first, and theirs in that order. */
export function reviewOrder<T extends Brought>(open: readonly T[]): { owner: string; brought: T[] }[] {
  const doubt = (c: Brought) => (c.late ? 1 : (c.miss ?? 0));
  const groups = new Map<string, T[]>();
  for (const c of open) for (const owner of c.owner.length ? c.owner.slice(0, 1) : ['']) groups.set(owner, [...(groups.get(owner) ?? []), c]);
  return [...groups].map(([owner, brought]) => ({ owner, brought: [...brought].sort((a, b) => doubt(b) - doubt(a) || a.id - b.id) })).sort((a, b) => doubt(b.brought[0]!) - doubt(a.brought[0]!) || b.brought.length - a.brought.length || (a.owner < b.owner ? -1 : 1));
}

/** What gives way first when an agenda is too long. */
const GIVES_WAY: readonly PointKind[] = ['question', 'carried', 'standing', 'own', 'review', 'read-back'];
/** Nothing is talked about in less, in minutes. */
const LEAST: Readonly<Record<PointKind, number>> = { review: 5, own: 3, carried: 3, standing: 2, question: 2, 'read-back': 2 };

export interface Fitted<T> {
  points: (T & { given: number; fits: boolean })[];
  /** minutes nobody has asked for; 0 where it is full */
  free: number;
  /** points that do not fit */
  without: T[];
}

/**
 * Minutes for every point so that their sum fits the meeting: each gives way evenly down to the least it can be talked about
 * in; where that is not enough, points do without, questions first, and are named.
 */
export function fitAgenda<T extends { kind: PointKind; minutes: number }>(points: readonly T[], minutes: number): Fitted<T> {
  const out = new Set<T>();
  const least = (p: T) => Math.min(p.minutes, LEAST[p.kind]);
  const sum = (of: (p: T) => number) => points.filter((p) => !out.has(p)).reduce((n, p) => n + of(p), 0);
  for (const kind of GIVES_WAY) {
    for (const p of [...points].reverse().filter((p) => p.kind === kind)) {
      if (sum(least) <= minutes) break;
      out.add(p);
    }
  }
  const [wanted, floor] = [sum((p) => p.minutes), sum(least)];
  const share = wanted <= minutes ? 1 : wanted === floor ? 0 : Math.max(0, (minutes - floor) / (wanted - floor));
  const given = new Map(points.filter((p) => !out.has(p)).map((p) => [p, least(p) + Math.floor((p.minutes - least(p)) * share)]));
  // what rounding left over goes to those who gave most
  let left = Math.min(minutes, wanted) - [...given.values()].reduce((n, m) => n + m, 0);
  for (const p of [...given.keys()].sort((a, b) => b.minutes - given.get(b)! - (a.minutes - given.get(a)!))) {
    if (left < 1 || given.get(p)! >= p.minutes) continue;
    given.set(p, given.get(p)! + 1);
    left--;
  }
  return { points: points.map((p) => ({ ...p, given: given.get(p) ?? 0, fits: !out.has(p) })), free: Math.max(0, minutes - wanted), without: points.filter((p) => out.has(p)) };
}

/** Minutes of a point nobody has given any. */
const USUAL = 5;

/** Lines such as `Round the table, 10 min`; a line without minutes gets the usual ones. */
export function readStanding(text: string): { title: string; minutes: number }[] {
  return text
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line.length > 1)
    .slice(0, 30)
    .map((line) => {
      const minutes = /[\s,]\(?(\d{1,3})\)?(?: ?min(?:utes?)?)?$/i.exec(line);
      const n = minutes ? Number(minutes[1]) : 0;
      const title = minutes && n > 0 ? line.slice(0, minutes.index).replace(/,$/, '').trim() : line;
      return { title: title.length > 1 ? title : line, minutes: n > 0 && n <= 600 ? n : USUAL };
    });
}
