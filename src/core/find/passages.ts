import { isCaptions } from '../record/breath.ts';
import type { MeetingRecord } from '../record/model.ts';

/** A stretch of a record that is found as one: what somebody said in one go, or a paragraph of notes. */
export interface Passage {
  text: string;
  /** the record's own name for who says it */
  voice: string | null;
  /** where each segment begins in the text */
  cuts: Cut[];
  /** seconds from the start of the record */
  start: number | null;
}

export interface Cut {
  segment: number;
  at: number;
}

/** A passage grows no further once it has this many characters: about as much as one reads at a glance. */
const ENOUGH = 480;

/**
 * Passages of a record in its order. Captions and short turns of one speaker are joined, so that words which a cue's border
 * parts are still beside each other; a line of notes stands for itself.
 */
export function passagesOf(record: MeetingRecord): Passage[] {
  const out: Passage[] = [];
  const spoken = isCaptions(record) || record.segments.some((s) => s.start !== null);
  let last: Passage | null = null;
  for (const s of record.segments) {
    if (s.role !== 'words' && s.role !== 'heading') {
      if (s.role === 'mark') last = null;
      continue;
    }
    const text = s.text.trim();
    if (text === '') continue;
    const joins: boolean = last !== null && spoken && s.role === 'words' && last.voice === s.voice && last.text.length + text.length < ENOUGH;
    if (joins) {
      last!.cuts.push({ segment: s.index, at: last!.text.length + 1 });
      last!.text += ` ${text}`;
    } else {
      last = { text, voice: s.voice, cuts: [{ segment: s.index, at: 0 }], start: s.start };
      out.push(last);
      if (s.role === 'heading') last = null;
    }
  }
  return out;
}

/** The segment that a place in a passage's text belongs to. */
export function segmentAt(cuts: readonly Cut[], at: number): number | null {
  return cuts.findLast((c) => c.at <= at)?.segment ?? cuts[0]?.segment ?? null;
}

/** Cuts as they are kept, `12:0 13:45`. */
export const writeCuts = (cuts: readonly Cut[]) => cuts.map((c) => `${c.segment}:${c.at}`).join(' ');

export function readCuts(kept: string): Cut[] {
  return kept
    .split(' ')
    .filter(Boolean)
    .map((c) => {
      const [segment, at] = c.split(':').map(Number);
      return { segment: segment ?? 0, at: at ?? 0 };
    });
}
