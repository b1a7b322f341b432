import fc from 'fast-check';
import type { Nodes } from 'mdast';
import { fromMarkdown } from 'mdast-util-from-markdown';
import { gfmFromMarkdown } from 'mdast-util-gfm';
import { toString as wordsOf } from 'mdast-util-to-string';
import { gfm } from 'micromark-extension-gfm';
import { describe, expect, it } from 'vitest';
import { readMarkdown } from '../../../src/core/record/markdown.ts';

/** What a line of Markdown is, and its words without marks. */
interface Line {
  what: 'heading' | 'item' | 'words' | 'cell';
  box: 'open' | 'done' | null;
  text: string;
}

/** The lines of a text as micromark and mdast read them, the reference implementation of CommonMark and of GitHub's additions to it. */
function reference(text: string): Line[] {
  const out: Line[] = [];
  const visit = (node: Nodes) => {
    const line = (what: Line['what'], words: string, box: Line['box'] = null) => out.push({ what, box, text: words.replace(/\s+/g, ' ').trim() });
    if (node.type === 'heading') line('heading', wordsOf(node));
    else if (node.type === 'tableCell') line('cell', wordsOf(node));
    else if (node.type === 'code') for (const code of node.value.split('\n')) line('words', code);
    else if (node.type === 'paragraph') line('words', wordsOf(node));
    else if (node.type === 'listItem') {
      const [first, ...rest] = node.children;
      line('item', first ? wordsOf(first) : '', node.checked === true ? 'done' : node.checked === false ? 'open' : null);
      for (const c of rest) visit(c);
    } else if ('children' in node) for (const c of node.children) visit(c);
  };
  visit(fromMarkdown(text, { extensions: [gfm()], mdastExtensions: [gfmFromMarkdown()] }));
  return out;
}

function ours(text: string): Line[] {
  return readMarkdown(text).segments.flatMap((s): Line[] => {
    if (s.role === 'mark') return [];
    if (s.item?.cells) return s.item.cells.map((cell) => ({ what: 'cell', box: null, text: cell }));
    if (s.role === 'heading') return [{ what: 'heading', box: null, text: s.text }];
    return [s.item ? { what: 'item', box: s.item.box, text: s.text } : { what: 'words', box: null, text: s.text }];
  });
}

describe('Markdown is read as its reference implementation reads it', () => {
  it.each([
    ['emphasis, code and links', 'The **weights** of `the_engine` are *signed* and __in [the folder](http://files.example/a)__.'],
    ['a strike', '- the slip ~~this~~ next week'],
    ['headings of both kinds', '# One #\n\ntext\n\nTwo\n===\n\n### *Three*'],
    ['boxes', '- [ ] ring the harbour\n- [x] sign the form\n- [X] send it\n- none'],
    ['lists under lists', '- outer\n  - inner\n    - innermost\n- outer again'],
    ['numbered lists', '1. one\n2. two\n\n1) one\n2) two'],
    ['other bullets', '* star\n* again\n\n+ plus'],
    ['a table', '| What | Who |\n| --- | :-: |\n| **the slip** | Wim |\n| the `outline` | Ines |'],
    ['a stroke in a cell', '| What | Who |\n| --- | --- |\n| port \\| starboard | Wim |'],
    ['signs after a backslash', 'a \\*star\\*, a \\# and a \\[bracket\\]'],
    ['a quotation', '> the *slip* stays'],
    ['names with underlines', 'frame_14_port and weights_v2.xlsx'],
    ['a table without outer strokes', 'What | Who\n--- | ---\nthe slip | Wim\nthe `outline` | Ines\n\nafter it'],
    ['a table with strokes at one side', '| What | Who\n| --- | ---\n| the slip | Wim'],
    ['headings underlined with dashes', 'Actions\n-------\n\n- the slip\n\nLeft open\n---\n\nwho pays'],
    ['links with titles', 'see [the plan](http://files.example/a "The plan"), [b](<http://files.example/b c> \'B\') and [c](/c (C))'],
    ['a code fence', 'before\n\n```\n# no heading\n- [ ] no box\n```\n\nafter'],
    ['a fence of waves', '~~~ text\n| no | table |\n~~~\n\n# One'],
    ['a ruling', 'above\n\n* * *\n\nbelow'],
  ])('%s', (_, text) => {
    expect(ours(text)).toEqual(reference(text));
  });

  const word = fc.constantFrom('the slip', 'weights', 'Ines', 'by Friday', 'frame_14', 'No. 4', 'No', '60 %', 'port/starboard', 'it’s', 'a - b', '(Wim)', '“soon”', 'x = 4', 'https://files.example/a_b');
  const marked = fc.tuple(word, fc.constantFrom('', '**', '*', '_', '__', '~~', '`')).map(([w, m]) => (w.includes('http') ? w : `${m}${w}${m}`));
  const words = fc.array(marked, { minLength: 1, maxLength: 5 }).map((w) => `The ${w.join(' ')}`);
  const line = fc.oneof(
    words.map((w) => `## ${w}`),
    fc.tuple(fc.constantFrom('', '[ ] ', '[x] '), words).map(([b, w]) => `- ${b}${w}`),
    words,
    fc.tuple(words, words).map(([a, b]) => `| What | Who |\n| --- | --- |\n| ${a} | ${b} |`),
    fc.tuple(words, words).map(([a, b]) => `What | Who\n:-- | --:\n${a} | ${b}`),
    words.map((w) => `${w}\n-----`),
  );
  it('whatever stands in it', () => {
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 8 }), (lines) => {
        const text = lines.join('\n\n');
        expect(ours(text)).toEqual(reference(text));
      }),
      { numRuns: 300 },
    );
  });
});

describe('a line of notes', () => {
  it('knows its section, under a heading of either kind', () => {
    const { segments } = readMarkdown('Actions\n=======\n- the slip\n\n## Left open\nwho pays');
    expect(segments.map((s) => [s.role, s.section])).toEqual([
      ['heading', 'Actions'],
      ['mark', 'Actions'],
      ['words', 'Actions'],
      ['heading', 'Left open'],
      ['words', 'Left open'],
    ]);
  });
  it('keeps its number whatever it is, and stays words where signs stand apart from it', () => {
    const { segments } = readMarkdown('the weights\n\n=====\n\n- the slip');
    expect(segments.map((s) => s.line)).toEqual([1, 3, 5]);
    expect(segments.map((s) => s.role)).toEqual(['words', 'words', 'words']);
  });
  it('is struck out as a whole, or not', () => {
    expect(readMarkdown('- ~~the slip~~\n- the ~~slip~~ crane').segments.map((s) => s.item!.struck)).toEqual([true, false]);
  });
});
