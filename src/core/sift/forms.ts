import { contentStems, wordsOf } from '../language/words.ts';
import type { ReadUnit } from './reading.ts';
import { natureBySection } from './sections.ts';
import type { Nature } from './shapes.ts';

/**
 * What a unit is by its form, whatever else it says. Of notes: a box to tick, a label before the line, an arrow to a name, a
 * row of a list of actions, a line of a list under a heading that says what its lines are. Of speech: a plain promise with its
 * day, a plain request with one.
 */
export type Form = 'todo' | 'decided' | 'asked' | 'row' | 'promised' | 'requested';

/** Labels before lines of notes and minutes, with a colon or dash after them, or in capitals. Common practice of action logs. */
const LABELS: readonly (readonly [Form, RegExp, RegExp])[] = [
  ['todo', /^(?:action(?: item| point)?|ap|ai|to ?do|task)\b\s*(?:\([^)]{1,40}\)\s*)?[:–>-]/i, /^(?:TODO|ACTION|AP|TASK)\b/],
  ['decided', /^(?:decision|decided|agreed|resolved|resolution)\b\s*[:–>-]/i, /^(?:DECISION|DECIDED|AGREED|RESOLVED)\b/],
  ['asked', /^(?:open(?: question| point)?|question|left open|parked)\b\s*[:–>-]/i, /^(?:OPEN|QUESTION|PARKED)\b/],
];

const known = new WeakMap<ReadUnit, Form | null>();

/** The form of a unit, or null for one that has none. A unit inside a line of notes has none of its own. */
export function formOf(u: ReadUnit): Form | null {
  let form = known.get(u);
  if (form === undefined) {
    form = readForm(u);
    known.set(u, form);
  }
  return form;
}

function readForm(u: ReadUnit): Form | null {
  if (u.spoken) return plainSpeech(u)?.form ?? null;
  if (u.from > 0 || u.heading) return null;
  const item = u.source.item;
  if (item?.struck || item?.box === 'done') return null;
  if (item?.box === 'open') return 'todo';
  for (const [form, labelled, shouted] of LABELS) if (labelled.test(u.text) || shouted.test(u.text)) return form;
  if (SETTLED_MARK.test(u.text)) return 'decided';
  if (handedOver(u)) return 'todo';
  if (item?.cells && item.cells.length > 1 && u.dates.some((d) => d.date) && u.mentions.some((m) => item.cells!.some((c) => c.trim() === u.text.slice(m.from, m.to)))) return 'row';
  const nature = item && !item.cells ? natureBySection(u.section) : null;
  return nature ? BY_SECTION[nature] : item ? null : (plainSpeech(u)?.form ?? null);
}

/** Two strokes of exclamation before a line: how note-takers mark what is settled. Common practice. */
const SETTLED_MARK = /^!!+\s*\p{L}/u;

/** An arrow at the start of a line, somebody's name or several, and a colon. */
const TO_WHOM = /^(?:->|→|=>)([^:]{1,60}):/;

/** A line whose arrow hands what follows to those who are named after it: "→ Bram + Kit: the list". */
function handedOver(u: ReadUnit): boolean {
  const whom = TO_WHOM.exec(u.text);
  if (!whom) return false;
  const end = whom[0].length - 1;
  const named = u.mentions.filter((m) => m.to <= end);
  let rest = u.text.slice(whom[0].length - 1 - whom[1]!.length, end);
  for (const m of named) rest = rest.replace(u.text.slice(m.from, m.to), '');
  return named.length > 0 && /^(?:[\s+&,/]|and)*$/.test(rest);
}

const BY_SECTION: Record<Nature, Form | null> = { action: 'todo', decision: 'decided', question: 'asked', update: null };

/** The speaker says that they will do something; verbs that only keep the talk going are left out. */
const PROMISE = /\bI(?:['’]ll| will)\s+(?:then |also |just )?(?!be\b|have\b|say\b|see\b|think\b|know\b|not\b|never\b|do (?:it|that|so)\b)(?<rest>\p{L}+\b.*)/iu;
const REQUEST = /\b(?:can|could|will|would) you (?:please )?(?!see\b|hear\b|imagine\b|say\b|tell me\b|repeat\b|believe\b)(?<rest>\p{L}{1,40}\b[^?]{0,400})\?/iu;
/** It is said of somebody who was named, or of nobody in particular, that they will or must. */
const SAID_OF = /(?:^|[.;!?]\s+|\b(?:and|so|then|but)\s+)(?:he|she|somebody|someone|one of us)(?:['’]ll| will| has to| needs to| must| is going to)\s+(?!be\b|have\b|say\b|see\b|think\b|know\b|not\b|never\b)(?<rest>\p{L}+\b.*)/iu;
/** What is to be done is told elsewhere, so the form alone says too little. */
const POINTS_ELSEWHERE = /\b(?:him|her|it|them|that|this|those|these|one|something|both)\b/i;
const UNREAL = /\b(?:if|unless|maybe|perhaps|might|would have|used to)\b/i;
/** A job is named by at least so many words, its day left out. */
const LEAST_WORDS = 2;

/** A promise or a request in plain words that names job and day in one breath, with nothing left to what was said before; and which date phrase names the day. */
function plainSpeech(u: ReadUnit): { form: Form; day: number } | null {
  const request = REQUEST.exec(u.text);
  const found = request ?? PROMISE.exec(u.text) ?? SAID_OF.exec(u.text);
  if (!found || UNREAL.test(u.text)) return null;
  const which = u.dates.findIndex((d) => d.date && d.to > found.index);
  const day = u.dates[which];
  if (!day) return null;
  const from = found.index + found[0].length - found.groups!.rest!.length;
  const job = day.from > from ? u.text.slice(from, day.from) : found.groups!.rest!;
  if (POINTS_ELSEWHERE.test(job) || contentStems(wordsOf(job)).length < LEAST_WORDS) return null;
  return { form: request ? 'requested' : 'promised', day: which };
}

/** Which of its date phrases a plain promise or request names its day with; null for any other unit. */
export function dayByForm(u: ReadUnit): number | null {
  const form = formOf(u);
  return form === 'promised' || form === 'requested' ? (plainSpeech(u)?.day ?? null) : null;
}

/** What a form says a unit is, and how likely that is by the form alone, as log-odds. */
const SAYS: Record<Form, readonly [Nature, number]> = {
  todo: ['action', 1.4],
  row: ['action', 1.4],
  decided: ['decision', 1.4],
  asked: ['question', 1.4],
  // of plain promises with a day in the annotated meetings three in four belong to a new commitment, most others to an open one
  promised: ['action', 1.1],
  requested: ['action', 0.5],
};

/**
 * Raises what units are by their form. Whoever ticks boxes, writes labels or promises a thing by its name and day says
 * what it is; annotated meetings are seldom so plain, and a model learned from them must not talk it away.
 */
export function raiseByForm(units: readonly ReadUnit[], odds: Record<Nature, Float64Array>): void {
  for (const [i, u] of units.entries()) {
    const form = formOf(u);
    if (!form) continue;
    const [nature, least] = SAYS[form];
    odds[nature][i] = Math.max(odds[nature][i]!, least);
    // what is labelled a decision or a question and names nobody is no job
    if (nature !== 'action' && u.mentions.length === 0) odds.action[i] = Math.min(odds.action[i]!, NO_JOB);
  }
}

/** Log-odds of being part of a job that is no job. */
const NO_JOB = -2;

/** How likely a matter is a find by the form of its core alone: what a judge learned from oblique talk must not talk away. */
const STANDS: Record<Form, number> = { promised: 0.6, requested: 0.4, todo: 0.5, row: 0.5, decided: 0.5, asked: 0.5 };

/** @returns 0 to 1; 0 for a unit whose form says nothing of itself, or that it is of another nature */
export function leastByForm(u: ReadUnit, nature: Nature): number {
  const form = formOf(u);
  return form !== null && SAYS[form][0] === nature ? STANDS[form] : 0;
}

/** Two units that each say by their form what they are speak of two matters; two promises do when they share no word. */
export function twoMatters(a: ReadUnit, b: ReadUnit): boolean {
  if (a.segment === b.segment || formOf(a) === null || formOf(b) === null) return false;
  if (!a.spoken && !b.spoken) return true;
  if (formOf(a) !== formOf(b)) return false;
  for (const s of a.stems) if (b.stems.has(s) && !inDay(a, s)) return false;
  return true;
}

/** The stem is of the words that name the day. */
function inDay(u: ReadUnit, stem: string): boolean {
  return u.dates.some((d) => contentStems(wordsOf(u.text.slice(d.from, d.to))).includes(stem));
}

/** A box to tick or a labelled line that names nobody is nobody's yet, whoever is named around it. */
export function namesNobody(u: ReadUnit): boolean {
  return formOf(u) === 'todo' && u.mentions.length === 0 && !/\b(?:i|me|my|mine|we|us|myself)\b/i.test(u.text);
}
