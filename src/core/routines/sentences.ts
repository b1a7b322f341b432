import type { EXPORTS, MeetingKind, Routine, Step, StepKind, When } from './routine.ts';
import { readTimes, timesInWords } from './times.ts';

/**
 * A routine is a sentence with fields in it. What each of its parts says stands here once: the page puts controls where the
 * fields are, the log and the command line put words.
 */
export const WHEN_SENTENCES: Readonly<Record<When['on'], string>> = {
  record: 'a record arrives',
  end: 'a meeting ends',
  minutes: 'minutes are issued',
  answer: 'an answer comes',
  late: 'a commitment is late by {days} working days',
  time: 'the clock says {text}',
  asked: 'somebody asks for it',
};

export const STEP_SENTENCES: Readonly<Record<StepKind, string>> = {
  sift: 'sift the record closely',
  wait: 'wait until {until}',
  take: 'take the finds that are at least {sure} % sure',
  'round-up': '{act} the round-up',
  letters: 'draft the letters planned for the day',
  post: 'post to the project’s chat: {text}',
  minutes: '{act} the minutes',
  file: 'write {what} as {format} into the folder {folder}',
  hook: 'send {what} as {format} to {url}',
  next: 'set up the next meeting {when}',
  ask: 'ask {question} and mail the answer to {to}',
};

export const UNTIL_WORDS = { settled: 'no find is left to settle', word: 'somebody says go on' } as const;
export const ROUND_UP_WORDS = { draft: 'draft', send: 'send' } as const;
export const MINUTES_WORDS = { draft: 'draft', issue: 'issue' } as const;
export const WHAT_WORDS: Readonly<Record<(typeof EXPORTS)[number], string>> = { minutes: 'the minutes', ledger: 'the Ledger' };

/** The kinds of meeting, in words that follow *a meeting* or the name of a series. */
export const KIND_WORDS: Readonly<Record<MeetingKind, string>> = {
  any: 'of any kind',
  series: 'of a series',
  single: 'that is in no series',
  two: 'of two people',
  outside: 'with people from outside',
  inside: 'among ourselves',
};

/** What starts a routine that is kept to some meetings; `{meeting}` says to which. */
const NARROWER: Readonly<Record<Exclude<When['on'], 'time'>, string>> = {
  record: 'a record of {meeting} arrives',
  end: '{meeting} ends',
  minutes: 'minutes of {meeting} are issued',
  answer: 'an answer to a letter about {meeting} comes',
  late: 'a commitment from {meeting} is late by {days} working days',
  asked: 'somebody asks for it on {meeting}',
};

/** What a field of a text stands for, in words. */
export const FIELD_WORDS: Readonly<Record<string, string>> = {
  'meeting.title': 'title of the meeting',
  'meeting.date': 'its day',
  'meeting.link': 'link to the meeting',
  'commitment.ref': 'its number',
  'commitment.text': 'the commitment',
  'commitment.owner': 'its owner',
  'commitment.due': 'its due date',
  'commitment.link': 'link to the commitment',
  'answer.from': 'who answered',
  'answer.subject': 'the subject',
  'answer.words': 'the words of the answer',
  'routine.name': 'name of the routine',
  'project.name': 'name of the project',
  today: 'today',
};

/** A text with its fields in words: `{{ commitment.ref }} is late` is read as `[its number] is late`. */
export const textInWords = (text: string): string => text.replace(/\{\{\s{0,9}([\w.]{1,60})\s{0,9}\}\}/g, (all, name: string) => (FIELD_WORDS[name] ? `[${FIELD_WORDS[name]}]` : all));

/** A piece of a sentence: words, or the name of the field that stands there. */
export type Piece = string | { field: string };

/** A sentence cut at its fields. */
export const piecesOf = (sentence: string): Piece[] =>
  sentence
    .split(/(\{[a-z]+\})/)
    .filter((part) => part !== '')
    .map((part) => (part.startsWith('{') ? { field: part.slice(1, -1) } : part));

const filled = (sentence: string, words: Readonly<Record<string, string>>): string =>
  piecesOf(sentence)
    .map((p) => (typeof p === 'string' ? p : (words[p.field] ?? '')))
    .join('');

/** Longest that is quoted, in characters. */
const LONGEST = 240;

export const quoted = (text: string): string => `“${text.length > LONGEST ? `${text.slice(0, LONGEST - 1).trimEnd()}…` : text}”`;

/**
 * What starts a routine, in words that follow *when*.
 *
 *     whenInWords({ when: { on: 'late', days: 3 }, series: null, kind: 'any' }) === 'a commitment is late by 3 working days'
 */
export function whenInWords({ when, series, kind }: Pick<Routine, 'when' | 'series' | 'kind'>, titleOf: (series: string) => string = (id) => id): string {
  if (when.on === 'time') {
    const times = readTimes(when.text, when.from);
    return filled(WHEN_SENTENCES.time, { text: 'wrong' in times ? quoted(when.text) : timesInWords(times) });
  }
  const narrow = series !== null || kind !== 'any';
  const meeting = [series === null ? 'a meeting' : titleOf(series), kind === 'any' ? '' : KIND_WORDS[kind]].filter(Boolean).join(' ');
  const said = filled(narrow ? NARROWER[when.on] : WHEN_SENTENCES[when.on], { meeting, days: when.on === 'late' ? String(when.days) : '' });
  return said.replace(/\b1 working days/, '1 working day');
}

/** A step in words. `nameOf` gives the name of a person. */
export function stepInWords(step: Step, nameOf: (person: string) => string = (id) => id): string {
  switch (step.do) {
    case 'wait':
      return filled(STEP_SENTENCES.wait, { until: UNTIL_WORDS[step.until] });
    case 'take':
      return filled(STEP_SENTENCES.take, { sure: String(step.sure) });
    case 'round-up':
      return filled(STEP_SENTENCES['round-up'], { act: ROUND_UP_WORDS[step.act] });
    case 'minutes':
      return filled(STEP_SENTENCES.minutes, { act: MINUTES_WORDS[step.act] });
    case 'post':
      return filled(STEP_SENTENCES.post, { text: quoted(textInWords(step.text)) });
    case 'file':
      return filled(STEP_SENTENCES.file, { what: WHAT_WORDS[step.what], format: step.format, folder: quoted(step.folder) });
    case 'hook':
      return filled(STEP_SENTENCES.hook, { what: WHAT_WORDS[step.what], format: step.format, url: step.url });
    case 'next':
      return filled(STEP_SENTENCES.next, { when: step.when ? quoted(step.when) : 'as it was said in the meeting' });
    case 'ask':
      return filled(STEP_SENTENCES.ask, { question: quoted(step.question), to: step.to.map(nameOf).join(', ') });
    default:
      return STEP_SENTENCES[step.do];
  }
}

/** The whole of a routine as one sentence. */
export const routineInWords = (routine: Routine, { nameOf, titleOf }: { nameOf?: (person: string) => string; titleOf?: (series: string) => string } = {}): string => `When ${whenInWords(routine, titleOf)}: ${routine.steps.map((s) => stepInWords(s, nameOf)).join('; ')}.`;
