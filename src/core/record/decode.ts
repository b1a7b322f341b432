import { RecordError } from './model.ts';

export interface Decoded {
  text: string;
  encoding: 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';
}

/** Largest record that is read, in bytes. A day of speech is well under one megabyte of text. */
export const LARGEST_RECORD = 20 * 1024 * 1024;

/**
 * Turns the bytes of a record into text.
 * Byte order marks decide first; then strict UTF-8; then UTF-16 without a mark, told by where its zero bytes stand;
 * then Windows-1252, which is what "Latin-1" files nearly always are (WHATWG Encoding Standard maps the label so).
 *
 * @throws RecordError for an empty, oversized or binary file
 */
export function decodeRecord(bytes: Uint8Array): Decoded {
  if (bytes.length === 0) throw new RecordError('The file is empty.', 'Choose the file again, or paste its text.');
  if (bytes.length > LARGEST_RECORD) {
    throw new RecordError(`The file has ${(bytes.length / 1048576).toFixed(1)} MB; a record may have ${LARGEST_RECORD / 1048576} MB.`, 'Split it by meeting and bring the parts in one by one.');
  }
  const decoded = decode(bytes);
  if (decoded.text.trim() === '') {
    throw new RecordError('The file holds nothing but blank lines.', 'Choose the file again, or paste its text.');
  }
  const odd = controlCharacters(decoded.text);
  if (odd !== null) {
    throw new RecordError('This is not a text file.', 'Ottik reads vtt, srt, txt, md, json, html, docx and eml. Export the transcript or the notes as one of these.', odd);
  }
  return decoded;
}

function decode(bytes: Uint8Array): Decoded {
  const [a, b, c] = bytes;
  if (a === 0xef && b === 0xbb && c === 0xbf) return { text: new TextDecoder('utf-8').decode(bytes), encoding: 'utf-8' };
  if (a === 0xff && b === 0xfe) return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'utf-16le' };
  if (a === 0xfe && b === 0xff) return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'utf-16be' };
  const wide = zeroBytes(bytes.subarray(0, 4096));
  if (wide) return { text: new TextDecoder(wide).decode(bytes), encoding: wide };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'utf-8' };
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'windows-1252' };
  }
}

/** UTF-16 text in Western scripts has a zero in almost every second byte; anything else has almost none. */
function zeroBytes(head: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  let even = 0;
  let odd = 0;
  for (let i = 0; i < head.length; i++) {
    if (head[i] !== 0) continue;
    if (i % 2 === 0) even++;
    else odd++;
  }
  const half = head.length / 2;
  if (half < 2) return null;
  if (odd > half * 0.7 && even < half * 0.1) return 'utf-16le';
  if (even > half * 0.7 && odd < half * 0.1) return 'utf-16be';
  return null;
}

/** Line of the first stretch that no text file has, or null. A stray control character is let pass. */
function controlCharacters(text: string): number | null {
  let seen = 0;
  let line = 1;
  for (let i = 0; i < text.length && i < 200_000; i++) {
    const code = text.charCodeAt(i);
    if (code === 10) line++;
    else if (code === 0 || code === 0xfffd || (code < 32 && code !== 9 && code !== 13 && code !== 12)) seen++;
    if (seen > 8 && seen > i * 0.02) return line;
  }
  return null;
}
