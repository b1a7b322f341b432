import { trimEnd } from '../language/trim.ts';
import type { Item, MeetingRecord, Segment, SegmentRole } from './model.ts';

/**
 * Notes and minutes in Markdown (CommonMark, with the task lists and tables of the GitHub specification).
 * Read line by line, since evidence points at lines: each line keeps its place in list, table and section, and loses
 * its marks. Never throws.
 */
export function readMarkdown(text: string): MeetingRecord {
  const segments: Segment[] = [];
  let section: string | null = null;
  let head: string[] | null = null;
  // rows of a table without outer strokes go on until a blank line
  let bare = false;
  let fence: string | null = null;
  let rawAbove = '';
  text.split('\n').forEach((full, i) => {
    const line = full.trim();
    if (line === '') {
      head = null;
      bare = false;
      return;
    }
    let role: SegmentRole = 'words';
    let words = line;
    let item: Item | null = null;
    const fenced = /^(`{3,20}|~{3,20})(?![`~])([^`]*)$/.exec(line);
    if (fence !== null || (fenced && full.search(/\S/) < 4)) {
      // inside a fence nothing is a heading or a list: it is what somebody pasted
      const ends = fence !== null && fenced && fenced[1]!.startsWith(fence) && fenced[2]!.trim() === '';
      if (fence === null || ends) role = 'mark';
      if (fence === null) fence = fenced![1]!;
      else if (ends) fence = null;
      segments.push({ index: segments.length, line: i + 1, text: line, voice: null, start: null, end: null, role, item: null, section });
      return;
    }
    const above = segments.at(-1);
    const heading = /^(#{1,6})\s(.*)$/.exec(line);
    const bullet = /^(?:[-*+•]|\d{1,3}[.)]|[a-z][.)])\s{1,40}(?:\[([ xX✓-])\])?(.*)$/.exec(line);
    if (heading) {
      role = 'heading';
      words = plainWords(trimEnd(heading[2] ?? '', '#').trim());
      section = words || null;
    } else if (/^(?:=+|-+)$/.test(line) && head === null && headed(above, i)) {
      // a line of signs under it makes a line of words a heading
      const under = above!;
      under.role = 'heading';
      section = under.text || null;
      under.section = section;
      role = 'mark';
    } else if (DELIMITER.test(line) && above && above.line === i && above.item === null && above.text.includes('|') && head === null) {
      const cells = cellsOf(rawAbove);
      if (cells.length === cellsOf(line).length) {
        // the row of dashes makes the line above it the head of a table
        Object.assign(above, { role: 'heading', item: { depth: 0, box: null, cells, struck: false }, text: cells.filter(Boolean).join(' | ') });
        head = cells;
        bare = true;
      }
      role = 'mark';
    } else if (/^(?:[-*_]\s*){3,}$/.test(line) || (/^[\s:|-]+$/.test(line) && line.lastIndexOf('|') > 0)) {
      role = 'mark';
    } else if (/^\|.*\|$/.test(line) || (bare && /(?<!\\)\|/.test(line))) {
      const cells = cellsOf(line);
      item = { depth: 0, box: null, cells, struck: false };
      if (head === null) {
        head = cells;
        role = 'heading';
      }
      words = cells.filter(Boolean).join(' | ');
    } else if (bullet) {
      const indent = full.length - full.trimStart().length;
      const mark = bullet[1];
      words = bullet[2] ?? '';
      item = { depth: Math.min(8, Math.floor(indent / 2)), box: mark === undefined ? null : mark === ' ' ? 'open' : 'done', cells: null, struck: /^~~.*~~[.!]?$/.test(words) };
    } else if (/^>\s?/.test(line)) {
      words = line.replace(/^(>\s?)+/, '');
    }
    if (role === 'words' && segments.length < 12 && META.test(plainWords(words))) role = 'meta';
    rawAbove = line;
    segments.push({ index: segments.length, line: i + 1, text: role === 'mark' ? line : plainWords(words), voice: null, start: null, end: null, role, item, section });
  });
  return { format: 'md', layout: segments.some((s) => s.item) ? 'notes in lists' : 'minutes in paragraphs', segments, voices: [], doubts: [] };
}

/** The row of dashes under the head of a table (GitHub Flavored Markdown specification, 4.10). */
const DELIMITER = /^\|? *:?-+:? *(?:\| *:?-+:? *)+\|?$/;

const cellsOf = (line: string) =>
  line
    .replace(/^\|/, '')
    .replace(/(?<!\\)\|$/, '')
    .split(/(?<!\\)\|/)
    .map((c) => plainWords(c.trim()));

/** Whether a line of signs on a line of the text stands right under words that it makes a heading. */
const headed = (above: Segment | undefined, line: number) => above !== undefined && above.line === line && above.item === null && (above.role === 'words' || above.role === 'meta');

/** Lines that say when, where and who, at the head of notes. */
const META = /^(date|time|place|where|when|location|present|attendees|attending|here|there|in attendance|apologies|absent|chair|minutes|minute taker|notes by|taken by|version|distribution)\b[^.]{0,24}:/i;

/** Takes emphasis, code, links and strikes away and leaves the words; a sign after a backslash is the sign itself. */
function plainWords(text: string): string {
  return withoutSigns(text.replace(/\\([!-/:-@[-`{-~])/g, (_, sign: string) => String.fromCharCode(ASIDE + sign.charCodeAt(0)))).replace(/[\uE021-\uE07E]/g, (c) => String.fromCharCode(c.charCodeAt(0) - ASIDE));
}

/** Signs behind a backslash mark nothing: they stand aside, in the private use area, while the others are taken away. */
const ASIDE = 0xe000;

function withoutSigns(text: string): string {
  return text
    .replace(/!?\[([^\]]{0,300})\]\(\s*(?:<[^>]{0,500}>|[^)\s]{0,500})(?:\s+(?:"[^"]{0,300}"|'[^']{0,300}'|\([^)]{0,300}\)))?\s*\)/g, '$1')
    .replace(/(\*\*|__)(?=\S)(.{0,2000}?\S)\1/g, '$2')
    .replace(/(^|[\s(])\*(?=\S)([^*]{0,600}[^\s*])\*(?=[\s).,;:!?]|$)/g, '$1$2')
    .replace(/(^|[\s(])_(?=\S)((?:[^_]|\w_(?=\w)){0,600}[^\s_])_(?=[\s).,;:!?]|$)/g, '$1$2')
    .replace(/~~(.{0,2000}?)~~/g, '$1')
    .replace(/`([^`]{0,600})`/g, '$1')
    .trim();
}
