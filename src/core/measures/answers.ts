import { daysBetween, type IsoDate, startOfWeek } from '../dates/calendar.ts';
import { type Lasted, type Survival, survivalOf } from './survival.ts';

/** A letter to one person that looks for an answer. */
export interface Asking {
  on: IsoDate;
  to: string;
  /** the first answer to it; null while there is none */
  answeredOn: IsoDate | null;
}

export interface Answering {
  weeks: { from: IsoDate; sent: number; answered: number }[];
  sent: number;
  answered: number;
  /** days until an answer, those still silent counted for as long as they have been */
  wait: Survival;
  /** people with letters that nobody answered, those with most first */
  silent: { person: string; letters: number; since: IsoDate }[];
}

/** How many letters were answered and how soon, by the week they went, and who is silent. */
export function answeringOf(all: readonly Asking[], today: IsoDate): Answering {
  const weeks = new Map<IsoDate, { sent: number; answered: number }>();
  const silent = new Map<string, { letters: number; since: IsoDate }>();
  const waits: Lasted[] = [];
  for (const a of all) {
    const from = startOfWeek(a.on);
    const week = weeks.get(from) ?? weeks.set(from, { sent: 0, answered: 0 }).get(from)!;
    week.sent++;
    waits.push({ days: Math.max(0, daysBetween(a.on, a.answeredOn ?? today)), ended: a.answeredOn !== null });
    if (a.answeredOn !== null) {
      week.answered++;
      continue;
    }
    const s = silent.get(a.to);
    silent.set(a.to, { letters: (s?.letters ?? 0) + 1, since: s && s.since < a.on ? s.since : a.on });
  }
  return {
    weeks: [...weeks].map(([from, w]) => ({ from, ...w })).sort((a, b) => (a.from < b.from ? -1 : 1)),
    sent: all.length,
    answered: waits.filter((w) => w.ended).length,
    wait: survivalOf(waits),
    silent: [...silent].map(([person, s]) => ({ person, ...s })).sort((a, b) => b.letters - a.letters || (a.since < b.since ? -1 : 1)),
  };
}
