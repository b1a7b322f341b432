import type { IsoDate } from '../dates/calendar.ts';
import { type DatePhrase, readDates } from '../dates/read.ts';
import { type Mention, type Person, Roster } from '../language/people.ts';
import { contentStems, wordsOf } from '../language/words.ts';
import type { MeetingRecord } from '../record/model.ts';
import { cuesOf } from './cues.ts';
import { type Unit, unitsOf } from './units.ts';

/** A commitment that was open before the meeting. */
export interface OpenCommitment {
  id: string;
  text: string;
  owner: string[];
  due: IsoDate | null;
  madeOn: IsoDate;
}

/** Everything Sift is given. It looks at nothing else: no clock, no file, no network. */
export interface SiftInput {
  record: MeetingRecord;
  people: readonly Person[];
  meeting: { date: IsoDate; next: IsoDate | null; present: readonly string[]; author: string | null };
  open: readonly OpenCommitment[];
}

/** What the close reader says of the units: log-odds for each of their possible natures, and links between them. */
export interface CloseReading {
  /** by unit: log-odds that it is part of an action, the heart of one, a decision, a question, an update, a trap */
  nature: readonly (readonly number[])[];
  /** by open commitment, by unit: log-odds that the unit speaks of it, then log-odds of each kind of news */
  about: ReadonlyMap<string, ReadonlyMap<number, readonly number[]>>;
  /** by unit that may state a job, a decision or a question: when and whose it is, and what it is named with */
  settled: ReadonlyMap<number, Settled>;
}

/** What the close reader says of when a job is due, who takes it on and what names it, from the words around one of its places. */
export interface Settled {
  /** log-likelihood that no date is said there, and of each date phrase: its unit, which of the unit's phrases it is */
  when: { none: number; dates: readonly (readonly [unit: number, which: number, log: number])[] };
  /** log-likelihood that nobody there takes it on, and of each person who speaks or is named */
  who: { none: number; people: readonly (readonly [person: string, log: number])[] };
  /** log-odds that it is named with a word of matter: its unit, its number among all words there. Words that were looked at and are not here are unlikely to. */
  words: readonly (readonly [unit: number, at: number, log: number])[];
  /** units it was asked of, first and last */
  span: readonly [from: number, to: number];
}

/** One unit with all that is read from its words alone. */
export interface ReadUnit extends Unit {
  cues: ReadonlySet<string>;
  words: readonly string[];
  stems: ReadonlySet<string>;
  mentions: readonly Mention[];
  dates: readonly DatePhrase[];
}

/** The document every stage of Sift works on. */
export interface Reading {
  input: SiftInput;
  roster: Roster;
  units: ReadUnit[];
  /** how much a stem tells in this record: rare ones more */
  weight(stem: string): number;
  close: CloseReading | null;
}

/** For how many units a day that was named can be told from (`the day after`). */
const SPOKEN_FOR = 6;

/** First stage: units with words, cues, names and dates. Linear in the length of the record. */
export function readUnits(input: SiftInput, close: CloseReading | null = null): Reading {
  const roster = new Roster(input.people, new Set(input.meeting.present));
  const context = { date: input.meeting.date, next: input.meeting.next };
  const seen = new Map<string, number>();
  let spoken: { date: string; at: number } | null = null;
  const units = unitsOf(input.record, roster, input.meeting.author).map((unit): ReadUnit => {
    const text = unit.text.length > 4000 ? unit.text.slice(0, 4000) : unit.text;
    const words = wordsOf(text);
    const stems = new Set(contentStems(words));
    for (const s of stems) seen.set(s, (seen.get(s) ?? 0) + 1);
    const dates = readDates(text, { ...context, spoken: spoken && unit.index - spoken.at <= SPOKEN_FOR ? spoken.date : null });
    const named = dates.findLast((d) => d.date !== null);
    if (named) spoken = { date: named.date!, at: unit.index };
    return { ...unit, words, stems, cues: new Set(cuesOf(text)), mentions: roster.mentions(text), dates };
  });
  const total = Math.max(1, units.length);
  const unseen = Math.log(1 + total);
  const weights = new Map([...seen].map(([s, n]) => [s, Math.log(1 + total / (1 + n))]));
  const weight = (s: string) => weights.get(s) ?? unseen;
  return { input, roster, units, weight, close };
}
