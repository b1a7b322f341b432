import { z } from 'zod';
import { isTimeOfDay, isZone } from '../dates/moments.ts';
import { LANGUAGES, LENGTHS, type LetterKind, TONES } from './kinds.ts';

const Time = z.string().refine(isTimeOfDay, 'That is not a time. Type one like 08:30.');
const Days = z.number().int().min(0).max(60);
/** whether a kind of letter is written at all, and whether it goes without being looked at */
const base = { on: z.boolean(), byItself: z.boolean() };

/** The rules a project's letter plan is made from. Days are working days of the reader. */
export const LetterRulesSchema = z.object({
  assignment: z.object(base),
  handOver: z.object(base),
  /** so many working days before the due date; several numbers for several reminders */
  reminder: z.object({ ...base, before: z.array(Days).max(4) }),
  /** when nothing has been heard of a commitment for so many working days */
  check: z.object({ ...base, every: Days.min(1) }),
  /** the first so many working days after the due date, then every so many, so many times (null: until it is done) */
  overdue: z.object({ ...base, after: Days.min(1), every: Days.min(1), times: z.number().int().min(1).max(50).nullable() }),
  /** to somebody else, once, when it is so many working days late */
  escalation: z.object({ ...base, after: Days.min(1), to: z.string().max(140).nullable() }),
  /** all that somebody holds, on a weekday (1 is Monday) at an hour of the reader's */
  digest: z.object({ ...base, weekday: z.number().int().min(1).max(5), hour: Time.default('08:30') }),
  /** so many working days before a sitting */
  invitation: z.object({ ...base, before: Days.min(1) }),
  thanks: z.object(base),
  /** what would be written on one of the next so many working days goes with a letter that is written anyway */
  gather: z.number().int().min(0).max(3),
  /** when letters go that nobody lets go by hand, but digests */
  hour: Time,
  quiet: z.object({ from: Time, to: Time }).nullable(),
  /** answers that leave no doubt become updates without being looked at */
  answersByThemselves: z.boolean(),
  tone: z.enum(TONES),
  length: z.enum(LENGTHS),
});
export type LetterRules = z.infer<typeof LetterRulesSchema>;

/** What a project starts with: everything is looked at before it goes. */
export const DEFAULT_RULES: LetterRules = {
  assignment: { on: true, byItself: false },
  handOver: { on: true, byItself: false },
  reminder: { on: true, byItself: false, before: [2] },
  check: { on: true, byItself: false, every: 10 },
  overdue: { on: true, byItself: false, after: 1, every: 4, times: 5 },
  escalation: { on: false, byItself: false, after: 8, to: null },
  digest: { on: false, byItself: false, weekday: 1, hour: '08:30' },
  invitation: { on: true, byItself: false, before: 2 },
  thanks: { on: false, byItself: false },
  gather: 1,
  hour: '08:30',
  quiet: { from: '18:00', to: '07:30' },
  answersByThemselves: false,
  tone: 'plain',
  length: 'usual',
};

/** Which letters somebody wants. */
export const LETTER_WISHES = ['all', 'no digest', 'digest', 'none'] as const;
export type LetterWish = (typeof LETTER_WISHES)[number];

/** How somebody wants to be written to. */
export const ReaderWishesSchema = z.object({
  /** all letters, all but digests, one digest a week and invitations, or nothing */
  letters: z.enum(LETTER_WISHES),
  language: z.enum(LANGUAGES),
  zone: z.string().refine(isZone, 'That is not a time zone. Type one like Europe/Lisbon.'),
  /** ISO 3166 country, and region where it has holidays of its own: `DE` or `DE-BY`; empty for weekends only */
  country: z.string().regex(/^$|^[A-Z]{2}(-[A-Za-z0-9]{1,4})?$/, 'That is not a country code. Type one like SE or DE-BY.'),
});
export type ReaderWishes = z.infer<typeof ReaderWishesSchema>;

/** The hour at which a letter goes that nobody lets go by hand. */
export function hourOf(kind: LetterKind, rules: Pick<LetterRules, 'hour' | 'digest'>): string {
  return kind === 'digest' ? rules.digest.hour : rules.hour;
}
