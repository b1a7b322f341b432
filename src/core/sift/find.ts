import type { IsoDate } from '../dates/calendar.ts';

/** What can happen to an open commitment. */
export const UPDATE_KINDS = ['done', 'moved', 'reassigned', 'dropped', 'blocked', 'progress'] as const;
export type UpdateKind = (typeof UPDATE_KINDS)[number];

export type FindKind = 'action' | 'decision' | 'question' | 'update';

/** What a place in the record does for a find. */
export type EvidenceRole = 'states' | 'accepts' | 'dates' | 'repeats' | 'corrects' | 'asks';

/** A place in the record that a find rests on: characters `from` to `to` of the text of a segment. */
export interface Evidence {
  segment: number;
  from: number;
  to: number;
  role: EvidenceRole;
}

/** Words that told something in particular, underlined in the record. */
export interface Clue {
  segment: number;
  from: number;
  to: number;
  what: 'who' | 'when' | 'assent';
}

/** What happened to an open commitment, as far as the record tells. */
export interface UpdateOf {
  /** id of the open commitment */
  open: string;
  kind: UpdateKind;
  /** new due date, when it was moved */
  due: IsoDate | null;
  /** new owners, when it was handed over */
  owner: string[] | null;
}

/** A part of a find that may be doubtful by itself: who, when, what happened. */
export type FindPart = 'owner' | 'due' | 'news';

/** Something Sift proposes. It becomes real only when a person takes it. */
export interface Find {
  /** the same for the same find whenever the record is read again */
  key: string;
  kind: FindKind;
  text: string;
  /** words the matter is known by that the text does not have */
  about: string[];
  owner: string[];
  ownerHow: string | null;
  due: IsoDate | null;
  duePhrase: string | null;
  update: UpdateOf | null;
  evidence: Evidence[];
  clues: Clue[];
  /** 0 to 1: of the finds with about this number, about this share is right */
  confidence: number;
  /** parts that are not sure enough to be taken without a look; left out where nobody weighed them */
  doubtful?: FindPart[];
  /** why, in plain words */
  reason: string;
}

export interface Finds {
  finds: Find[];
  /** which reader the finds come from */
  reader: 'quick' | 'close' | 'model';
}
