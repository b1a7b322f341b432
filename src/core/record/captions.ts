import { decodeHTML } from 'entities';
import { type Doubt, type MeetingRecord, RecordError, type Segment } from './model.ts';

/** One cue as its lines stand in the file. */
interface Cue {
  /** line of its time, or of its first words where it has none */
  line: number;
  timing: string | null;
  /** its words, with the line each stands on */
  words: { text: string; line: number }[];
}

/**
 * Caption files: WebVTT (W3C Candidate Recommendation, "WebVTT: The Web Video Text Tracks Format") and SubRip.
 * The two differ in the decimal sign and the header, so one reader serves both and is lenient in the same places
 * as the W3C's parser: cue identifiers, settings, NOTE, STYLE and REGION blocks, and spans are understood and left out.
 * A time begins a cue wherever it stands, and two voices in one cue are two segments. Words that belong to no cue are
 * kept with a doubt that says where.
 *
 * @param text   the whole file
 * @param format which of the two it claims to be
 * @throws RecordError when there is no cue in the file
 */
export function readCaptions(text: string, format: 'vtt' | 'srt'): MeetingRecord {
  const doubts: Doubt[] = [];
  const segments: Segment[] = [];
  let timed = 0;
  const cues = cuesOf(text, format, doubts);
  const known = new Set(cues.flatMap((c) => labelOf(plainCue(c.words[0]?.text ?? ''))?.voice ?? []));
  for (const cue of cues) {
    const { start, end } = timesOf(cue, doubts);
    if (cue.timing !== null) timed++;
    const turns = turnsIn(
      cue.words.map((w) => w.text),
      known,
    );
    const counts = turns.map((t) => Math.max(1, t.words.split(' ').length));
    const total = counts.reduce((a, b) => a + b, 0);
    let said = 0;
    for (const [k, { voice, words, at }] of turns.entries()) {
      // of a cue that several share, each has the part that their words take
      const part = (n: number) => (start === null || end === null ? start : Math.round((start + ((end - start) * n) / total) * 1000) / 1000);
      segments.push({
        index: segments.length,
        line: cue.words[at]?.line ?? cue.line,
        text: words,
        voice,
        start: k === 0 ? start : part(said),
        end: end === null ? null : k === turns.length - 1 ? end : part(said + counts[k]!),
        role: 'words',
        item: null,
        section: null,
      });
      said += counts[k]!;
    }
  }
  if (timed === 0) {
    throw new RecordError(`There is no cue in this ${format} file: no line has an arrow “-->” between two times.`, 'If it is a plain transcript, save it as txt and bring it in again.', 1);
  }
  return { format, layout: format === 'vtt' ? 'WebVTT cues' : 'SubRip cues', segments, voices: [], doubts };
}

/** A time with its arrow, wherever it stands; and a block's first or second line that has an arrow at all. */
const TIMING = /^\s*\d[\d:.,]*\s*-->/;
const ASIDE = /^(?:NOTE|STYLE|REGION)(?:\s|$)/;
/** Doubts about stray words that are told one by one. */
const MOST_TOLD = 20;

/** Cues in file order, with what stands beside them kept where it can be words. */
function cuesOf(text: string, format: 'vtt' | 'srt', doubts: Doubt[]): Cue[] {
  const cues: Cue[] = [];
  let block: { text: string; line: number }[] = [];
  let open: Cue | null = null;
  let aside = format === 'vtt' && /^WEBVTT(?:\s|$)/.test(text);
  let strays = 0;
  const stray = (words: typeof block) => {
    if (words.length === 0) return;
    const before = cues.at(-1);
    if (strays++ < MOST_TOLD) {
      doubts.push({ line: words[0]!.line, message: before ? 'These words stand after a blank line and have no time of their own; they are kept with the cue before them.' : 'These words stand before the first cue; they are kept without a time.' });
    }
    // one by one: a cue can have more lines than a call can have arguments
    if (before) for (const w of words) before.words.push(w);
    else cues.push({ line: words[0]!.line, timing: null, words });
  };
  const numbers = (words: typeof block) => words.every((w) => /^\d+$/.test(w.text));
  let number = 0;
  for (const full of text.split('\n')) {
    number++;
    const line = full.trim();
    if (line === '') {
      if (!numbers(block)) stray(block);
      block = [];
      open = null;
      aside = false;
      continue;
    }
    const begins = TIMING.test(line) || (open === null && block.length <= 1 && line.includes('-->'));
    if (begins && !(aside && !TIMING.test(line))) {
      // the line before a time is what its cue is called, a number where no blank line stands before it
      if (open === null) stray(block.length > 1 ? block.filter((w) => !/^\d+$/.test(w.text)) : []);
      else if (/^\d+$/.test(open.words.at(-1)?.text ?? '')) open.words.pop();
      block = [];
      aside = false;
      open = { line: number, timing: line, words: [] };
      cues.push(open);
    } else if (aside) continue;
    else if (open) open.words.push({ text: line, line: number });
    else if (format === 'vtt' && block.length === 0 && ASIDE.test(line)) aside = true;
    else block.push({ text: line, line: number });
  }
  if (!numbers(block)) stray(block);
  if (strays > MOST_TOLD) doubts.push({ line: 1, message: `Words without a time of their own stand in ${strays} places; all are kept.` });
  return cues;
}

function timesOf({ timing, line }: Cue, doubts: Doubt[]): { start: number | null; end: number | null } {
  if (timing === null) return { start: null, end: null };
  const [from = '', to = ''] = timing.split('-->');
  const start = readClock(from.trim());
  const end = readClock(to.trim().split(/\s+/)[0] ?? '');
  if (start === null || end === null) doubts.push({ line, message: `“${timing.slice(0, 60)}” is not a time; the words are kept without one.` });
  else if (end < start) doubts.push({ line, message: 'The cue ends before it starts; its start is kept.' });
  return { start, end: end !== null && start !== null && end < start ? start : end };
}

/** `01:02:03.456`, `02:03.456` or `01:02:03,456`, in seconds; null when it is none of them. */
export function readClock(stamp: string): number | null {
  const m = /^(?:(\d{1,4}):)?(\d{1,2}):(\d{1,2})(?:[.,](\d{1,3}))?$/.exec(stamp);
  if (!m) return null;
  const [, hours = '0', minutes = '0', seconds = '0', part = '0'] = m;
  if (Number(minutes) > 59 || Number(seconds) > 59) return null;
  return Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds) + Number(`0.${part}`);
}

interface CueTurn {
  voice: string | null;
  words: string;
  /** which of the cue's lines it begins on */
  at: number;
}

const VOICE_TAG = /<v(?:\.[^\s>]{0,60})?[ \t]+([^>]{1,120})>/;
const EACH_VOICE_TAG = /(?=<v(?:\.[^\s>]{0,60})?[ \t])/;

/**
 * Who says what in one cue: `<v Name>`, `Name:` at the head of a line, or a line of its own for each with a dash or `>>`
 * before the name; spans and entities resolved.
 */
function turnsIn(lines: readonly string[], known: ReadonlySet<string>): CueTurn[] {
  const turns: CueTurn[] = [];
  for (const [at, line] of lines.entries()) {
    for (const part of line.split(EACH_VOICE_TAG)) {
      const tag = VOICE_TAG.exec(part);
      const words = plainCue(part);
      const label = tag ? null : labelOf(words);
      // inside a cue a line that begins like that may as well say "Thursday: closed"
      const named = label && (at === 0 || /^[-–>]/.test(words) || known.has(label.voice)) ? label : null;
      const voice = tag ? decodeHTML(tag[1]!).trim() || null : (named?.voice ?? null);
      const said = named ? named.words : words;
      const last = turns.at(-1);
      if (voice === null && last) last.words = `${last.words} ${said}`.trim();
      else if (voice !== null && last && (last.voice === voice || (last.words === '' && last.voice === null))) Object.assign(last, { voice, words: `${last.words} ${said}`.trim() });
      else turns.push({ voice, words: said, at });
    }
  }
  return turns.length ? turns : [{ voice: null, words: '', at: 0 }];
}

function labelOf(words: string): { voice: string; words: string } | null {
  const label = /^(?:[-–]|>>+)?\s*([\p{L}][\p{L}\p{M}\p{N}.’' -]{0,38}?)\s*:\s+(?=\S)/u.exec(words);
  return label && looksLikeName(label[1]!) ? { voice: label[1]!, words: words.slice(label[0].length) } : null;
}

function plainCue(text: string): string {
  return decodeHTML(text.replace(/<\/?(?:v|c|i|b|u|ruby|rt|lang|font)(?:[.\s][^>]{0,200})?>/g, '').replace(/<\d{1,4}:[\d:.]{1,12}>/g, ''))
    .replace(/[\u200e\u200f]/g, '')
    .replace(/\s+/g, ' ')
    .trim();
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
