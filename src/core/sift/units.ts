import type { Roster } from '../language/people.ts';
import { type Span, sentencesOf } from '../language/sentences.ts';
import type { MeetingRecord, Segment } from '../record/model.ts';

/**
 * What Sift judges one by one: a cue or a line, and of long prose (minutes, a memo that came as one paragraph) each
 * sentence, since a paragraph of minutes can hold an action, a decision and news of an old one at once.
 */
export interface Unit extends Span {
  index: number;
  segment: number;
  text: string;
  /** person who speaks, or who wrote the notes; null where the record does not tell */
  speaker: string | null;
  /** somebody's own voice ("I" is the speaker), rather than notes about what was said */
  spoken: boolean;
  section: string | null;
  heading: boolean;
  source: Segment;
}

/** Words from which a segment is split into its sentences. */
const LONG = 38;
/** A record of more units than this is cut there; a whole day of talk has fewer. */
export const MOST_UNITS = 40_000;

/**
 * @param record the record as it was read
 * @param roster people that speaker labels are matched with
 * @param author person who typed or dictated the record when it is notes or a memo
 */
export function unitsOf(record: MeetingRecord, roster: Roster, author: string | null): Unit[] {
  const units: Unit[] = [];
  const voices = new Map(record.voices.map((v) => [v, roster.voice(v)]));
  const spoken = record.voices.length > 0 || record.format === 'vtt' || record.format === 'srt' || record.layout === '[time] words';
  for (const s of record.segments) {
    if (units.length >= MOST_UNITS) break;
    if (s.role === 'label' || s.role === 'mark' || s.role === 'meta' || s.text === '') continue;
    const speaker = s.voice ? (voices.get(s.voice) ?? null) : spoken ? null : author;
    for (const span of spansOf(s)) {
      units.push({
        ...span,
        index: units.length,
        segment: s.index,
        text: s.text.slice(span.from, span.to),
        speaker,
        spoken,
        section: s.section,
        heading: s.role === 'heading',
        source: s,
      });
    }
  }
  return units;
}

function spansOf(s: Segment): Span[] {
  const words = s.text.length > 20_000 ? LONG + 1 : s.text.split(/\s+/).length;
  const whole = { from: 0, to: s.text.length };
  if (s.role === 'heading') return [{ from: 0, to: Math.min(s.text.length, 400) }];
  if (words < LONG || s.item?.cells) return [whole];
  const sentences = sentencesOf(s.text, 600);
  const joined: Span[] = [];
  for (const span of sentences) {
    const last = joined[joined.length - 1];
    if (last && (span.to - span.from < 24 || last.to - last.from < 24)) last.to = span.to;
    else joined.push({ ...span });
  }
  return joined;
}
