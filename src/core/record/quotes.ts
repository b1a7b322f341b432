import type { MeetingRecord } from './model.ts';

/** What is kept of a segment when a record's words go: the quoted stretches where they stood, blanks between them. */
export interface QuotedSegment {
  index: number;
  text: string;
  voice: string | null;
  start: number | null;
}

/** The quotes of a record: of each segment the stretches that something rests on. Ranges that overlap are one. */
export function quotesOf(record: Pick<MeetingRecord, 'segments'>, places: readonly { segment: number; from: number; to: number }[]): QuotedSegment[] {
  const bySegment = new Map<number, { from: number; to: number }[]>();
  for (const p of places) bySegment.set(p.segment, [...(bySegment.get(p.segment) ?? []), p]);
  const out: QuotedSegment[] = [];
  for (const [index, ranges] of [...bySegment].sort((a, b) => a[0] - b[0])) {
    const s = record.segments[index];
    if (!s) continue;
    const kept = s.text.split('').map((ch, i) => (ranges.some((r) => i >= r.from && i < r.to) ? ch : ' '));
    const text = kept.join('').trimEnd();
    if (text.trim()) out.push({ index, text, voice: s.voice, start: s.start });
  }
  return out;
}

/** A record of which only quotes are left: as long as it was, so that places still point at their words. */
export function recordOfQuotes(format: MeetingRecord['format'], count: number, quotes: readonly QuotedSegment[]): MeetingRecord {
  const by = new Map(quotes.map((q) => [q.index, q]));
  return {
    format,
    layout: 'quotes of a record whose words are gone',
    voices: [...new Set(quotes.flatMap((q) => (q.voice ? [q.voice] : [])))],
    doubts: [],
    segments: Array.from({ length: count }, (_, index) => ({ index, line: index + 1, text: by.get(index)?.text ?? '', voice: by.get(index)?.voice ?? null, start: by.get(index)?.start ?? null, end: null, role: 'words' as const, item: null, section: null })),
  };
}
