import fc from 'fast-check';
import mammoth from 'mammoth';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { describe, expect, it } from 'vitest';
import { changesBetween, compileMinutes, DraftSchema, draftOf, type MinutesData, type MinutesItem, minutesFileName, PARTS, partsOf, USUAL_PARTS } from '../../../src/core/meetings/minutes.ts';
import { minutesHtml, minutesMarkdown, type Standing } from '../../../src/core/meetings/minutes-text.ts';
import { minutesDocx } from '../../../src/server/meetings/minutes/docx.ts';
import { minutesPdf } from '../../../src/server/meetings/minutes/pdf.ts';

const item = (ref: string, text: string, more: Partial<MinutesItem> = {}): MinutesItem => ({ ref, commitment: null, text, owner: [], due: null, news: null, moment: null, ...more });
const DATA: MinutesData = {
  meeting: { title: 'Weekly works call', number: 6, date: '2026-03-05', time: '10:00', place: 'Call', next: '2026-03-12' },
  project: 'Quiet Crossing',
  present: ['Ines Falk', 'Bram Osei', 'Ruth Adair'],
  absent: ['Łucja Ærø'],
  late: [{ name: 'Dele Marchetti', at: 75 }],
  topics: [
    { title: 'Cable trays', start: 0, seconds: 420 },
    { title: 'Night berths', start: 420, seconds: 40 },
  ],
  decisions: [item('D-8', 'Two stops a day at Kelda, and Marrow Quay takes the rest')],
  actions: [item('C-26', 'Sign the receiver’s form', { commitment: 26, owner: ['Wim Daal'], due: '2026-03-06' }), item('C-27', 'Tell Kit <b>the training day</b> moves', { commitment: 27 })],
  updates: [item('C-15', 'Foundation at Kelda Point', { news: 'now by Fri 13 Mar' })],
  questions: [item('Q-4', 'Who pays for the second survey?')],
  summary: { brief: [], usual: [{ voice: 'Ines Falk', text: 'Then it is two stops a day.' }], everything: [] },
  ideas: [{ text: 'What if we charge at both quays?', voice: 'Ines Falk', stances: [{ voice: 'Ruth Adair', side: 'against', text: 'Too dear.' }] }],
  shares: [{ voice: 'Ines Falk', seconds: 120, share: 0.62 }],
};
const DRAFT = draftOf(USUAL_PARTS.map((part) => ({ part })));
const ISSUED: Standing = { version: 2, issuedOn: 'Fri 6 Mar', changes: ['C-26: nobody yet became Wim Daal'] };
const everything = () => compileMinutes(draftOf(PARTS.map((part) => ({ part }))), DATA);

describe('minutes', () => {
  it('fill their parts with what is known', () => {
    const m = compileMinutes(DRAFT, DATA);
    expect(m.title).toBe('Weekly works call no. 6');
    expect(m.under).toEqual(['Quiet Crossing · Thursday 5 March 2026, 10:00 · Call']);
    expect(m.blocks.filter((b) => b.kind === 'heading').map((b) => b.text)).toEqual(['Decided', 'Who does what', 'From before', 'Left open']);
  });
  it('leave an empty part out, heading and all', () => {
    expect(
      compileMinutes(DRAFT, { ...DATA, decisions: [], questions: [] })
        .blocks.filter((b) => b.kind === 'heading')
        .map((b) => b.text),
    ).toEqual(['Who does what', 'From before']);
  });
  it('keep what a person wrote between the parts, in its place', () => {
    const draft = DraftSchema.parse({
      type: 'doc',
      content: [
        { type: 'heading', attrs: { level: 2 }, content: [{ type: 'text', text: 'Before we began' }] },
        { type: 'part', attrs: { part: 'decisions' } },
        { type: 'paragraph', content: [{ type: 'text', text: 'Coffee ', marks: [{ type: 'bold' }] }, { type: 'hardBreak' }, { type: 'text', text: 'was had.' }] },
        { type: 'paragraph' },
      ],
    });
    expect(compileMinutes(draft, DATA).blocks.map((b) => b.kind)).toEqual(['heading', 'heading', 'items', 'text']);
  });
  it('refuse what minutes cannot hold', () => {
    for (const bad of [{ type: 'doc', content: [{ type: 'image', attrs: { src: 'x' } }] }, { type: 'doc', content: [{ type: 'part', attrs: { part: 'secrets' } }] }, { type: 'paragraph' }, null]) expect(DraftSchema.safeParse(bad).success).toBe(false);
  });
  it('give their parts to a template and take them from one', () => {
    const parts = [{ part: 'summary' as const, length: 'brief' as const }, { part: 'actions' as const }];
    expect(partsOf(draftOf(parts))).toEqual([
      { part: 'summary', length: 'brief' },
      { part: 'actions', length: undefined },
    ]);
  });
  it.each([
    ['Weekly works call no. 6', 2, 'weekly-works-call-no-6-2026-03-05-v2'],
    ['Ærø / “Łódź” ..\\..', null, 'r-odz-2026-03-05-draft'],
    ['***', 1, 'minutes-2026-03-05-v1'],
  ])('%s is a file named without harm', (title, version, name) => {
    expect(minutesFileName({ title, under: [], blocks: [] }, '2026-03-05', version)).toBe(name);
  });
});

describe('what changed between two versions', () => {
  const was = compileMinutes(DRAFT, DATA);
  it('is nothing when they say the same', () => {
    expect(changesBetween(was, compileMinutes(DRAFT, DATA))).toEqual([]);
  });
  it('is told by reference, in words', () => {
    const now = compileMinutes(DRAFT, {
      ...DATA,
      decisions: [],
      actions: [
        { ...DATA.actions[0]!, due: '2026-03-09' },
        { ...DATA.actions[1]!, text: 'Tell Kit' },
      ],
      questions: [...DATA.questions, item('Q-5', 'And the third?')],
      absent: [],
    });
    expect(changesBetween(was, now)).toEqual([
      'C-26: Wim Daal, by Fri 6 Mar became Wim Daal, by Mon 9 Mar',
      'C-27 reworded: “Tell Kit <b>the training day</b> moves” became “Tell Kit”',
      'Q-5 added: And the third?',
      'D-8 left out: Two stops a day at Kelda, and Marrow Quay takes the rest',
      'left out: Absent: Łucja Ærø',
      'left out: Decided',
    ]);
  });
});

/** Every reference with its words, as the reader outside must find them. */
const MUST_BE_READ = ['D-8', 'Two stops a day at Kelda', 'C-26', 'Sign the receiver’s form', 'Wim Daal, by Fri 6 Mar', 'C-27', 'nobody yet, no date', 'C-15', 'now by Fri 13 Mar', 'Q-4', 'Who pays for the second survey?', 'Łucja Ærø', 'Version 2, issued Fri 6 Mar', 'Too dear.', '62%'];
const flat = (text: string) => text.replace(/\s+/g, ' ');

describe('every way out says every decision and action', () => {
  it('Markdown, with what could be taken for markup escaped', () => {
    const md = minutesMarkdown(everything(), ISSUED);
    for (const words of MUST_BE_READ) expect(md).toContain(words);
    expect(md).toContain('Tell Kit \\<b\\>the training day');
    expect(md).toContain('| At | Topic | For |\n| --- | --- | --- |\n| 0:00 | Cable trays | 7 min |');
  });
  it('HTML, every word escaped and nothing fetched', () => {
    const html = minutesHtml(everything(), ISSUED);
    for (const words of MUST_BE_READ) expect(html).toContain(words);
    expect(html).toContain('Tell Kit &lt;b&gt;the training day&lt;/b&gt; moves');
    expect(html).not.toMatch(/<script|src=|href=|url\(/);
  });
  it('Word, read back with mammoth', async () => {
    const bytes = await minutesDocx(everything(), ISSUED);
    const { value: text } = await mammoth.extractRawText({ buffer: Buffer.from(bytes) });
    for (const words of MUST_BE_READ) expect(flat(text)).toContain(words);
    const { value: html } = await mammoth.convertToHtml({ buffer: Buffer.from(bytes) });
    expect(html).toContain('<h1>Decided</h1>');
    expect(html).toMatch(/<table>.*Cable trays.*<\/table>/s);
  });
  it('PDF, read back with pdf.js: words, page numbers, fonts inside, table heads on every page', async () => {
    const many = { ...DATA, topics: Array.from({ length: 120 }, (_, i) => ({ title: `Topic number ${i + 1}`, start: i * 30, seconds: 30 })) };
    const bytes = await minutesPdf(compileMinutes(draftOf(PARTS.map((part) => ({ part }))), many), ISSUED);
    const pdf = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
    const pages: string[] = [];
    for (let p = 1; p <= pdf.numPages; p++) pages.push(flat((await (await pdf.getPage(p)).getTextContent()).items.map((i) => ('str' in i ? i.str : '')).join(' ')));
    const all = pages.join(' ').replace(/ /g, '');
    for (const words of MUST_BE_READ) expect(all).toContain(words.replace(/ /g, ''));
    expect(pdf.numPages).toBeGreaterThan(2);
    for (const [i, page] of pages.entries()) expect(page.replace(/ /g, '')).toContain(`page${i + 1}of${pdf.numPages}`);
    for (const page of pages.filter((x) => /Topic number \d/.test(x))) expect(page).toMatch(/At\s+Topic\s+For/);
    expect(Buffer.from(bytes).includes('FontFile2')).toBe(true);
  });
  it('whatever the words are', async () => {
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'grapheme', maxLength: 60 }), async (words) => {
        const m = compileMinutes(DRAFT, { ...DATA, actions: [item('C-1', words)] });
        expect((await minutesDocx(m, ISSUED)).length).toBeGreaterThan(1000);
        expect((await minutesPdf(m, ISSUED)).length).toBeGreaterThan(1000);
        expect(minutesHtml(m, ISSUED).match(/<li>/g)?.length).toBe(minutesHtml(compileMinutes(DRAFT, { ...DATA, actions: [item('C-1', '')] }), ISSUED).match(/<li>/g)?.length);
      }),
      { numRuns: 12 },
    );
  });
});
