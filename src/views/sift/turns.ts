import type { Segment } from '../../core/record/model.ts';

/** Segments shown as one paragraph: what somebody says without another one speaking. */
export interface Turn {
  key: number;
  voice: string | null;
  start: number | null;
  role: Segment['role'];
  item: Segment['item'];
  segments: Segment[];
}

/** Longest pause, in seconds, over which captions of one voice still read as one paragraph. */
const PAUSE = 4;
/** Characters after which a paragraph of captions is broken all the same. */
const LONG = 700;

/** Captions of one voice run together; lines of notes stay lines. */
export function turnsOf(segments: readonly Segment[], captions: boolean): Turn[] {
  const turns: Turn[] = [];
  let length = 0;
  for (const s of segments) {
    if (s.role === 'label') continue;
    const last = turns[turns.length - 1];
    const before = last?.segments[last.segments.length - 1];
    const joins = captions && last && before && s.voice !== null && last.voice === s.voice && length < LONG && (s.start === null || before.end === null || s.start - before.end < PAUSE);
    if (joins) {
      last.segments.push(s);
      length += s.text.length;
    } else {
      turns.push({ key: s.index, voice: s.voice, start: s.start, role: s.role, item: s.item, segments: [s] });
      length = s.text.length;
    }
  }
  return turns;
}
