import { looksLikeName, readClock } from './captions.ts';
import { type Doubt, type MeetingRecord, RecordError, type Segment, type SegmentRole } from './model.ts';

/**
 * Plain text in the layouts transcripts, chats, mails and memos are pasted in. A layout is one line of the table
 * `LAYOUTS`; the one that explains most lines of the file is taken, and lines it does not explain belong to the
 * speaker above them. To add a layout, add a line and a case to its table of tests.
 */

interface LineParts {
  voice?: string;
  time?: string;
  words: string;
}

interface Layout {
  name: string;
  /** share of the lines that must match before the layout is believed */
  share: number;
  /** the line names speaker and time only; the words follow on the next lines */
  heads: boolean;
  read(line: string): LineParts | null;
}

const DAY_STAMP = String.raw`(?:\d{4}-\d{1,2}-\d{1,2}|\d{1,2}[/.-]\d{1,2}[/.-](?:\d{4}|\d{2})|\d{4}/\d{1,2}/\d{1,2})`;
const STAMP = String.raw`(?:${DAY_STAMP}[ T,]+(?:at )?)?\d{1,2}:\d{2}(?::\d{2})?(?:[.,]\d{1,3})?(?:\s?[AaPp]\.?[Mm]\.?)?`;
const NAME = String.raw`[\p{L}][\p{L}\p{M}\p{N}.’'() -]{0,48}?`;

const named = (pattern: string) => {
  const shape = new RegExp(`^${pattern}$`, 'u');
  return (line: string): LineParts | null => {
    const groups = shape.exec(line)?.groups;
    if (!groups) return null;
    if (groups.voice !== undefined && !looksLikeName(groups.voice.replace(/[()]/g, ' '))) return null;
    const parts: LineParts = { words: groups.words ?? '' };
    if (groups.voice !== undefined) parts.voice = groups.voice.trim();
    if (groups.time !== undefined) parts.time = groups.time;
    return parts;
  };
};

/** Before each line of a chat stands day and time, so that whatever comes before the colon is somebody: a number, a nickname. */
const ANYBODY = '(?<voice>[^:\\[\\]\\n]{1,40}?)';

function anybody(pattern: string) {
  const shape = new RegExp(`^${pattern}$`, 'u');
  return (line: string): LineParts | null => {
    const groups = shape.exec(line)?.groups;
    return groups ? { voice: groups.voice!.trim(), time: groups.time!, words: groups.words ?? '' } : null;
  };
}

const LAYOUTS: readonly Layout[] = [
  { name: '[time] Name: words', share: 0.3, heads: false, read: named(`[\\[(](?<time>${STAMP})[\\])]\\s*(?<voice>${NAME}):\\s+(?<words>.*)`) },
  { name: 'Name (time): words', share: 0.3, heads: false, read: named(`(?<voice>${NAME})\\s*[\\[(](?<time>${STAMP})[\\])]\\s*:?\\s+(?<words>.*)`) },
  { name: 'time Name: words', share: 0.3, heads: false, read: named(`(?<time>${STAMP})\\s*[-–|,]?\\s*(?<voice>${NAME}):\\s+(?<words>.*)`) },
  { name: '[day, time] Name: words', share: 0.3, heads: false, read: anybody(`\\[(?<time>${DAY_STAMP}[ T,]+${STAMP})\\]\\s*(?:~\\s*)?${ANYBODY}:(?:\\s+(?<words>.*))?`) },
  { name: 'day, time - Name: words', share: 0.3, heads: false, read: anybody(`(?<time>${DAY_STAMP}[ T,]+${STAMP})\\s*[-–]\\s*(?:~\\s*)?${ANYBODY}:(?:\\s+(?<words>.*))?`) },
  { name: 'Name and time above the words', share: 0.12, heads: true, read: named(`(?<voice>${NAME})(?:\\s{1,}|\\s*[,|–-]\\s*)[\\[(]?(?<time>${STAMP})[\\])]?`) },
  { name: '[time] words', share: 0.5, heads: false, read: named(`[\\[(](?<time>${STAMP})[\\])]\\s*(?<words>.*)`) },
  { name: 'Name: words', share: 0.5, heads: false, read: named(`(?<voice>${NAME}):\\s+(?<words>.*)`) },
];

const MAIL_HEADER = /^(From|To|Cc|Bcc|Date|Sent|Subject|Reply-To):\s/;
const MARK = /^(\[[^\]]{1,60}\]|[-=_*~]{3,}|<[^>]{1,60} omitted>)$/;

/** Marks of writing direction, which chats put before times and names. */
const INVISIBLE = /[\u200e\u200f\u202a-\u202e\u2066-\u2069]/g;

/** What a text is called that has no layout. */
export const MEMO = 'a memo, line by line';

/** Layouts a text can be said to have. */
export const LAYOUT_NAMES: readonly string[] = [...LAYOUTS.map((l) => l.name), MEMO];

/** Names what stands where in a line whose layout is written down by hand. */
const PLACEHOLDER = /\b(NAME|TIME|WORDS)\b/;

/**
 * A layout by its name, or written down as a line with NAME, TIME and WORDS in their places (`[TIME] NAME | WORDS`).
 * @throws RecordError when the line does not say where the words are, or names a part twice
 */
function layoutNamed(as: string): Layout | null {
  if (as === MEMO) return null;
  const known = LAYOUTS.find((l) => l.name === as);
  if (known) return known;
  const pieces = as.trim().slice(0, 200).split(PLACEHOLDER);
  const parts = pieces.filter((p) => PLACEHOLDER.test(p));
  const advice = 'Write one line as it stands in the record, with NAME, TIME and WORDS in their places, like: [TIME] NAME | WORDS';
  if (!parts.includes('WORDS')) throw new RecordError('This layout does not say where the words are.', advice);
  if (new Set(parts).size < parts.length) throw new RecordError('This layout names a part twice.', advice);
  const shape: Record<string, string> = { NAME: `(?<voice>${NAME})`, TIME: `(?<time>${STAMP})`, WORDS: '(?<words>.*)' };
  const literal = (text: string) =>
    text
      .trim()
      .split(/\s+/)
      .map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
      .join('\\s+');
  const pattern = pieces.map((p) => shape[p] ?? (p.trim() === '' ? (p === '' ? '' : '\\s+') : `\\s*${literal(p)}\\s*`)).join('');
  return { name: as, share: 0, heads: false, read: named(pattern) };
}

/**
 * Reads plain text. Text that fits no layout is a memo, one segment a line, with no speaker.
 * @param as the layout it is said to have, see {@link LAYOUT_NAMES}; null tells it by its look, and then nothing is thrown
 * @throws RecordError when the layout is written down wrong
 */
export function readPlain(text: string, as: string | null = null): MeetingRecord {
  const lines = text
    .split('\n')
    .map((words, i) => ({
      words: words
        .replace(INVISIBLE, '')
        .replace(/[\u00a0\u202f]/g, ' ')
        .trim(),
      line: i + 1,
    }))
    .filter((l) => l.words !== '');
  const mail = as === null && lines.slice(0, 8).filter((l) => MAIL_HEADER.test(l.words)).length >= 2;
  const layout = as !== null ? layoutNamed(as) : mail ? null : bestLayout(lines.map((l) => l.words));
  const doubts: Doubt[] = [];
  const segments: Segment[] = [];
  let voice: string | null = null;
  let start: number | null = null;
  let headers = mail;
  let first: number | null = null;
  // a record whose first stamp is 6:00 or later tells the time of day
  const stamp = lines.map((l) => layout?.read(l.words)?.time).find((t) => t !== undefined);
  const monthFirst = lines.some((l) => /^\[?\d{1,2}\/(?:1[3-9]|2\d|3[01])\//.test(l.words));
  if (as === null && layout) doubts.push(...otherLayouts(layout, lines));
  const ofDay = stamp !== undefined && /^(?:0?[6-9]|1\d|2[0-3]):\d{2}(?::\d{2})?$/.test(stamp);
  for (const { words, line } of lines) {
    let role: SegmentRole = 'words';
    let rest = words;
    const parts = layout?.read(words) ?? null;
    if (headers && MAIL_HEADER.test(words)) role = 'meta';
    else headers = false;
    if (parts) {
      voice = parts.voice ?? voice;
      if (parts.time !== undefined) {
        const at = readTime(parts.time, ofDay, monthFirst);
        if (at === null) doubts.push({ line, message: `“${parts.time}” is not a time; the words are kept without one.` });
        else first ??= at.absolute ? at.seconds : 0;
        start = at === null ? start : Math.max(0, at.seconds - (first ?? 0));
      }
      rest = parts.words;
      if (layout?.heads) role = 'label';
    }
    if (role === 'words' && MARK.test(rest)) role = 'mark';
    if (role === 'words' && layout?.heads && segments.length < 3 && voice === null) role = 'meta';
    segments.push({ index: segments.length, line, text: rest, voice: role === 'meta' ? null : voice, start, end: null, role, item: null, section: null });
  }
  return { format: 'txt', layout: mail ? 'a mail' : (layout?.name ?? MEMO), segments, voices: [], doubts };
}

function bestLayout(lines: string[]): Layout | null {
  const sample = lines.length > 400 ? lines.slice(0, 400) : lines;
  let best: Layout | null = null;
  let most = 0;
  for (const layout of LAYOUTS) {
    let hits = 0;
    const voices = new Set<string>();
    for (const line of sample) {
      const parts = line.length < 20_000 ? layout.read(line) : null;
      if (!parts) continue;
      hits++;
      if (parts.voice) voices.add(parts.voice);
    }
    if (hits < 2 || hits / sample.length < layout.share) continue;
    // headed notes ("Budget: …") look the same, but hardly a heading comes twice; in a short talk every line has its name
    const repeats = voices.size <= Math.max(3, hits * (hits === sample.length ? 0.8 : 0.6));
    if (layout.name === 'Name: words' && !repeats) continue;
    const weight = layout.heads ? hits * 2 : hits;
    if (weight > most) {
      best = layout;
      most = weight;
    }
  }
  return best;
}

/** Lines that another layout explains, though the file as a whole has this one: they are words of whoever speaks above them, and that is said. */
function otherLayouts(layout: Layout, lines: readonly { words: string; line: number }[]): Doubt[] {
  const rest = lines.filter((l) => l.words.length < 20_000 && !layout.read(l.words));
  const other = rest.length >= 3 ? bestLayout(rest.map((l) => l.words)) : null;
  if (!other || other === layout) return [];
  const own = rest.filter((l) => other.read(l.words));
  return own.length < 3 ? [] : [{ line: own[0]!.line, message: `From here ${own.length} lines look like “${other.name}”, the others like “${layout.name}”. They are kept as words of the speaker above them; bring in each part as a file of its own to have both read.` }];
}

/** A time of day (`8:58 AM`, `2026-06-10 11:02`, `26/11/2026, 20:14`) or a time since the start (`0:16`, `00:03:12`), in seconds. */
function readTime(stamp: string, ofDay: boolean, monthFirst: boolean): { seconds: number; absolute: boolean } | null {
  const m = /^(?:(\d{1,4})([-/.])(\d{1,2})\2(\d{1,4})[ T,]+(?:at )?)?(\d{1,2}:\d{2}(?::\d{2})?(?:[.,]\d{1,3})?)\s?([AaPp])?\.?[Mm]?\.?$/.exec(stamp.trim());
  if (!m) return null;
  const [, a, , b, c, clock = '', half] = m;
  const absolute = ofDay || a !== undefined || half !== undefined;
  const seconds = absolute && clock.split(':').length === 2 ? readClock(`${clock}:00`) : readClock(clock);
  if (seconds === null) return null;
  const noon = half?.toLowerCase() === 'p' && seconds < 43200 ? 43200 : half?.toLowerCase() === 'a' && seconds >= 43200 ? -43200 : 0;
  const [year, month, day] = a === undefined ? [] : a.length === 4 ? [a, b, c] : monthFirst ? [c, a, b] : [c, b, a];
  const at = year === undefined ? 0 : Date.UTC(Number(year) < 100 ? 2000 + Number(year) : Number(year), Number(month) - 1, Number(day)) / 1000;
  return { seconds: seconds + noon + at, absolute };
}
