import { type Gist, gistOf } from '../../core/gist/gist.ts';
import { stancesOn } from '../../core/gist/stances.ts';
import { timeOn } from '../../core/gist/subject.ts';
import type { Weighty } from '../../core/gist/summary.ts';
import { soFar, turnsOf } from '../../core/gist/turns.ts';
import type { Person } from '../../core/language/people.ts';
import { contentStems, wordsOf } from '../../core/language/words.ts';
import type { MeetingRecord } from '../../core/record/model.ts';

export interface GistAskedFor {
  record: MeetingRecord;
  people: readonly Person[];
  /** places where Sift found something */
  found: readonly Weighty[];
  /** a subject asked about; nothing where none is */
  subject: string;
  /** seconds up to which the record counts */
  until: number | null;
}

/** What somebody said, for showing beside what was read from it. */
export interface Said {
  segment: number;
  voice: string | null;
  text: string;
  start: number | null;
}

export interface GistRead {
  gist: Gist;
  said: Said[];
  about: { subject: string; time: ReturnType<typeof timeOn>; stances: ReturnType<typeof stancesOn> } | null;
  /** seconds the whole record takes */
  whole: number;
}

/** What a record tells besides its finds, read in the thread that calls. */
export function gistHere({ record, people, found, subject, until }: GistAskedFor): GistRead {
  const part = until === null ? record : soFar(record, { seconds: until });
  const talk = turnsOf(part);
  return {
    gist: gistOf(part, people, found),
    said: talk.turns.map((t) => ({ segment: t.segment, voice: t.voice, text: t.text, start: talk.times === 'measured' ? t.start : null })),
    about: subject ? { subject, time: timeOn(talk, subject), stances: stancesOn(talk, new Set(contentStems(wordsOf(subject)))) } : null,
    whole: turnsOf(record).length,
  };
}
