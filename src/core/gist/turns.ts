import { contentStems, wordsOf } from '../language/words.ts';
import { isCaptions } from '../record/breath.ts';
import type { MeetingRecord } from '../record/model.ts';

/** One cue or line with its words, when it was said and for how long. */
export interface Turn {
  /** segment of the record */
  segment: number;
  /** speaker as the record names them, or null */
  voice: string | null;
  text: string;
  words: readonly string[];
  stems: readonly string[];
  /** seconds from the start of the record */
  start: number;
  /** seconds it took */
  length: number;
  heading: boolean;
  /** heading it stands under */
  section: string | null;
}

/** A record as turns. */
export interface Talk {
  turns: Turn[];
  /** how the times are known: `measured` from the record's own, `estimated` from the number of words */
  times: 'measured' | 'estimated';
  /** seconds the whole took */
  length: number;
  /** cut into captions, over whose borders sentences run */
  captions: boolean;
}

/** Words said in a minute of conversation: common practice, 150. Used only where the record has no times. */
const WORDS_A_MINUTE = 150;
const A_LONG_TURN = 120;

const byWords = (words: number) => (words * 60) / WORDS_A_MINUTE;

/**
 * Turns of a record in its order. Times come from the record when most of its lines have one: a cue's own start and
 * end, or the time until the next line, though no longer than its words can have taken twice over. Otherwise they are
 * estimated from the words.
 */
export function turnsOf(record: MeetingRecord): Talk {
  const segments = record.segments.filter((s) => (s.role === 'words' || s.role === 'heading') && s.text !== '');
  const timed = segments.filter((s) => s.start !== null).length;
  const measured = segments.length > 0 && timed >= segments.length * 0.6;
  let at = 0;
  const turns = segments.map((s, i): Turn => {
    const words = wordsOf(s.text.length > 4000 ? s.text.slice(0, 4000) : s.text);
    const expected = s.role === 'heading' ? 0 : byWords(words.length);
    if (measured && s.start !== null) at = s.start;
    const next = measured ? (segments[i + 1]?.start ?? null) : null;
    const untilNext = next !== null && next > at ? Math.min(next - at, Math.max(2, expected * 2), A_LONG_TURN) : expected;
    const length = measured && s.end !== null && s.end > at ? s.end - at : untilNext;
    const turn = { segment: s.index, voice: s.voice, text: s.text, words, stems: contentStems(words), start: at, length, heading: s.role === 'heading', section: s.section };
    at += length;
    return turn;
  });
  const length = turns.reduce((m, t) => Math.max(m, t.start + t.length), 0);
  return { turns, times: measured ? 'measured' : 'estimated', length, captions: isCaptions(record) };
}

/**
 * The part of a record up to a moment: what somebody who comes late has missed.
 * @param until seconds from the start for a record with times, or else the last segment that counts
 */
export function soFar(record: MeetingRecord, until: { seconds: number } | { segment: number }): MeetingRecord {
  const passed = 'segment' in until ? until.segment : lastBefore(record, until.seconds);
  const segments = record.segments.filter((s) => s.index <= passed);
  const heard = new Set(segments.map((s) => s.voice));
  return { ...record, segments, voices: record.voices.filter((v) => heard.has(v)) };
}

function lastBefore(record: MeetingRecord, seconds: number): number {
  const { turns } = turnsOf(record);
  let last = -1;
  for (const t of turns) if (t.start <= seconds) last = Math.max(last, t.segment);
  return last;
}
