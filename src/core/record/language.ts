import { franc } from 'franc-min';
import type { Doubt, MeetingRecord } from './model.ts';

/** Words of a record that its language is told by, and how many there must be before anything is said of it. */
const [LOOKED_AT, LEAST] = [800, 40];
/** English has at least so many of these in a hundred words, however it is spoken. */
const ENGLISH = /^(?:the|a|an|and|of|to|in|is|it|that|for|on|with|this|was|be|are|have|not|you|we|i|they|at|by|from|will|so|but|can|do|if|what|as|there|or|he|she|my|our|your|it's|i'll|we'll)$/;
const LEAST_ENGLISH = 0.15;

/**
 * The language a record is in, where that is not English, which Sift reads. Told by the share of English function words, and
 * named by the franc package from what is left.
 * @returns its English name, or null for English and for records too short to tell
 */
export function otherLanguage(record: MeetingRecord): string | null {
  const text: string[] = [];
  for (const s of record.segments) {
    if (s.role !== 'words') continue;
    text.push(
      ...(s.text
        .slice(0, 8000)
        .toLowerCase()
        .match(/[\p{L}]+(?:['’]\p{L}+)?/gu) ?? []),
    );
    if (text.length >= LOOKED_AT) break;
  }
  if (text.length < LEAST) return null;
  const english = text.filter((w) => ENGLISH.test(w.replace('’', "'"))).length / text.length;
  if (english >= LEAST_ENGLISH) return null;
  const code = franc(text.join(' '));
  return code === 'eng' || code === 'sco' || code === 'und' ? null : (new Intl.DisplayNames(['en'], { type: 'language' }).of(code) ?? code);
}

/** Says that Sift does not read a record's language, before it proposes anything from it. */
export function languageDoubt(record: MeetingRecord): Doubt[] {
  const language = otherLanguage(record);
  return language ? [{ line: 1, message: `This record looks ${language}. Sift reads English, so it will miss most of what was said here; mark actions and decisions by hand.` }] : [];
}
