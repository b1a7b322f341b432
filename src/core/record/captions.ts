import { type Doubt, type MeetingRecord, RecordError, type Segment } from './model.ts';

/**
 * Caption files: WebVTT (W3C Candidate Recommendation, "WebVTT: The Web Video Text Tracks Format") and SubRip.
 * The two differ in the decimal sign and the header, so one reader serves both and is lenient in the same places
 * as the W3C's parser: cue identifiers, settings, NOTE, STYLE and REGION blocks, and spans are understood and left out.
 *
 * @param text   the whole file
 * @param format which of the two it claims to be
 * @throws RecordError when there is no cue in the file
 */
export function readCaptions(text: string, format: 'vtt' | 'srt'): MeetingRecord {
  const doubts: Doubt[] = [];
  const segments: Segment[] = [];
  for (const block of blocks(text)) {
    const at = block.lines.findIndex((line) => line.includes('-->'));
    if (at < 0) continue;
    const line = block.line + at;
    const [from = '', to = ''] = (block.lines[at] ?? '').split('-->');
    const start = readClock(from.trim());
    const end = readClock(to.trim().split(/\s+/)[0] ?? '');
    if (start === null || end === null) doubts.push({ line, message: `“${(block.lines[at] ?? '').trim().slice(0, 60)}” is not a time; the words are kept without one.` });
    else if (end < start) doubts.push({ line, message: 'The cue ends before it starts; its start is kept.' });
    const { voice, words } = readCue(
      block.lines
        .slice(at + 1)
        .join(' ')
        .trim(),
    );
    segments.push({
      index: segments.length,
      line: Math.min(line + 1, block.line + block.lines.length - 1),
      text: words,
      voice,
      start,
      end: end !== null && start !== null && end < start ? start : end,
      role: 'words',
      item: null,
      section: null,
    });
  }
  if (segments.length === 0) {
    throw new RecordError(`There is no cue in this ${format} file: no line has an arrow “-->” between two times.`, 'If it is a plain transcript, save it as txt and bring it in again.', 1);
  }
  return { format, layout: format === 'vtt' ? 'WebVTT cues' : 'SubRip cues', segments, voices: [], doubts };
}

function* blocks(text: string): Generator<{ line: number; lines: string[] }> {
  let lines: string[] = [];
  let first = 1;
  let number = 0;
  for (const line of text.split('\n')) {
    number++;
    if (line.trim() === '' && line.length === 0) {
      if (lines.length > 0) yield { line: first, lines };
      lines = [];
    } else {
      if (lines.length === 0) first = number;
      lines.push(line);
    }
  }
  if (lines.length > 0) yield { line: first, lines };
}

/** `01:02:03.456`, `02:03.456` or `01:02:03,456`, in seconds; null when it is none of them. */
export function readClock(stamp: string): number | null {
  const m = /^(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})(?:[.,](\d{1,3}))?$/.exec(stamp);
  if (!m) return null;
  const [, hours = '0', minutes = '0', seconds = '0', part = '0'] = m;
  if (Number(minutes) > 59 || Number(seconds) > 59) return null;
  return Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds) + Number(`0.${part}`);
}

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', lrm: '', rlm: '', quot: '"', apos: "'" };

/** Speaker and words of one cue: `<v Name>`, or `Name:` at its head; spans and entities resolved. */
function readCue(payload: string): { voice: string | null; words: string } {
  let voice: string | null = null;
  const tag = /<v(?:\.[^\s>]*)?[ \t]+([^>]{1,120})>/.exec(payload);
  if (tag) voice = decodeEntities(tag[1] ?? '').trim() || null;
  let words = decodeEntities(payload.replace(/<\/?(?:v|c|i|b|u|ruby|rt|lang|font)(?:[.\s][^>]{0,200})?>/g, '').replace(/<\d{1,4}:[\d:.]{1,12}>/g, ''))
    .replace(/\s+/g, ' ')
    .trim();
  if (!voice) {
    const label = /^[-–]?\s*([\p{L}][\p{L}\p{M}\p{N}.’' -]{0,38}?)\s*:\s+(?=\S)/u.exec(words);
    if (label && looksLikeName(label[1] ?? '')) {
      voice = label[1] ?? null;
      words = words.slice(label[0].length);
    }
  }
  return { voice, words };
}

function decodeEntities(text: string): string {
  return text.replace(/&(amp|lt|gt|nbsp|lrm|rlm|quot|apos);/g, (_, name: string) => ENTITIES[name] ?? '');
}

/** What minute takers write before a line, and nobody is called. */
const LABEL = /^(?:actions?|decisions?|decided|agreed|resolved|questions?|open|parked|to[- ]?do|tasks?|notes?|info|risks?|issues?|next|summary|topics?|agenda|date|time|place|present|absent|apologies|done|result|outcome|reminder|deadline)\b(?!['’-])/i;

/** A label before a colon is a name when each of its words begins with a capital or is a particle of a name, and the first is not what minute takers write there. */
export function looksLikeName(label: string): boolean {
  const words = label.trim().split(/\s+/);
  if (LABEL.test(label.trim())) return false;
  if (words.length > 5 || words.length === 0) return false;
  return words.every((w) => /^(?:[\p{Lu}]|\d{1,3}$)/u.test(w) || /^(van|von|de|da|del|der|den|di|la|le|bin|al|el|of|the|and|dos|du)$/.test(w)) && /^[\p{Lu}]/u.test(words[0] ?? '');
}
