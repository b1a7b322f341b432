/** Kinds of letters, the most pressing first: where things of several kinds go together, the first names the letter. */
export const LETTER_KINDS = ['digest', 'escalation', 'overdue', 'hand-over', 'assignment', 'reminder', 'check', 'invitation', 'thanks', 'round-up'] as const;
export type LetterKind = (typeof LETTER_KINDS)[number];
/** An answer to something that came back is written by hand and has no wording of ours. */
export type AnyLetterKind = LetterKind | 'answer';

/** Kinds that speak of one commitment and that rules bring about. */
export const ITEM_KINDS = ['escalation', 'overdue', 'hand-over', 'assignment', 'reminder', 'check', 'thanks'] as const;
export type ItemKind = (typeof ITEM_KINDS)[number];

export const isLetterKind = (kind: string): kind is LetterKind => (LETTER_KINDS as readonly string[]).includes(kind);

/** Letters that ask their reader to say that they take something on. */
export const ASKS_TO_CONFIRM: ReadonlySet<string> = new Set(['assignment', 'hand-over']);

export const pressing = (a: LetterKind, b: LetterKind) => LETTER_KINDS.indexOf(a) - LETTER_KINDS.indexOf(b);

export const LANGUAGES = ['en', 'de', 'fr', 'es', 'pt'] as const;
export type Language = (typeof LANGUAGES)[number];
export const isLanguage = (tag: string): tag is Language => (LANGUAGES as readonly string[]).includes(tag);
/** The languages letters are written in, by their English names. */
export const LANGUAGE_NAMES: Record<Language, string> = { en: 'English', de: 'German', fr: 'French', es: 'Spanish', pt: 'Portuguese' };
export const LENGTHS = ['brief', 'usual', 'everything'] as const;
export type LetterLength = (typeof LENGTHS)[number];
export const TONES = ['plain', 'warmer', 'firmer'] as const;
export type Tone = (typeof TONES)[number];
