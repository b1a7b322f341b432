import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import type { RankedKeyword } from '../../../src/core/sift/keywords.ts';
import { matterWords } from '../../../src/core/sift/matter-words.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import { choosePhrase, namedBy, phraseFeatures, phrasesOf } from '../../../src/core/sift/phrase.ts';
import { readUnits } from '../../../src/core/sift/reading.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };
import { wordAction } from '../../../src/core/sift/wording.ts';

const models = weights as unknown as SiftModels;
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
];
const read = (text: string) => readUnits({ record: readRecord(text, 'txt'), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: ['ines', 'bram'], author: null }, open: [] });

/** The words of a record that name a job, each as likely as it is said to be. */
function named(reading: ReturnType<typeof read>, likely: Record<string, number>): RankedKeyword[] {
  const places = reading.units.flatMap((u) => matterWords(reading, u));
  return Object.entries(likely)
    .map(([word, p]) => {
      const own = places.filter((w) => w.word.toLowerCase() === word);
      return { keyword: { word: own[0]!.word, stem: own[0]!.stem, places: own }, p } as unknown as RankedKeyword;
    })
    .sort((a, b) => b.p - a.p);
}

const told = (text: string, units: number[], likely: Record<string, number>) => {
  const reading = read(text);
  const ranked = named(reading, likely);
  const odds = Float64Array.from(reading.units, (_, i) => (units.includes(i) ? 2 : -3));
  return wordAction(reading, choosePhrase(reading, odds, { units, others: new Set(), core: units[0]! }, ranked, models.phrase), ranked);
};

describe('a job is called by', () => {
  it.each<[string, string, Record<string, number>, string]>([
    ['its promise, without its day', 'Ines: Morning.\nBram: I’ll ring the diver about the chain by Friday.\nInes: Good.', { ring: 0.8, diver: 0.8, chain: 0.7 }, 'Ring the diver about the chain'],
    ['what somebody is said to do', 'Ines: So Bram brings the cupped sheets to the loft on Monday.\nBram: Yes.\nInes: Good.', { brings: 0.7, cupped: 0.6, sheets: 0.8, loft: 0.5 }, 'Bring the cupped sheets to the loft'],
  ])('%s', (_, text, likely, expected) => {
    const unit = text.split('\n').findIndex((l) => Object.keys(likely).every((w) => l.toLowerCase().includes(w)));
    expect(told(text, [unit], likely).text).toBe(expected);
  });
  it('and beside it the naming words it lacks, most of them once', () => {
    const { text, about } = told('Bram: I will order the paint.\nInes: The green one, for the gangway.\nBram: Yes.', [0, 1], { order: 0.8, paint: 0.8, gangway: 0.6, green: 0.5 });
    expect(text).toBe('Order the paint');
    expect(about).toEqual(['green', 'gangway']);
  });
  it('something even where no word of it is known', () => {
    expect(wordAction(read('Hello'), null, []).text).toBe('Something was said here');
  });
});

describe('phrases', () => {
  const reading = read('Bram: I will order two drums of paint for the rail by Friday, and Ines checks the invoice.\nInes: Fine.');
  const ranked = named(reading, { order: 0.7, drums: 0.6, paint: 0.8, rail: 0.4, invoice: 0.1 });
  const phrases = phrasesOf(reading, ranked);
  it('stay within one sentence and keep out of its dates', () => {
    expect(phrases.length).toBeGreaterThan(3);
    for (const p of phrases) expect(p.text).not.toMatch(/Friday|Fine/);
  });
  it('end where another sentence begins, also without a full stop', () => {
    const talk = read('Bram: Then I redraw the outline, that’s a day’s work, and I’ll send it.\nInes: Fine.');
    const texts = phrasesOf(talk, named(talk, { redraw: 0.5, outline: 0.8, work: 0.2, send: 0.3 })).map((p) => p.text);
    expect(texts).toContain('redraw the outline');
    for (const text of texts) expect(text).not.toMatch(/outline.*(?:that|work|send)/);
  });
  it('do not begin with whoever does it', () => {
    for (const p of phrases) expect(p.text).not.toMatch(/^Ines/);
  });
  it('tell what speaks for them', () => {
    const whole = phrases.find((p) => p.text === 'order two drums of paint')!;
    const f = phraseFeatures(reading, Float64Array.from([2, -2]), { units: [0], others: new Set(), core: 0 }, whole, namedBy(ranked));
    expect(f.get('verb:promised')).toBe(1);
    expect(f.get('verb:plain')).toBe(1);
    expect(f.get('matter')).toBeCloseTo(2.1);
    expect(f.has('points')).toBe(false);
  });
  it('are few, however long what was said', () => {
    const long = read(`Bram: ${'I will order the paint and check the rail and ring the diver, '.repeat(40)}\nInes: Fine.`);
    expect(phrasesOf(long, named(long, { order: 0.7, paint: 0.8, rail: 0.4, diver: 0.3 })).length).toBeLessThanOrEqual(40);
  });
});
