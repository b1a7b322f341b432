import { listOf, longDay, shortDay } from '../language/days.ts';
import { relativeDay } from '../ledger/due.ts';
import type { Briefing, Promised } from './briefing.ts';

export interface BriefingHead {
  title: string;
  date: string;
  time: string | null;
  place: string;
  today: string;
}

/** Lines of one part; parts with nothing in them are left out. */
export interface BriefingPart {
  name: string;
  lines: string[];
}

const WAITING = 'waiting';

/** What a promise says in one line: reference, words, who, and when. */
function promised(p: Promised, today: string, names: (id: string) => string, whose: boolean): string {
  const when = p.doneOn ? `done ${shortDay(p.doneOn, today)}` : p.due ? `${shortDay(p.due, today)}${p.late ? `, ${relativeDay(p.due, today)}` : ''}` : 'no date';
  return `${p.ref}  ${p.text} (${[whose ? listOf(p.owner.map(names)) : '', when, p.waiting ? WAITING : ''].filter(Boolean).join('; ')})`;
}

/**
 * A briefing in parts, in the order of what needs a word first: late, theirs, mine, what happened since last time, what
 * was decided, what was parked. What is late stands in its own part only.
 * @param names what a person is called, by id
 */
export function briefingParts(b: Briefing, today: string, names: (id: string) => string): BriefingPart[] {
  const late = new Set(b.late.map((p) => p.id));
  const rest = (list: readonly Promised[]) => list.filter((p) => !late.has(p.id));
  const since = b.since ? `since ${shortDay(b.since, today)}` : 'so far';
  const parts: BriefingPart[] = [
    { name: 'Late', lines: b.late.map((p) => promised(p, today, names, true)) },
    { name: 'Theirs', lines: rest(b.theirs).map((p) => promised(p, today, names, true)) },
    { name: 'Mine', lines: rest(b.mine).map((p) => promised(p, today, names, false)) },
    { name: `Done ${since}`, lines: b.doneSince.map((p) => promised(p, today, names, true)) },
    { name: `Changed ${since}`, lines: b.changed.map((c) => `${c.ref}  ${c.text}: ${c.kind}${c.due ? ` to ${shortDay(c.due, today)}` : ''}, ${shortDay(c.on, today)}`) },
    { name: 'Decided', lines: b.decided.map((d) => `${d.ref}  ${d.text} (${shortDay(d.on, today)})`) },
    { name: 'Parked', lines: b.parked.map((q) => `${q.ref}  ${q.text} (${shortDay(q.on, today)})`) },
  ];
  return parts.filter((p) => p.lines.length > 0);
}

/** A briefing as plain text: what is mailed, and what can be copied. */
export function briefingText(head: BriefingHead, parts: readonly BriefingPart[]): string {
  const where = [longDay(head.date), head.time, head.place].filter(Boolean).join(', ');
  if (parts.length === 0) return `${head.title}\n${where}\n\nNothing is open between you, and nothing happened.`;
  return [`${head.title}\n${where}`, ...parts.map((p) => `${p.name}\n${p.lines.map((l) => `- ${l}`).join('\n')}`)].join('\n\n');
}
