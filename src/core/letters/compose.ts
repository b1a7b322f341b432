import { daysBetween, type IsoDate } from '../dates/calendar.ts';
import { shortDay } from '../language/days.ts';
import { trimEnd } from '../language/trim.ts';
import type { CommitmentState } from '../ledger/state.ts';
import { type Language, type LetterKind, type LetterLength, pressing, type Tone } from './kinds.ts';
import { type LetterTemplate, templateFor, WORDS } from './templates.ts';

/** A commitment in a letter. */
export interface LetterItem {
  commitment: number;
  ref: string;
  text: string;
  owner: readonly string[];
  due: IsoDate | null;
  state: CommitmentState;
  madeOn: IsoDate;
  /** title of the meeting it was made in, or the empty string */
  meeting: string;
  moved: number;
  carried: number;
  /** why it is in the letter */
  kind: LetterKind;
}

export interface LetterSitting {
  title: string;
  date: IsoDate;
  time: string | null;
  place: string;
}

export interface ComposeInput {
  kind: LetterKind;
  items: readonly LetterItem[];
  sitting: LetterSitting | null;
  recipient: { name: string };
  sender: { name: string };
  project: { name: string };
  today: IsoDate;
  /** address of the reader's own page, or the empty string */
  link: string;
  language: Language;
  tone: Tone;
  length: LetterLength;
}

/** Fills a Liquid template with values; passed in, so that the core stays free of the library's loading. */
export type Fill = (template: string, values: Record<string, unknown>) => string;

export interface Composed {
  subject: string;
  body: string;
  short: string;
  /** the letter's items by the number they have in it; answers refer to it */
  numbered: { n: number; commitment: number }[];
}

/** `Bram` of `Dr Bram Osei`. */
export const firstNameOf = (name: string) => name.replace(/^(?:Mr|Mrs|Ms|Dr|Prof)\.?\s+/, '').split(/\s+/)[0] ?? name;

/** A day as a reader of a language writes it: `Fri 6 Mar`, `Fr., 6. März`, `ven. 6 mars`. */
export function dayIn(language: Language, day: IsoDate): string {
  if (language === 'en') return shortDay(day);
  return new Intl.DateTimeFormat(WORDS[language].tag, { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' }).format(new Date(`${day}T12:00:00Z`));
}

/** A sentence with its full stop, which an abbreviation at its end has already. */
const stopped = (text: string) => (/[.!?…]$/.test(text) ? text : `${text}.`);

const ended = (text: string) => trimEnd(text, '.');

/** What a letter says: values for its template, with days and counts in the reader's language. */
export function letterValues(input: ComposeInput): { values: Record<string, unknown>; numbered: Composed['numbered'] } {
  const words = WORDS[input.language];
  const sorted = input.items.toSorted((a, b) => pressing(a.kind, b.kind) || ((a.due ?? '9999') < (b.due ?? '9999') ? -1 : (a.due ?? '9999') > (b.due ?? '9999') ? 1 : a.commitment - b.commitment));
  const late = (i: LetterItem) => (i.due !== null && (i.state === 'open' || i.state === 'blocked') ? daysBetween(i.due, input.today) : 0);
  const items = sorted.map((i, k) => {
    const days = late(i);
    const due = i.due === null ? words.noDate : i.due === input.today ? words.dueToday : words.due(dayIn(input.language, i.due));
    const when = days > 0 ? words.late(days) : due;
    const context = [words.madeIn(dayIn(input.language, i.madeOn), i.meeting), i.moved > 0 ? words.movedTimes(i.moved) : '', i.carried > 0 ? words.carriedTimes(i.carried) : ''].filter(Boolean).join(' ');
    return { n: k + 1, ref: i.ref, text: ended(i.text), owner: i.owner.join(words.roundUp.and) || words.nobody, due, when, state: i.state === 'blocked' ? words.waiting : '', context, kind: i.kind, days };
  });
  const line = (i: (typeof items)[number]) => {
    const facts = i.kind === 'thanks' ? [] : [i.kind === 'escalation' ? i.owner : '', i.due, i.days > 0 ? i.when : '', i.state].filter(Boolean);
    const said = `${i.n}. ${i.ref}  ${i.text}.${facts.length ? ` ${stopped(`${facts[0]![0]!.toUpperCase()}${facts.join(', ').slice(1)}`)}` : ''}`;
    return input.length === 'everything' && i.kind !== 'thanks' ? `${said} ${i.context}` : said;
  };
  const kinds = [...new Set(items.map((i) => i.kind))];
  const blocks = kinds.map((kind) => {
    const own = items.filter((i) => i.kind === kind).map(line);
    return kinds.length > 1 && kind !== 'round-up' ? [words.heading[kind], ...own].join('\n') : own.join('\n');
  });
  const values = {
    recipient: { name: input.recipient.name, first: firstNameOf(input.recipient.name) },
    sender: input.sender,
    project: input.project,
    tone: input.tone,
    length: input.length,
    today: dayIn(input.language, input.today),
    lines: blocks.join('\n\n'),
    list: items.map((i) => `${i.n}. ${i.ref} ${i.text} (${i.when})`).join('; '),
    items,
    count: items.length,
    lateCount: items.filter((i) => i.days > 0).length,
    link: input.link,
    meeting: input.sitting ? { title: input.sitting.title, day: dayIn(input.language, input.sitting.date), time: input.sitting.time ?? '', place: input.sitting.place } : { title: '', day: '', time: '', place: '' },
  };
  return { values, numbered: items.map((i, k) => ({ n: i.n, commitment: sorted[k]!.commitment })) };
}

/** A letter in full and short form, ready to be looked at. */
export function composeLetter(input: ComposeInput, fill: Fill, template: LetterTemplate = templateFor(input.kind, input.language)): Composed {
  const { values, numbered } = letterValues(input);
  // “am 30. Nov.” ends with a stop of its own; an ellipsis stays
  const tidy = (text: string) =>
    text
      .replace(/\n{3,}/g, '\n\n')
      .replace(/(?<!\.)\.\.(?!\.)/g, '.')
      .trim();
  return {
    subject: fill(template.subject, values)
      .replace(/[\r\n]+/g, ' ')
      .trim()
      .slice(0, 300),
    body: `${tidy(fill(template.body, values))}\n`,
    short: tidy(fill(template.short, values)),
    numbered,
  };
}
