import { z } from 'zod';
import { type MeetingRecord, RecordError, type Segment } from './model.ts';

const Time = z.union([z.number().min(0).max(1e7), z.string().max(40)]).nullish();
/** One thing said; the names that programs give to speaker, words and time are taken as they come. */
const Said = z
  .object({
    speaker: z.string().max(200).nullish(),
    voice: z.string().max(200).nullish(),
    name: z.string().max(200).nullish(),
    author: z.string().max(200).nullish(),
    text: z.string().optional(),
    words: z.string().optional(),
    message: z.string().optional(),
    content: z.string().optional(),
    start: Time,
    time: Time,
    end: Time,
  })
  .refine((s) => (s.text ?? s.words ?? s.message ?? s.content) !== undefined, 'has no text');
/** Ottik's own shape: `{ "segments": [ { "speaker", "start", "end", "text" } ] }`, see docs/records.md; or the list alone. */
const Whole = z.union([z.array(Said), z.object({ segments: z.array(Said) }), z.object({ messages: z.array(Said) }), z.object({ turns: z.array(Said) })]);

const list = (read: z.infer<typeof Whole>) => (Array.isArray(read) ? read : 'segments' in read ? read.segments : 'messages' in read ? read.messages : read.turns);

/**
 * A record as JSON. Times are seconds, `h:mm:ss`, or dates as of ISO 8601, of which the first counts as the start.
 * @throws RecordError when it is no JSON, or none of the shapes, with the place that is wrong
 */
export function readJson(text: string): MeetingRecord {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    const at = /position (\d+)/.exec(error instanceof Error ? error.message : '')?.[1];
    throw new RecordError('This is not valid JSON.', 'Export it once more, or paste the words as text.', at ? text.slice(0, Number(at)).split('\n').length : null);
  }
  const read = Whole.safeParse(value);
  if (!read.success) throw new RecordError(`This JSON is no record: ${wrongIn(value)}.`, 'A record is a list of things said, each with "text" and, where known, "speaker" and "start".');
  let first: number | null = null;
  const seconds = (t: z.infer<typeof Time>): number | null => {
    if (t === null || t === undefined) return null;
    if (typeof t === 'number') return t;
    const clock = /^(?:(\d{1,3}):)?(\d{1,3}):(\d{2})(?:[.,](\d{1,3}))?$/.exec(t.trim());
    if (clock) return Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + Number(clock[3]) + Number(`0.${clock[4] ?? 0}`);
    const day = Date.parse(t);
    if (Number.isNaN(day)) return null;
    first ??= day;
    return Math.max(0, (day - first) / 1000);
  };
  const segments = list(read.data).map((s, index): Segment => {
    const words = (s.text ?? s.words ?? s.message ?? s.content ?? '').replace(/\s+/g, ' ').trim();
    return { index, line: index + 1, text: words, voice: (s.speaker ?? s.voice ?? s.name ?? s.author)?.trim() || null, start: seconds(s.start ?? s.time), end: seconds(s.end), role: 'words', item: null, section: null };
  });
  return { format: 'json', layout: 'a list of things said', segments, voices: [], doubts: [] };
}

/** The first place that keeps a value from being a record, for people. */
function wrongIn(value: unknown): string {
  const found = typeof value === 'object' && value !== null ? (Array.isArray(value) ? value : ((value as Record<string, unknown>).segments ?? (value as Record<string, unknown>).messages ?? (value as Record<string, unknown>).turns)) : undefined;
  if (!Array.isArray(found)) return 'there is no list of segments in it';
  for (const [i, s] of found.entries()) {
    const one = Said.safeParse(s);
    if (!one.success) return `segment ${i + 1} ${one.error.issues[0]?.message ?? 'is not one'}`;
  }
  return 'it has another shape';
}
