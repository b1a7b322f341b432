import type { IsoDate } from '../dates/calendar.ts';
import type { Talk } from '../gist/turns.ts';
import type { EventKind, Place } from '../ledger/events.ts';
import type { CommitmentState } from '../ledger/state.ts';

// What an answer is made of: lines of the registers and words of records, with where each stands. Nothing else goes into one.

/** Words that a line of an answer rests on. */
export interface Source {
  /** empty until somebody looks: those of a place in a record are read once an answer needs them */
  words: string;
  place: Pick<Place, 'record' | 'segment' | 'from' | 'to'> | null;
  who: string | null;
  on: IsoDate;
  /** the meeting or the letter, as it is called */
  where: string;
  /** seconds from the start of the record */
  at: number | null;
  href: string;
}

export interface PersonOnRecord {
  id: string;
  name: string;
}

/** Something that happened to a commitment. */
export interface Happened {
  kind: EventKind;
  on: IsoDate;
  due: IsoDate | null | undefined;
  owner: string[] | undefined;
  reason: string | null;
  source: Source;
}

export interface CommitmentOnRecord {
  ref: string;
  href: string;
  text: string;
  /** everything it is known by: its wordings and the words it rests on */
  words: string;
  owner: PersonOnRecord[];
  due: IsoDate | null;
  state: CommitmentState;
  madeOn: IsoDate;
  endedOn: IsoDate | null;
  moved: number;
  putOff: string | null;
  undated: boolean;
  history: Happened[];
  /** updates that Sift proposes and nobody has settled yet */
  waiting: Source[];
}

export interface StatementOnRecord {
  kind: 'decision' | 'question';
  ref: string;
  href: string;
  text: string;
  words: string;
  on: IsoDate;
  open: boolean;
  /** the decision that took its place, or the answer */
  closed: string | null;
  sources: Source[];
}

/** A passage that has the subject's words, the best first. */
export interface PassageOnRecord extends Source {
  person: string | null;
  kind: string;
}

/** A record of a meeting in which the subject came up. */
export interface TalkOnRecord {
  title: string;
  on: IsoDate;
  talk: Talk;
  source(segment: number): Source;
}

/** Everything that may go into an answer, gathered for one question. */
export interface OnRecord {
  today: IsoDate;
  me: string;
  names: ReadonlyMap<string, string>;
  commitments: readonly CommitmentOnRecord[];
  statements: readonly StatementOnRecord[];
  passages: readonly PassageOnRecord[];
  talks: readonly TalkOnRecord[];
  /** how much a stem tells a subject: the rarer, the more */
  weight(stem: string): number;
}
