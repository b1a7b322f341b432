import { daysBetween, type IsoDate } from '../dates/calendar.ts';

/** A letter that went out to one person. */
export interface SentTo {
  to: string;
  on: IsoDate;
  /** it looks for no answer, as a round-up does: it counts as written and not as unanswered */
  plain?: boolean;
}

export interface HeardFrom {
  from: string;
  on: IsoDate;
}

/** How it stands between us and somebody we write to. */
export interface Correspondence {
  person: string;
  lastWritten: IsoDate | null;
  lastAnswered: IsoDate | null;
  letters: number;
  /** letters since the last answer */
  unanswered: number;
  /** days since the first letter that has had no answer; null when nothing is outstanding */
  silentFor: number | null;
  neverAnswered: boolean;
}

/**
 * Who answers and who is silent, the most silent first. An answer covers every letter of its day and before.
 * Absence notices and reports from mail servers are no answers: leave them out of `heard`.
 */
export function correspondence(sent: readonly SentTo[], heard: readonly HeardFrom[], today: IsoDate): Correspondence[] {
  const people = new Map<string, Correspondence>();
  const asked = new Set<string>();
  const of = (person: string) => {
    let c = people.get(person);
    if (!c) {
      c = { person, lastWritten: null, lastAnswered: null, letters: 0, unanswered: 0, silentFor: null, neverAnswered: false };
      people.set(person, c);
    }
    return c;
  };
  for (const h of heard) {
    const c = of(h.from);
    if (c.lastAnswered === null || h.on > c.lastAnswered) c.lastAnswered = h.on;
  }
  for (const s of [...sent].sort((a, b) => (a.on < b.on ? -1 : 1))) {
    const c = of(s.to);
    c.letters++;
    if (c.lastWritten === null || s.on > c.lastWritten) c.lastWritten = s.on;
    if (s.plain) continue;
    asked.add(s.to);
    if (c.lastAnswered !== null && s.on <= c.lastAnswered) continue;
    c.unanswered++;
    c.silentFor ??= Math.max(0, daysBetween(s.on, today));
  }
  for (const c of people.values()) c.neverAnswered = asked.has(c.person) && c.lastAnswered === null;
  return [...people.values()].sort((a, b) => (b.silentFor ?? -1) - (a.silentFor ?? -1) || (a.person < b.person ? -1 : 1));
}
