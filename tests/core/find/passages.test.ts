import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { marksOf } from '../../../src/core/find/highlight.ts';
import { passagesOf, readCuts, segmentAt, writeCuts } from '../../../src/core/find/passages.ts';
import { recency, scorer } from '../../../src/core/find/rank.ts';
import { snippetOf } from '../../../src/core/find/snippet.ts';
import { meantBy } from '../../../src/core/find/typing.ts';
import { readRecord } from '../../../src/core/record/read.ts';

describe('passages of a record', () => {
  it('what one person says in one go is one, over the borders of its cues', () => {
    const vtt = readRecord('WEBVTT\n\n00:01.000 --> 00:03.000\n<v Ada>The dry\n\n00:03.000 --> 00:05.000\n<v Ada>corner drips.\n\n00:05.000 --> 00:06.000\n<v Ben>It does.\n', 'vtt');
    const all = passagesOf(vtt);
    expect(all.map((p) => [p.voice, p.text, p.start])).toEqual([
      ['Ada', 'The dry corner drips.', 1],
      ['Ben', 'It does.', 5],
    ]);
    // a hit in the second cue leads there
    expect(segmentAt(all[0]!.cuts, all[0]!.text.indexOf('corner'))).toBe(all[0]!.cuts[1]!.segment);
    expect(segmentAt(all[0]!.cuts, 0)).toBe(all[0]!.cuts[0]!.segment);
    expect(readCuts(writeCuts(all[0]!.cuts))).toEqual(all[0]!.cuts);
  });
  it('a line of notes stands for itself, and a long speech is cut', () => {
    expect(passagesOf(readRecord('# Notes\n\n- first thing\n- second thing\n', 'md')).map((p) => p.text)).toEqual(['Notes', 'first thing', 'second thing']);
    const cues = Array.from({ length: 60 }, (_, i) => `00:${String(i).padStart(2, '0')}.000 --> 00:${String(i).padStart(2, '0')}.900\n<v Ada>words number ${i} of a long speech\n`).join('\n');
    const long = passagesOf(readRecord(`WEBVTT\n\n${cues}`, 'vtt'));
    expect(long.length).toBeGreaterThan(2);
    for (const p of long) expect(p.text.length).toBeLessThan(520);
    expect(long.flatMap((p) => p.cuts)).toHaveLength(60);
  });
});

describe('what is marked', () => {
  const marked = (text: string, ...terms: Parameters<typeof marksOf>[1]) => marksOf(text, terms).map((m) => text.slice(m.from, m.to));
  it('by stem, without accents, as a phrase, by its beginning', () => {
    expect(marked('He promised; promises were promising.', { is: 'word', word: 'promise', prefix: false })).toEqual(['promised', 'promises', 'promising']);
    expect(marked('Ein Café, zwei CAFES', { is: 'word', word: 'cafe', prefix: false })).toEqual(['Café', 'CAFES']);
    expect(marked('a dry, corner; dry dock corner', { is: 'phrase', words: ['dry', 'corner'] })).toEqual(['dry, corner']);
    expect(marked('transformer transit', { is: 'word', word: 'transf', prefix: true })).toEqual(['transformer']);
    expect(marked('rain on the plinth', { is: 'near', words: ['plinth', 'rain'], within: 10 })).toEqual(['rain', 'plinth']);
  });
  it('pieces put together are the text, while it is short; a long one keeps every first hit', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('rain', 'plinth', 'a', 'dry', 'Kelda', '…'), { maxLength: 40 }), (words) => {
        const text = words.join(' ');
        const pieces = snippetOf(text, marksOf(text, [{ is: 'word', word: 'plinth', prefix: false }]));
        expect(pieces.map((p) => p.text).join('')).toBe(text);
        expect(pieces.filter((p) => p.hit)).toHaveLength(words.filter((w) => w === 'plinth').length);
      }),
    );
    const long = `${'word '.repeat(300)}plinth ${'word '.repeat(300)}`;
    const pieces = snippetOf(long, marksOf(long, [{ is: 'word', word: 'plinth', prefix: false }]));
    expect(pieces.find((p) => p.hit)!.text).toBe('plinth');
    expect(pieces.map((p) => p.text).join('').length).toBeLessThan(300);
    expect(snippetOf(long, [])[0]!.text.length).toBeLessThan(330);
  });
});

describe('what was meant', () => {
  const known = ['plinth', 'plant', 'print', 'drawing', 'weights', 'mon'];
  it('a swap, a letter too many or too few; the nearest first', () => {
    expect(meantBy('plnith', known)[0]).toBe('plinth');
    expect(meantBy('plinthh', known)[0]).toBe('plinth');
    expect(meantBy('weigths', known)[0]).toBe('weights');
    expect(meantBy('drawin', known)[0]).toBe('drawing');
  });
  it('short words, and words that are far, are left as they are', () => {
    expect(meantBy('pln', known)).toEqual([]);
    expect(meantBy('moon', known)).toEqual([]);
    expect(meantBy('helicopter', known)).toEqual([]);
    expect(meantBy('pliinthh', known, 1)).toEqual([]);
  });
});

describe('the order', () => {
  it('age takes half at most, and half of that after half a year', () => {
    expect(recency('2026-03-05', '2026-03-05')).toBe(1);
    expect(recency('2025-09-06', '2026-03-05')).toBeCloseTo(0.75, 6);
    expect(recency('2001-01-01', '2026-03-05')).toBeGreaterThanOrEqual(0.5);
    expect(recency('2027-01-01', '2026-03-05')).toBe(1);
  });
  it('what was settled stands before what was said, and that before what repeats it', () => {
    const score = scorer('2026-03-05');
    const of = (kind: 'decision' | 'said' | 'letter') => score({ kind, on: '2026-03-01', bm25: -3 });
    expect(of('decision')).toBeGreaterThan(of('said'));
    expect(of('said')).toBeGreaterThan(of('letter'));
    expect(score({ kind: 'said', on: '2026-03-01', bm25: 0.2 })).toBe(0);
  });
});
