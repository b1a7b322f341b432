import type { Nature } from './natures.ts';
import type { ReadUnit } from './reading.ts';

/** What a line of notes is by its form, whatever it says: a box to tick, a label before it, a row of a list of actions. */
export type Form = 'todo' | 'decided' | 'asked' | 'row';

/** Labels before lines of notes and minutes, with a colon or dash after them, or in capitals. Common practice of action logs. */
const LABELS: readonly (readonly [Form, RegExp, RegExp])[] = [
  ['todo', /^(?:action(?: item| point)?|ap|ai|to ?do|task)\b\s*(?:\([^)]{1,40}\)\s*)?[:–>-]/i, /^(?:TODO|ACTION|AP|TASK)\b/],
  ['decided', /^(?:decision|decided|agreed|resolved|resolution)\b\s*[:–>-]/i, /^(?:DECISION|DECIDED|AGREED|RESOLVED)\b/],
  ['asked', /^(?:open(?: question| point)?|question|left open|parked)\b\s*[:–>-]/i, /^(?:OPEN|QUESTION|PARKED)\b/],
];

/** The form of a unit, or null for a line that has none. A unit inside a line has none of its own. */
export function formOf(u: ReadUnit): Form | null {
  if (u.from > 0 || u.heading || u.spoken) return null;
  const item = u.source.item;
  if (item?.struck || item?.box === 'done') return null;
  if (item?.box === 'open') return 'todo';
  for (const [form, labelled, shouted] of LABELS) if (labelled.test(u.text) || shouted.test(u.text)) return form;
  if (item?.cells && item.cells.length > 1 && u.dates.some((d) => d.date) && u.mentions.some((m) => item.cells!.some((c) => c.trim() === u.text.slice(m.from, m.to)))) return 'row';
  return null;
}

const NATURE: Record<Form, Nature> = { todo: 'action', row: 'action', decided: 'decision', asked: 'question' };

/** How likely a line is, by its form alone, what the form says (log-odds of about four in five). */
const BY_FORM = 1.4;

/**
 * Raises what lines of notes are by their form. Whoever ticks boxes and writes labels says what a line is; annotated
 * meetings have too few such lines for weights to be learned from them, and a model must not talk them away.
 */
export function raiseByForm(units: readonly ReadUnit[], odds: Record<Nature, Float64Array>): void {
  for (const [i, u] of units.entries()) {
    const form = formOf(u);
    if (form) odds[NATURE[form]][i] = Math.max(odds[NATURE[form]][i]!, BY_FORM);
  }
}

/** Two lines that each say by their form what they are speak of two matters. */
export function twoMatters(a: ReadUnit, b: ReadUnit): boolean {
  return a.segment !== b.segment && formOf(a) !== null && formOf(b) !== null;
}

/** A box to tick or a labelled line that names nobody is nobody's yet, whoever is named around it. */
export function namesNobody(u: ReadUnit): boolean {
  return formOf(u) === 'todo' && u.mentions.length === 0 && !/\b(?:i|me|my|mine|we|us|myself)\b/i.test(u.text);
}
