import { readCaptions } from './captions.ts';
import { decodeRecord } from './decode.ts';
import { readHtml } from './hypertext.ts';
import { readJson } from './json.ts';
import { languageDoubt } from './language.ts';
import { readMarkdown } from './markdown.ts';
import type { MeetingRecord, RecordFormat } from './model.ts';
import { readPlain } from './plain.ts';

/** Byte order mark off, one kind of line end. */
export function normaliseText(text: string): string {
  return text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n');
}

/** Which format a text is in, by its file name when that says so and by its own look otherwise. */
export function guessFormat(text: string, fileName: string | null): RecordFormat {
  const ending = /\.(vtt|srt|txt|md|markdown|text|json|html?)$/i.exec(fileName ?? '')?.[1]?.toLowerCase();
  const head = text.slice(0, 4000);
  if (/^WEBVTT(\s|$)/.test(head)) return 'vtt';
  if (ending === 'vtt' || ending === 'srt') return ending;
  if (/^\s*(\d+\s*\n)?\d{2}:\d{2}:\d{2},\d{3}\s+-->/.test(head)) return 'srt';
  if (ending === 'json' || /^\s*(?:\[\s*\{|\{\s*")/.test(head)) return 'json';
  if (ending === 'html' || ending === 'htm' || /^\s*<(?:!doctype html|html|body|div|p|h1|table|ul)\b/i.test(head)) return 'html';
  if (ending === 'md' || ending === 'markdown') return 'md';
  if (ending === 'txt' || ending === 'text') return 'txt';
  return /^(#{1,3} \S|[-*] \[[ x]\] )/m.test(head) ? 'md' : 'txt';
}

/**
 * Reads a record of any format.
 *
 * @param text   the record as text; line ends of any kind
 * @param format the format it is in, see {@link guessFormat}
 * @param as     for plain text: the layout it is said to have, see {@link readPlain}
 * @returns segments numbered from 0 in file order
 * @throws RecordError when a caption file has no cue, JSON is no record, or a layout is written down wrong
 */
export function readRecord(text: string, format: RecordFormat, as: string | null = null): MeetingRecord {
  const body = normaliseText(text);
  const record = withVoices(readBody(body, format, as));
  return { ...record, doubts: [...languageDoubt(record), ...record.doubts] };
}

function readBody(body: string, format: RecordFormat, as: string | null): MeetingRecord {
  switch (format) {
    case 'vtt':
    case 'srt':
      return readCaptions(body, format);
    case 'md':
      return readMarkdown(body);
    case 'json':
      return readJson(body);
    case 'html':
      return readHtml(body);
    default:
      return readPlain(body, as);
  }
}

/** A record with its speakers in order of appearance. */
export function withVoices(record: MeetingRecord): MeetingRecord {
  const voices = new Set<string>();
  for (const s of record.segments) if (s.voice && s.role === 'words') voices.add(s.voice);
  return { ...record, voices: [...voices] };
}

/** Bytes to record: decoding, format and reading in one step. */
export function readRecordBytes(bytes: Uint8Array, fileName: string | null): MeetingRecord & { encoding: string } {
  const { text, encoding } = decodeRecord(bytes);
  const body = normaliseText(text);
  return { ...readRecord(body, guessFormat(body, fileName)), encoding };
}
