import type { LetterKind } from '../kinds.ts';

/** The wording of one kind of letter in one language. Liquid, with the variables of docs/letters.md. */
export interface KindWords {
  subject: string;
  /** the opening in three tones */
  plain: string;
  warmer: string;
  firmer: string;
  /** the whole letter as a chat message, one or two lines */
  short: string;
}

/** Everything Ottik says in letters of one language. */
export interface LetterWords {
  /** language tag for dates and numbers (BCP 47) */
  tag: string;
  greeting: { plain: string; warmer: string; firmer: string };
  /** how a letter can be answered; Liquid */
  answer: string;
  /** the personal page alone, for brief letters; Liquid */
  page: string;
  heading: Record<Exclude<LetterKind, 'round-up'>, string>;
  due: (day: string) => string;
  late: (days: number) => string;
  dueToday: string;
  noDate: string;
  nobody: string;
  waiting: string;
  /** where and when something was taken on, for letters with everything */
  madeIn: (day: string, meeting: string) => string;
  movedTimes: (n: number) => string;
  carriedTimes: (n: number) => string;
  kinds: Record<Exclude<LetterKind, 'round-up'>, KindWords>;
  roundUp: {
    subject: string;
    opening: string;
    actions: string;
    decisions: string;
    updates: string;
    questions: string;
    nothing: string;
    closing: string;
    next: string;
    action: [string, string];
    decision: [string, string];
    question: [string, string];
    whatCame: string;
    by: (day: string) => string;
    news: Record<'done' | 'progress' | 'dropped' | 'blocked' | 'moved' | 'reassigned', string>;
    now: (what: string) => string;
    with: (who: string) => string;
    and: string;
    short: string;
  };
}
