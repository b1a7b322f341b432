import { compile, type DomNode } from 'html-to-text';
import { readMarkdown } from './markdown.ts';
import type { MeetingRecord } from './model.ts';
import { readPlain } from './plain.ts';

/**
 * HTML as the lines a reader sees: headings, list items and table rows keep their marks as in Markdown, everything that
 * is not words is left out. Nested no deeper and no longer than a page of a meeting is.
 */
const toLines = compile({
  wordwrap: false,
  limits: { maxInputLength: 20_000_000, maxDepth: 60, maxChildNodes: 50_000 },
  formatters: {
    heading: (elem, walk, builder, options) => {
      builder.openBlock({ leadingLineBreaks: 2 });
      builder.addInline(`${'#'.repeat(Number(elem.name?.slice(1)) || 1)} `);
      walk(elem.children, builder);
      builder.closeBlock({ trailingLineBreaks: options.trailingLineBreaks ?? 2 });
    },
    row: (elem, _, builder) => {
      builder.openBlock({ leadingLineBreaks: 1 });
      builder.addInline('|');
      for (const cell of elem.children) {
        if (cell.name !== 'td' && cell.name !== 'th') continue;
        builder.addInline(' ');
        builder.addInline(`${wordsIn(cell)} |`);
      }
      builder.closeBlock({ trailingLineBreaks: 1 });
    },
  },
  selectors: [
    ...['h1', 'h2', 'h3', 'h4', 'h5', 'h6'].map((selector) => ({ selector, format: 'heading' })),
    { selector: 'tr', format: 'row' },
    { selector: 'table', format: 'block' },
    { selector: 'a', options: { ignoreHref: true } },
    ...['img', 'script', 'style', 'svg', 'noscript', 'template', 'head'].map((selector) => ({ selector, format: 'skip' })),
    { selector: 'ul', options: { itemPrefix: '- ' } },
    { selector: 'blockquote', options: { leadingLineBreaks: 1, trailingLineBreaks: 1 } },
  ],
});

/** Words of a cell, whatever blocks it holds: a row is one line. */
function wordsIn(node: DomNode, depth = 0): string {
  if (node.type === 'text') return (node.data ?? '').replace(/\|/g, '/');
  if (depth > 40) return '';
  return (node.children ?? [])
    .map((c) => wordsIn(c, depth + 1))
    .join(' ')
    .replace(/\s+/g, ' ')
    .trim();
}

export function linesOfHtml(html: string): string {
  return toLines(html).replace(/\u00a0/g, ' ');
}

/** A record that came as HTML: notes where it has headings, lists or tables, talk or prose otherwise. */
export function readHtml(html: string, format: 'html' | 'docx' = 'html'): MeetingRecord {
  const lines = linesOfHtml(html);
  const talk = readPlain(lines);
  const marks = (lines.match(/^(?:#{1,6} |[ \t]{0,40}(?:[-*]|\d{1,9}\.) |\|)/gm) ?? []).length;
  const spoken = talk.segments.some((s) => s.voice !== null);
  return { ...(marks > 0 && !spoken ? readMarkdown(lines) : talk), format };
}
