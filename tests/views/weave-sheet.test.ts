import { DOMParser } from '@xmldom/xmldom';
import { expect, it } from 'vitest';
import { weaveSheet } from '../../src/views/weave/sheet.ts';

const row = { ref: 'C-4', text: 'Drawings & lists for <deck two>', due: '2026-03-09', open: true, ended: null, handedTo: null };

it('a saved Weave stands without its page: holders, references, words and due dates, well-formed whatever they hold', () => {
  const svg = weaveSheet({
    title: 'Works call',
    today: '2026-03-05',
    head: 56,
    drawing: { markup: '<path d="M0 0H10"/>', width: 400, height: 120 },
    rows: [
      { row, y: 12, went: null },
      { row: { ...row, ref: 'C-5', due: null }, y: 36, went: null },
      { row: { ...row, ref: 'C-6', open: false, ended: 'done' as const }, y: 60, went: null },
      { row: { ...row, ref: 'C-7' }, y: 84, went: 'to Jonas Pike, 5 Mar' },
    ],
    holders: [{ name: 'Yusuf Aydin', y: 0 }],
  });
  const wrong: string[] = [];
  const read = new DOMParser({ errorHandler: (_level, message) => wrong.push(String(message)) }).parseFromString(svg, 'image/svg+xml');
  expect(wrong).toEqual([]);
  expect(read.getElementsByTagName('svg')).toHaveLength(2);
  for (const words of ['Works call', 'Thu 5 Mar', 'Yusuf Aydin', 'C-4', 'Drawings &amp; lists for &lt;deck two&gt;', 'due Mon 9 Mar', 'no date', 'done', 'to Jonas Pike, 5 Mar']) expect(svg).toContain(`>${words}<`);
});
