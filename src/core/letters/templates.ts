import { type Language, LETTER_KINDS, type LetterKind } from './kinds.ts';
import { DE } from './words/de.ts';
import { EN } from './words/en.ts';
import { ES } from './words/es.ts';
import { FR } from './words/fr.ts';
import { PT } from './words/pt.ts';
import type { LetterWords } from './words/words.ts';

/** A letter's wording in the Liquid template language: what a project or a series may replace with its own. */
export interface LetterTemplate {
  subject: string;
  body: string;
  /** the same as a chat message */
  short: string;
}

export const WORDS: Record<Language, LetterWords> = { en: EN, de: DE, fr: FR, es: ES, pt: PT };

/** The first letter, or the first of both where the words begin with a choice between one and many. */
const FIRST = /^\p{Ll}|(?<=^\{%[^%]*%\})\p{Ll}|(?<=^\{%[^%]*%\}[^%]*\{% else %\})\p{Ll}/gu;

/** After the greeting a sentence begins with a capital, but in German, where the comma lets it go on. */
const begins = (language: Language, words: string) => (language === 'de' ? words : words.replace(FIRST, (c) => c.toLocaleUpperCase(language)));

export const byTone = (w: { plain: string; warmer: string; firmer: string }) => `{% case tone %}{% when 'warmer' %}${w.warmer}{% when 'firmer' %}${w.firmer}{% else %}${w.plain}{% endcase %}`;

/** Kinds whose reader has nothing to answer. */
const NO_ANSWER: ReadonlySet<LetterKind> = new Set(['thanks', 'invitation', 'escalation']);

/** The template Ottik comes with for a kind of letter in a language. */
export function templateFor(kind: LetterKind, language: Language): LetterTemplate {
  const words = WORDS[language];
  const greeting = byTone(words.greeting);
  if (kind === 'round-up') return roundUpTemplate({ ...words, roundUp: { ...words.roundUp, opening: begins(language, words.roundUp.opening) } }, greeting);
  const found = words.kinds[kind];
  const own = { ...found, plain: begins(language, found.plain), warmer: begins(language, found.warmer), firmer: begins(language, found.firmer) };
  const answer = NO_ANSWER.has(kind) ? '' : `{% if link != '' %}{% if length == 'brief' %}${words.page}{% else %}${words.answer}{% endif %}{% endif %}\n\n`;
  return { subject: own.subject, body: `${greeting}\n\n${byTone(own)}\n\n{{ lines }}\n\n${answer}{{ sender.name }}\n`, short: own.short };
}

function roundUpTemplate({ roundUp: w }: LetterWords, greeting: string): LetterTemplate {
  const list = (name: string, heading: string, line: string) => `{% if ${name}.size > 0 %}\n${heading}\n{% for a in ${name} %}- ${line}\n{% endfor %}{% endif %}`;
  return {
    subject: w.subject,
    body: `${greeting}

${w.opening}
${list('actions', w.actions, '{{ a.ref }}  {{ a.text }}. {{ a.owner }}, {{ a.due }}')}${list('decisions', w.decisions, '{{ a.ref }}  {{ a.text }}')}${list('updates', w.updates, '{{ a.ref }}  {{ a.text }}: {{ a.news }}')}${list('questions', w.questions, '{{ a.ref }}  {{ a.text }}')}{% if nothing %}
${w.nothing}
{% endif %}
${w.closing}{% if meeting.next %} ${w.next}{% endif %}

{{ sender.name }}
`,
    short: w.short,
  };
}

/** A variable a template may use. */
export interface TemplateVariable {
  name: string;
  means: string;
  kinds: readonly LetterKind[];
}

const ALL = LETTER_KINDS;
const ROUND_UP: readonly LetterKind[] = ['round-up'];
const SITTING: readonly LetterKind[] = ['round-up', 'invitation'];
const PERSONAL = LETTER_KINDS.filter((k) => k !== 'round-up');

/** Every variable there is, what it means, and the kinds of letters that have it. */
export const VARIABLES: readonly TemplateVariable[] = [
  { name: 'recipient.first', means: 'first name of who gets it', kinds: ALL },
  { name: 'recipient.name', means: 'whole name of who gets it', kinds: ALL },
  { name: 'sender.name', means: 'name of who sends it', kinds: ALL },
  { name: 'project.name', means: 'name of the project', kinds: ALL },
  { name: 'tone', means: 'plain, warmer or firmer', kinds: ALL },
  { name: 'length', means: 'brief, usual or everything', kinds: ALL },
  { name: 'today', means: 'the day it is written', kinds: ALL },
  { name: 'lines', means: 'all that it is about, numbered, one line each', kinds: PERSONAL },
  { name: 'list', means: 'the same in one line', kinds: PERSONAL },
  { name: 'items', means: 'the same to be gone through: n, ref, text, owner, due, when, state, context', kinds: PERSONAL },
  { name: 'count', means: 'how many things it is about', kinds: PERSONAL },
  { name: 'lateCount', means: 'how many of them are late', kinds: PERSONAL },
  { name: 'link', means: 'the reader’s own page; empty where there is none', kinds: PERSONAL },
  { name: 'meeting.title', means: 'name of the sitting', kinds: SITTING },
  { name: 'meeting.day', means: 'its day', kinds: SITTING },
  { name: 'meeting.time', means: 'its time', kinds: ['invitation'] },
  { name: 'meeting.place', means: 'where it is; empty where nothing is known', kinds: ['invitation'] },
  { name: 'meeting.number', means: 'its number in the series', kinds: ROUND_UP },
  { name: 'meeting.next', means: 'the day of the next one', kinds: ROUND_UP },
  { name: 'summary', means: 'how many actions, decisions and open questions', kinds: ROUND_UP },
  { name: 'actions', means: 'to be gone through: ref, text, owner, due', kinds: ROUND_UP },
  { name: 'decisions', means: 'to be gone through: ref, text', kinds: ROUND_UP },
  { name: 'updates', means: 'to be gone through: ref, text, owner, news', kinds: ROUND_UP },
  { name: 'questions', means: 'to be gone through: ref, text', kinds: ROUND_UP },
  { name: 'nothing', means: 'true when there is nothing to report', kinds: ROUND_UP },
];

/** Parts an item has in a template. */
const ITEM_PARTS = new Set(['n', 'ref', 'text', 'owner', 'due', 'when', 'state', 'context', 'news', 'size', 'first', 'last']);

/**
 * Names in a list of used variables that a kind of letter does not have.
 * @param used variables as dotted names, with places of lists as `[0]` or `.0`: `recipient.first`, `items[0].ref`
 */
export function unknownVariables(used: readonly string[], kind: LetterKind): string[] {
  const known = VARIABLES.filter((v) => v.kinds.includes(kind)).map((v) => v.name);
  const heads = new Set(known.filter((k) => k.includes('.')).map((k) => k.split('.')[0]!));
  const lists = new Set(['items', 'actions', 'decisions', 'updates', 'questions']);
  return [...new Set(used)].filter((u) => {
    if (known.includes(u)) return false;
    const [head, ...rest] = u.replace(/\[(\w+|\*)\]/g, '.$1').split('.');
    if (lists.has(head!) && known.includes(head!)) return rest.some((r) => !/^(\d+|\*)$/.test(r) && !ITEM_PARTS.has(r));
    return !(heads.has(head!) && rest.length === 0);
  });
}
