import type { Nature } from './shapes.ts';

/** What the heading above a line says of the lines below it. Common practice of minutes and notes. */
export const SECTIONS: readonly [string, RegExp][] = [
  ['actions', /\b(actions?|to ?do|tasks?|next steps|who does what|follow[- ]?ups?)\b/i],
  ['decisions', /\b(decisions?|decided|agreed|resolutions?|resolved)\b/i],
  ['questions', /\b(questions?|open points?|parked|parking|unresolved|not clear|unclear)\b/i],
  ['old', /\b(matters arising|carr(y|ied)|from last|last time|previous|review|old|outstanding)\b/i],
  ['aob', /\b(any other|aob|misc)\b/i],
];

const OF_LINES: Readonly<Record<string, Nature>> = { actions: 'action', decisions: 'decision', questions: 'question' };

/** What the lines of a list are by the heading above them; null where it does not say, says two things, or goes through what is old. */
export function natureBySection(section: string | null): Nature | null {
  if (section === null || section.length > LONGEST_HEADING) return null;
  const said = SECTIONS.filter(([, pattern]) => pattern.test(section)).map(([name]) => name);
  return said.length === 1 ? (OF_LINES[said[0]!] ?? null) : null;
}

/** A longer heading is about something, and does not say what its lines are. */
const LONGEST_HEADING = 32;
