import { addDays, daysBetween, type IsoDate, weekday } from '../dates/calendar.ts';
import { addWorkingDays, onWorkingDay, type WorkingCalendar } from '../dates/working-days.ts';
import type { CommitmentState } from '../ledger/state.ts';
import { isOpen } from '../ledger/state.ts';
import { type ItemKind, type LetterKind, pressing } from './kinds.ts';
import type { LetterRules, ReaderWishes } from './rules.ts';

/** A commitment as the plan sees it. */
export interface PlanCommitment {
  id: number;
  owner: readonly string[];
  due: IsoDate | null;
  state: CommitmentState;
  madeOn: IsoDate;
  endedOn: IsoDate | null;
  /** the last day anybody said or answered anything of it */
  lastOn: IsoDate;
  /** the day it came to its present owner, when it was handed over */
  handedOn: IsoDate | null;
  /** its owner has answered, and nobody has looked at the answer yet */
  answerWaits: boolean;
}

/** Somebody who can be written to. */
export interface PlanReader {
  id: string;
  letters: ReaderWishes['letters'];
  works: WorkingCalendar;
}

export interface PlanSitting {
  id: number;
  date: IsoDate;
  people: readonly string[];
}

/** Something that was written already, or stands in a letter that waits: by its key, to whom, and the day. */
export interface Written {
  key: string;
  to: string;
  on: IsoDate;
}

/** What a person wants with something that is planned: hold it, move it to a day, or drop it. */
export interface PlanMark {
  key: string;
  what: 'hold' | 'move' | 'drop';
  day: IsoDate | null;
}

export interface PlanInput {
  today: IsoDate;
  /** how many days ahead, today among them */
  days: number;
  rules: LetterRules;
  /** who runs the project: gets no letters from the plan */
  manager: string;
  readers: readonly PlanReader[];
  commitments: readonly PlanCommitment[];
  sittings: readonly PlanSitting[];
  written: readonly Written[];
  marks: readonly PlanMark[];
}

/** One thing a planned letter is about. */
export interface PlanPart {
  /** the same for the same reason to write; never written twice */
  key: string;
  kind: LetterKind;
  to: string;
  day: IsoDate;
  commitment: number | null;
  sitting: number | null;
  /** the rule that made it, in words */
  why: string;
  byItself: boolean;
  /** the day the rule gave, where it goes on another one */
  from: IsoDate | null;
}

/** A letter that is to be written: all there is to say to one person on one day. */
export interface PlannedLetter {
  to: string;
  day: IsoDate;
  /** the most pressing of its parts */
  kind: LetterKind;
  parts: PlanPart[];
  /** keys of every reason it answers, also of those that are not named a second time */
  covers: string[];
  byItself: boolean;
  held: boolean;
}

/** A thing that came up longer ago than this many working days is no news any more. */
const FRESH = 5;

/**
 * What goes to whom on which day, and why.
 *
 * Every rule gives reasons to write, each with a key that names what it rests on: the due date for a reminder, the day
 * of the last news for a progress check. So a changed date or owner makes other reasons and the old ones are gone,
 * and what was written once is not written again. Reasons for one person on one day are one letter; what was missed is
 * made up for today, once.
 */
export function planLetters(input: PlanInput): PlannedLetter[] {
  const { today, rules } = input;
  const last = addDays(today, input.days - 1);
  const known = new Map(input.readers.filter((r) => r.letters !== 'none').map((r) => [r.id, r]));
  const readers = new Map([...known].filter(([id]) => id !== input.manager));
  const done = new Set(input.written.map((w) => w.key));
  const writtenToday = new Set(input.written.filter((w) => w.on === today).map((w) => w.to));
  const marks = new Map(input.marks.map((m) => [m.key, m]));
  const dropped = (key: string) => marks.get(key)?.what === 'drop';
  const reasons: PlanPart[] = [];
  const put = (part: Omit<PlanPart, 'from'>) => {
    const reader = part.kind === 'escalation' ? known.get(part.to) : readers.get(part.to);
    if (!reader || done.has(part.key) || dropped(part.key)) return;
    const mark = marks.get(part.key);
    let day = notBefore(part.day, today);
    if (mark?.what === 'move' && mark.day) day = notBefore(mark.day, today);
    if (!reader.works(day)) day = onWorkingDay(day, 1, reader.works);
    // somebody who was written to today is left alone until tomorrow
    if (day === today && writtenToday.has(part.to)) day = addWorkingDays(today, 1, reader.works);
    if (day <= last) reasons.push({ ...part, day, from: day === part.day ? null : part.day });
  };
  for (const c of input.commitments) for (const owner of c.owner) forOwner(c, owner, input, readers, done, dropped, put);
  // who was written to about what: a reminder or a notice, that it is theirs, or a digest that names it
  const asked = new Set(
    input.written
      .map((w) => w.key.split(':'))
      .filter(([kind]) => ASKS.has(kind!))
      .map(([, commitment, to]) => `${commitment}:${to}`),
  );
  for (const c of input.commitments) escalate(c, input, known, asked, put);
  digests(input, readers, last, put);
  for (const s of input.sittings) {
    if (!rules.invitation.on || s.date < today) continue;
    for (const to of s.people) {
      const reader = readers.get(to);
      if (reader) put({ key: `invitation:${s.id}:${s.date}:${to}`, kind: 'invitation', to, day: addWorkingDays(s.date, -rules.invitation.before, reader.works), commitment: null, sitting: s.id, why: `${working(rules.invitation.before)} before the meeting`, byItself: rules.invitation.byItself });
    }
  }
  return together(reasons, known, marks, rules);
}

/** Letters after which its holder knows that something is waited for. */
const ASKS: ReadonlySet<string> = new Set(['reminder', 'overdue', 'check', 'digest']);

const notBefore = (day: IsoDate, first: IsoDate) => (day < first ? first : day);

const working = (n: number) => `${n} working ${n === 1 ? 'day' : 'days'}`;

type Put = (part: Omit<PlanPart, 'from'>) => void;

/** Reasons to write to one owner about one commitment. */
function forOwner(c: PlanCommitment, to: string, { today, rules }: PlanInput, readers: ReadonlyMap<string, PlanReader>, done: ReadonlySet<string>, dropped: (key: string) => boolean, put: Put): void {
  const reader = readers.get(to);
  if (!reader || reader.letters === 'digest') return;
  const { works } = reader;
  const say = (kind: ItemKind, key: string, day: IsoDate, why: string, byItself: boolean) => put({ key: `${kind}:${c.id}:${to}${key}`, kind, to, day, commitment: c.id, sitting: null, why, byItself });
  const fresh = (day: IsoDate) => addWorkingDays(day, FRESH, works) >= today;
  if (!isOpen(c.state)) {
    if (rules.thanks.on && c.state === 'done' && c.endedOn && fresh(c.endedOn)) say('thanks', '', c.endedOn, 'it was done', rules.thanks.byItself);
    return;
  }
  if (c.handedOn) {
    if (rules.handOver.on && fresh(c.handedOn)) say('hand-over', `:${c.handedOn}`, c.handedOn, 'it was handed over', rules.handOver.byItself);
  } else if (rules.assignment.on && fresh(c.madeOn)) say('assignment', '', c.madeOn, 'it was taken on', rules.assignment.byItself);
  // whoever has answered is not asked again before somebody has looked at the answer
  if (c.answerWaits) return;
  if (rules.check.on && c.state === 'open') {
    const day = addWorkingDays(c.lastOn, rules.check.every, works);
    const soon = rules.reminder.on && c.due !== null && rules.reminder.before.length > 0 && day >= addWorkingDays(c.due, -Math.max(...rules.reminder.before) - 1, works);
    if ((c.due === null || (day < c.due && c.due > today)) && !soon) say('check', `:${c.lastOn}`, day, `nothing heard for ${working(rules.check.every)}`, rules.check.byItself);
  }
  if (c.due === null) return;
  if (rules.reminder.on && c.due >= today) {
    // of several reminders that were missed only the nearest is made up for
    const days = rules.reminder.before.map((n) => ({ n, day: addWorkingDays(c.due!, -n, works) })).sort((a, b) => a.n - b.n);
    const missed = days.find((d) => d.day <= today);
    for (const { n, day } of days) {
      if (day <= c.madeOn || (day < today && n !== missed?.n)) continue;
      say('reminder', `:${c.due}:${n}`, day, n === 0 ? 'due that day' : `${working(n)} before it is due`, rules.reminder.byItself);
    }
  }
  if (rules.overdue.on) overdue(c, c.due, to, works, today, rules, done, dropped, say);
}

/** The notices after a due date, counted anew from any news since. */
function overdue(c: PlanCommitment, due: IsoDate, to: string, works: WorkingCalendar, today: IsoDate, rules: LetterRules, done: ReadonlySet<string>, dropped: (key: string) => boolean, say: (kind: ItemKind, key: string, day: IsoDate, why: string, byItself: boolean) => void): void {
  const { after, every, times } = rules.overdue;
  const news = c.lastOn > due ? c.lastOn : null;
  const first = news ? addWorkingDays(news, every, works) : addWorkingDays(due, after, works);
  const upTo = addDays(today, 40);
  const keyOf = (k: number) => `:${due}:${news ?? ''}:${k}`;
  const days: IsoDate[] = [];
  for (let day = first; day <= upTo && days.length < (times ?? 60); day = addWorkingDays(day, every, works)) days.push(day);
  const missed = days.filter((d) => d <= today).length - 1;
  days.forEach((day, k) => {
    const key = keyOf(k);
    if (k < missed || done.has(`overdue:${c.id}:${to}${key}`) || dropped(`overdue:${c.id}:${to}${key}`)) return;
    say('overdue', key, day, k === 0 ? (news ? `${working(every)} after the last news` : `${working(after)} after it was due`) : `every ${working(every)} after it was due, the ${ordinal(k + 1)} time`, rules.overdue.byItself);
  });
}

const ordinal = (n: number) => `${n}${n % 10 === 1 && n !== 11 ? 'st' : n % 10 === 2 && n !== 12 ? 'nd' : n % 10 === 3 && n !== 13 ? 'rd' : 'th'}`;

function escalate(c: PlanCommitment, { rules, manager }: PlanInput, readers: ReadonlyMap<string, PlanReader>, asked: ReadonlySet<string>, put: Put): void {
  // work that nobody holds goes to whoever runs the project
  const to = c.owner.length === 0 ? manager : rules.escalation.to;
  const reader = to ? readers.get(to) : undefined;
  if (!rules.escalation.on || !to || !reader || !isOpen(c.state) || c.answerWaits || c.due === null || c.owner.includes(to) || (c.owner.length > 0 && c.owner.every((o) => o === manager))) return;
  // its holder has had the days of the rule, and was asked at least once
  if (c.owner.some((o) => !asked.has(`${c.id}:${o}`))) return;
  const [, from] = [c.handedOn ?? c.madeOn, c.due].sort() as [IsoDate, IsoDate];
  put({ key: `escalation:${c.id}:${to}:${c.due}`, kind: 'escalation', to, day: addWorkingDays(from, rules.escalation.after, reader.works), commitment: c.id, sitting: null, why: `${working(rules.escalation.after)} late`, byItself: rules.escalation.byItself });
}

/** The digests of the coming weeks: one part for each thing somebody holds. */
function digests({ today, rules, commitments }: PlanInput, readers: ReadonlyMap<string, PlanReader>, last: IsoDate, put: Put): void {
  const held = new Map<string, PlanCommitment[]>();
  for (const c of commitments) if (isOpen(c.state)) for (const o of c.owner) held.set(o, [...(held.get(o) ?? []), c]);
  for (const [to, own] of held) {
    const reader = readers.get(to);
    if (!reader || reader.letters === 'no digest' || !(rules.digest.on || reader.letters === 'digest')) continue;
    for (let day = today; day <= last; day = addDays(day, 1)) {
      if (weekday(day) !== rules.digest.weekday) continue;
      for (const c of own) put({ key: `digest:${c.id}:${to}:${day}`, kind: 'digest', to, day, commitment: c.id, sitting: null, why: 'the weekly digest', byItself: rules.digest.byItself });
    }
  }
}

/** What a digest says anyway. */
const IN_A_DIGEST: ReadonlySet<LetterKind> = new Set(['reminder', 'check', 'overdue']);
/** What may go a day early with another letter. */
const MAY_GO_EARLY: ReadonlySet<LetterKind> = new Set(['reminder', 'check']);

/** Joins reasons into letters: one for each person and day. */
function together(reasons: readonly PlanPart[], readers: ReadonlyMap<string, PlanReader>, marks: ReadonlyMap<string, PlanMark>, rules: LetterRules): PlannedLetter[] {
  const byPerson = new Map<string, PlanPart[]>();
  for (const r of reasons) byPerson.set(r.to, [...(byPerson.get(r.to) ?? []), r]);
  const letters: PlannedLetter[] = [];
  for (const [to, own] of byPerson) {
    const { works } = readers.get(to)!;
    const isHeld = (p: PlanPart) => marks.get(p.key)?.what === 'hold';
    const free = own.filter((p) => !isHeld(p));
    const fixed = new Set(free.filter((p) => marks.get(p.key)?.what === 'move').map((p) => p.key));
    const days = [...new Set(free.map((p) => p.day))].sort();
    const left = new Set(free);
    for (const day of days) {
      const here = [...left].filter((p) => p.day === day);
      if (here.length === 0) continue;
      const until = rules.gather > 0 ? addWorkingDays(day, rules.gather, works) : day;
      const early = [...left].filter((p) => p.day > day && p.day <= until && MAY_GO_EARLY.has(p.kind) && !fixed.has(p.key)).map((p) => ({ ...p, day, from: p.from ?? p.day }));
      for (const p of left) if (p.day === day || early.some((e) => e.key === p.key)) left.delete(p);
      letters.push(letterOf(to, day, [...here, ...early], false));
    }
    const held = own.filter(isHeld);
    for (const day of new Set(held.map((p) => p.day)))
      letters.push(
        letterOf(
          to,
          day,
          held.filter((p) => p.day === day),
          true,
        ),
      );
  }
  return letters.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : pressing(a.kind, b.kind) || (a.to < b.to ? -1 : 1)));
}

function letterOf(to: string, day: IsoDate, parts: PlanPart[], held: boolean): PlannedLetter {
  const digested = new Set(parts.filter((p) => p.kind === 'digest').map((p) => p.commitment));
  // a thing is named once: by the most pressing reason, or by the digest that holds everything
  const sorted = parts.toSorted((a, b) => pressing(a.kind, b.kind));
  const seen = new Set<string>();
  const kept = sorted.filter((p) => {
    if (p.commitment === null || p.kind === 'escalation') return true;
    if (digested.has(p.commitment) && IN_A_DIGEST.has(p.kind)) return false;
    const once = `${p.commitment}`;
    if (seen.has(once)) return false;
    seen.add(once);
    return true;
  });
  return { to, day, kind: kept[0]!.kind, parts: kept, covers: parts.map((p) => p.key), byItself: kept.every((p) => p.byItself), held };
}

/** Days of a fortnight's strip: the week of today from Monday, and the next one. */
export function fortnight(today: IsoDate): IsoDate[] {
  const monday = addDays(today, 1 - weekday(today));
  return Array.from({ length: 14 }, (_, i) => addDays(monday, i));
}

/** How many days a plan must look ahead to fill the strip. */
export const daysAhead = (today: IsoDate) => daysBetween(today, fortnight(today)[13]!) + 1;
