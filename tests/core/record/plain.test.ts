import { describe, expect, it } from 'vitest';
import { readPlain } from '../../../src/core/record/plain.ts';
import { readRecord } from '../../../src/core/record/read.ts';

const LAYOUTS: [string, string, [string | null, number | null, string][]][] = [
  [
    '[day, time] Name: words',
    '\u200e[26/11/2026, 20:14:05] Ines: Morning.\n[26/11/2026, 20:14:35] ~ Wim Ro: hello\nand a second line\n\u200e[27/11/2026, 08:00:00] +44 7700 900123: \u200eimage omitted',
    [
      ['Ines', 0, 'Morning.'],
      ['Wim Ro', 30, 'hello'],
      ['Wim Ro', 30, 'and a second line'],
      ['+44 7700 900123', 42355, 'image omitted'],
    ],
  ],
  [
    'day, time - Name: words',
    '11/26/26, 8:14\u202fPM - ines: Morning.\n11/26/26, 8:15\u202fPM - Bram: Here.',
    [
      ['ines', 0, 'Morning.'],
      ['Bram', 60, 'Here.'],
    ],
  ],
  [
    'time Name: words',
    '26.11.2026, 20:14 - Ines: Morgen.\n26.11.2026, 20:16 - Bram: Da.',
    [
      ['Ines', 0, 'Morgen.'],
      ['Bram', 120, 'Da.'],
    ],
  ],
  [
    '[time] Name: words',
    '[10:00] Ines: Morning.\n[10:02] Bram: Here.',
    [
      ['Ines', 0, 'Morning.'],
      ['Bram', 120, 'Here.'],
    ],
  ],
  [
    '[time] Name: words',
    '[2026-06-10 11:02] Ines: hi\n[2026-06-10 11:05] Wim: hello 🌧️',
    [
      ['Ines', 0, 'hi'],
      ['Wim', 180, 'hello 🌧️'],
    ],
  ],
  [
    '[time] Name: words',
    '[14:02:10] Ines F.: One.\n[14:02:18] Voice 3: Two.\n[14:03:10] Voice 3: Three.',
    [
      ['Ines F.', 0, 'One.'],
      ['Voice 3', 8, 'Two.'],
      ['Voice 3', 60, 'Three.'],
    ],
  ],
  [
    'Name (time): words',
    'Ines Falk (00:00:03): Okay.\nBram Osei (00:01:03): Yes.',
    [
      ['Ines Falk', 3, 'Okay.'],
      ['Bram Osei', 63, 'Yes.'],
    ],
  ],
  [
    'time Name: words',
    '0:03 Ines: One.\n0:09 Bram: Two.\n0:12 Ines: Three.',
    [
      ['Ines', 3, 'One.'],
      ['Bram', 9, 'Two.'],
      ['Ines', 12, 'Three.'],
    ],
  ],
  [
    '[time] words',
    '[0:00:05] Right.\n[0:00:13] It makes one feel small.',
    [
      [null, 5, 'Right.'],
      [null, 13, 'It makes one feel small.'],
    ],
  ],
  [
    'Name: words',
    'Ines: One.\nBram: Two.\nInes: Three.\nBram: Four.',
    [
      ['Ines', null, 'One.'],
      ['Bram', null, 'Two.'],
      ['Ines', null, 'Three.'],
      ['Bram', null, 'Four.'],
    ],
  ],
];

describe('layouts of pasted text', () => {
  it.each(LAYOUTS)('reads %s', (layout, text, expected) => {
    const record = readRecord(text, 'txt');
    expect(record.layout).toBe(layout);
    expect(record.segments.map((s) => [s.voice, s.start === null ? null : Math.round(s.start), s.text])).toEqual(expected.map(([v, t, w]) => [v, t, w]));
  });
  it('reads names and times that stand above the words, and keeps them as segments of their own', () => {
    const record = readRecord('Weekly\n\nInes Falk  0:03\nGood morning.\n\nBram Osei  0:10\nMorning.\nAnd again.\n\nInes Falk  0:16\nSo.', 'txt');
    expect(record.layout).toBe('Name and time above the words');
    expect(record.segments.map((s) => s.role)).toEqual(['meta', 'label', 'words', 'label', 'words', 'words', 'label', 'words']);
    expect(record.segments[5]).toMatchObject({ voice: 'Bram Osei', start: 10, text: 'And again.' });
  });
  it('reads hours with a half day', () => {
    const record = readRecord('Bron Tully  11:58 AM\nMorning.\n\nSal Pace  12:03 PM\nhere\n[photo]\n\nBron Tully  1:00 PM\nok', 'txt');
    expect(record.segments.filter((s) => s.role === 'words').map((s) => s.start)).toEqual([0, 300, 3720]);
    expect(record.segments.find((s) => s.text === '[photo]')!.role).toBe('mark');
  });
  it('reads a mail and sets its header apart', () => {
    const record = readRecord('From: Ines Falk\nTo: all\nSubject: Recap\n\nHi all,\nthe plinth is poured.', 'txt');
    expect(record.layout).toBe('a mail');
    expect(record.segments.map((s) => s.role)).toEqual(['meta', 'meta', 'meta', 'words', 'words']);
  });
  it('takes prose with a colon here and there for a memo', () => {
    const record = readRecord('Okay, memo to everyone.\nDoor first: it is open.\nThe floor is fine.\nI will ring them.', 'txt');
    expect(record.layout).toBe('a memo, line by line');
    expect(record.voices).toEqual([]);
  });
  it('numbers segments by lines that are not blank, whatever the line ends', () => {
    const record = readRecord('\uFEFFone\r\n\r\n\r\ntwo\rthree\n', 'txt');
    expect(record.segments.map((s) => [s.index, s.line, s.text])).toEqual([
      [0, 1, 'one'],
      [1, 4, 'two'],
      [2, 5, 'three'],
    ]);
  });
});

describe('notes in Markdown (examples after the CommonMark and GitHub specifications)', () => {
  it('keeps lists, boxes, headings and tables in their places', () => {
    const record = readRecord('# Weekly call\n\nPresent: Ines, Bram\n\n## Yard\n\n- first\n  - [ ] second\n  - [x] third\n- ~~struck~~\n\n| Who | What |\n|-----|------|\n| Bram | the hoist |\n\nA **bold** word, `code` and [a link](https://example.org).', 'md');
    expect(record.segments.map((s) => s.role)).toEqual(['heading', 'meta', 'heading', 'words', 'words', 'words', 'words', 'heading', 'mark', 'words', 'words']);
    expect(record.segments[4]).toMatchObject({ text: 'second', section: 'Yard', item: { depth: 1, box: 'open' } });
    expect(record.segments[5]!.item!.box).toBe('done');
    expect(record.segments[6]!.item!.struck).toBe(true);
    expect(record.segments[9]!.item!.cells).toEqual(['Bram', 'the hoist']);
    expect(record.segments[10]!.text).toBe('A bold word, code and a link.');
  });
});

describe('a layout that is said', () => {
  const layout = (text: string, as: string) => readPlain(text, as).segments.map((s) => [s.voice, s.start, s.text]);
  it.each([
    [
      'a line of its own',
      '[10:02] Bram | Good morning\n[10:03] Ines | Hello',
      '[TIME] NAME | WORDS',
      [
        ['Bram', 0, 'Good morning'],
        ['Ines', 60, 'Hello'],
      ],
    ],
    [
      'words alone, whatever they look like',
      'Note: one\nNote: two\nNote: three',
      'a memo, line by line',
      [
        [null, null, 'Note: one'],
        [null, null, 'Note: two'],
        [null, null, 'Note: three'],
      ],
    ],
    [
      'signs that mean something elsewhere',
      '(Bram)* yes.\n(Ines)* no.',
      '(NAME)* WORDS',
      [
        ['Bram', null, 'yes.'],
        ['Ines', null, 'no.'],
      ],
    ],
    [
      'one by name, though few lines follow it',
      'Bram: yes\na\nb\nc\nd',
      'Name: words',
      [
        ['Bram', null, 'yes'],
        ['Bram', null, 'a'],
        ['Bram', null, 'b'],
        ['Bram', null, 'c'],
        ['Bram', null, 'd'],
      ],
    ],
  ])('%s', (_, text, as, expected) => expect(layout(text, as)).toEqual(expected));
  it.each([
    ['NAME: TIME', 'where the words are'],
    ['WORDS WORDS', 'a part twice'],
    ['', 'where the words are'],
  ])('%j is refused', (as, why) => expect(() => readPlain('Bram: yes', as)).toThrow(why));
});

it('says where a file goes on in another layout', () => {
  const record = readPlain('[10:00] Ines: One.\n[10:01] Bram: Two.\n[10:02] Ines: Three.\n[10:03] Bram: Four.\nInes: Five.\nBram: Six.\nInes: Seven.\nBram: Eight.');
  expect(record.layout).toBe('[time] Name: words');
  expect(record.doubts).toEqual([{ line: 5, message: expect.stringMatching(/4 lines look like “Name: words”/) }]);
  expect(record.segments).toHaveLength(8);
  expect(readPlain('[10:00] Ines: One.\n[10:01] Bram: Two.\nand more\nof this\nand that').doubts).toEqual([]);
});
