import { fold } from '../../language/fold.ts';

/** A stretch of one segment, by characters. */
export interface Span {
  segment: number;
  from: number;
  to: number;
}

/** What was said in one segment, as whoever quotes it was shown it. */
export interface Shown {
  segment: number;
  /** the words as they were shown */
  text: string;
  /** where a character of the shown words stands in the record's own, for words that were shown under other names */
  place(at: number): number;
}

const SIGN = /[\p{L}\p{N}]/u;
/** Where a quotation leaves words out. */
const LEFT_OUT = /…|\.{3,}/u;

/** Letters and digits of several segments in a row, in small letters, each with where it stands. */
interface Run {
  letters: string;
  /** for each letter the position in `shown`, its character, and whether a word begins or ends with it */
  at: { of: number; from: number; to: number; begins: boolean; ends: boolean }[];
}

function runOf(shown: readonly Shown[]): Run {
  let letters = '';
  const at: Run['at'] = [];
  for (const [of, { text }] of shown.entries()) {
    let before = false;
    let position = 0;
    for (const sign of text) {
      const [from, to] = [position, position + sign.length];
      position = to;
      if (!SIGN.test(sign)) {
        if (before && !APOSTROPHE.test(sign)) at[at.length - 1]!.ends = true;
        before = before && APOSTROPHE.test(sign);
        continue;
      }
      for (const letter of fold(sign).toLowerCase()) {
        if (!SIGN.test(letter)) continue;
        letters += letter;
        at.push({ of, from, to, begins: !before, ends: false });
        before = true;
      }
    }
    if (at.length > 0) at[at.length - 1]!.ends = true;
  }
  return { letters, at };
}

const APOSTROPHE = /['’]/u;

/** The letters and digits of words, as {@link runOf} has them. */
const lettersOf = (words: string): string => runOf([{ segment: 0, text: words, place: (x) => x }]).letters;

/**
 * Finds words where they were said. Letters and digits count and nothing else, so that another case, another mark, a hyphen,
 * and a word that captions cut in two make no difference; words begin and end where words do. What is quoted may run over
 * several segments, and leave words out with an ellipsis.
 * @param shown segments in the order of the record
 * @returns a span for each segment it touches, or null where the words do not stand there
 */
export function locate(words: string, shown: readonly Shown[]): Span[] | null {
  const pieces = words.split(LEFT_OUT).map(lettersOf).filter(Boolean);
  if (pieces.length === 0) return null;
  const { letters, at } = runOf(shown);
  let from = 0;
  let first = -1;
  let last = -1;
  for (const piece of pieces) {
    let found = letters.indexOf(piece, from);
    while (found >= 0 && !(at[found]!.begins && at[found + piece.length - 1]!.ends)) found = letters.indexOf(piece, found + 1);
    if (found < 0) return null;
    if (first < 0) first = found;
    last = found + piece.length - 1;
    from = last + 1;
  }
  const spans = new Map<number, Span>();
  for (const { of, from: a, to: b } of at.slice(first, last + 1)) {
    const { segment, place } = shown[of]!;
    const span = spans.get(segment);
    if (span) span.to = place(b);
    else spans.set(segment, { segment, from: place(a), to: place(b) });
  }
  return [...spans.values()];
}
