import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../../src/core/record/read.ts';
import { Collected } from '../../../../src/core/sift/close/collect.ts';
import { unsettled } from '../../../../src/core/sift/close/likely.ts';
import { addNaming, namedWith } from '../../../../src/core/sift/close/naming.ts';
import { aboutStretches, marksOf, piecesOf, type Stretch, settleStretches, turnStretches } from '../../../../src/core/sift/close/stretches.ts';
import { WordPieces } from '../../../../src/core/sift/close/word-pieces.ts';
import { readUnits } from '../../../../src/core/sift/reading.ts';
import reference from './word-pieces.json' with { type: 'json' };

/** A vocabulary of exactly the pieces the reference needed, so that the table stands without the model's own. */
const kept = [...new Set(['[PAD]', '[UNK]', '[CLS]', '[SEP]', ...reference.flatMap((r) => r.pieces)])];
const pieces = new WordPieces(kept);

describe('word pieces', () => {
  /** Cut by the BertTokenizer of the Python package transformers (5.x), with the close reader's vocabulary. */
  it.each(reference)('$text', ({ text, pieces: cut }) => {
    expect(pieces.numbers(text, 1000).map((i) => kept[i])).toEqual(cut);
  });
  it('are no more than asked for', () => {
    expect(pieces.numbers('the the the the the the', 4).length).toBeLessThanOrEqual(4);
  });
  it('need the three special pieces', () => {
    expect(() => new WordPieces(['a', '[CLS]'])).toThrow('[SEP]');
  });
  it('come of any text', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => {
        for (const id of pieces.numbers(text, 50)) expect(kept[id]).toBeDefined();
      }),
    );
  });
});

const units = (lengths: readonly number[]) => lengths.map((n, i) => Array.from({ length: n }, () => (i % (kept.length - 4)) + 4));

describe('stretches', () => {
  it('of turns cover every unit, in order, and none is longer than the encoder takes', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 56 }), { maxLength: 200 }), (lengths) => {
        const all = turnStretches(units(lengths), pieces);
        const seen = new Set(all.flatMap((s) => s.units.map((u) => u.unit)));
        expect(seen.size).toBe(lengths.length);
        for (const s of all) {
          expect(s.ids.length).toBeLessThanOrEqual(512);
          expect(s.ids.length).toBe(s.parts.length);
          for (const u of s.units) expect(s.ids[u.at]).toBe(pieces.end);
        }
      }),
    );
  });
  it('against a commitment begin with its words and stand around the likely places', () => {
    const all = aboutStretches(units(Array.from({ length: 60 }, () => 8)), pieces, { id: 'C', text: 'the weights', who: 'Bram' }, [30, 31, 50]);
    expect(all).toHaveLength(2);
    for (const s of all) {
      expect(s.open).toBe('C');
      expect(s.ids.length).toBeLessThanOrEqual(160);
      expect(s.parts.indexOf(1)).toBe(s.units[0]!.at);
    }
    expect(all[0]!.units.map((u) => u.unit)).toContain(31);
    expect(all[1]!.units.map((u) => u.unit)).toContain(50);
  });
  it('hold a unit that is longer than there is room for', () => {
    expect(aboutStretches(units([90, 90]), pieces, { id: 'C', text: '', who: '' }, [1])[0]!.units.map((u) => u.unit)).toEqual([1]);
  });
  it('name the speaker before the words', () => {
    const record = readRecord('Ines: the weights\nBram: signed\nInes: good', 'txt');
    const reading = readUnits({ record, people: [{ id: 'ines', name: 'Ines Falk', aliases: [], role: '' }], meeting: { date: '2026-03-05', next: null, present: [], author: null }, open: [] });
    const own = new WordPieces(['[UNK]', '[CLS]', '[SEP]', 'ines', ':', 'the', 'weights', 'bram', 'signed', 'good']);
    expect(piecesOf(reading, own)).toEqual([
      [3, 4, 5, 6],
      [7, 4, 8],
      [3, 4, 9],
    ]);
  });
});

const talk = () => {
  const record = readRecord('Ines: the weights\nBram: signed by friday\nInes: good', 'txt');
  return readUnits({
    record,
    people: [
      { id: 'ines', name: 'Ines Falk', aliases: [], role: '' },
      { id: 'bram', name: 'Bram Osei', aliases: [], role: '' },
    ],
    meeting: { date: '2026-03-05', next: null, present: [], author: null },
    open: [],
  });
};
const talkPieces = new WordPieces(['[UNK]', '[CLS]', '[SEP]', 'ines', ':', 'the', 'weights', 'bram', 'signed', 'good', 'by', 'friday']);

describe('what settles a matter', () => {
  const reading = talk();
  const [stretch] = settleStretches(reading, piecesOf(reading, talkPieces), talkPieces, [1]);
  it('is asked around one unit, which is told from the others, where dates, names, voices and words stand', () => {
    const { ids, parts, settle } = stretch!;
    expect(ids.filter((_, k) => parts[k] === 1)).toEqual([2, 7, 4, 8, 10, 11]);
    expect(settle!.dates.map((d) => ids[d.at])).toEqual([10]);
    expect(settle!.people).toMatchObject([
      { person: 'ines', named: false },
      { person: 'bram', named: false },
      { person: 'ines', named: false },
    ]);
    expect(settle!.words.map((w) => [w.unit, ids[w.at]])).toEqual([
      [0, 6],
      [1, 8],
      [1, 11],
      [2, 9],
    ]);
    expect(marksOf(stretch!)).toHaveLength(1 + 1 + 3 + 4);
  });
  it('is asked of what may be an action, a decision, a question or news, and of nothing else', () => {
    const row = (k: number) => [-3, -3, -3, -3, -3, -3].map((x, i) => (i === k ? 0 : x));
    expect(unsettled([row(0), row(1), row(2), row(3), row(4), row(5), []])).toEqual([0, 2, 3, 4]);
  });
  it('is kept as shares of dates and people, and the words that are not unlikely', () => {
    const c = new Collected(3, { turn: 1, job: 0, about: 0, settle: 4 });
    const place = (when: number, named: number, speaks: number, word: number) => [0, when, named, speaks, word];
    c.add(stretch!, new Float32Array([place(0, 0, 0, 0), place(2, 0, 0, 0), place(0, 0, 0, 0), place(0, 0, 3, 0), place(0, 0, 0, 0), place(0, 0, 0, 1.5), place(0, 0, 0, 2.5), place(0, 0, 0, -4), place(0, 0, 0, -2)].flat()));
    const { when, who, words, span } = c.settled.get(1)!;
    expect(Math.exp(when.none) + Math.exp(when.dates[0]![2])).toBeCloseTo(1, 2);
    expect(who.people.map(([p]) => p)).toEqual(['ines', 'bram']);
    expect(who.people[1]![1]).toBeGreaterThan(who.people[0]![1]);
    expect(words.map(([unit, , log]) => [unit, log])).toEqual([
      [0, 1.5],
      [1, 2.5],
      [2, -2],
    ]);
    expect(span).toEqual([0, 2]);

    const close = { ...reading, close: c };
    const group = { units: [1], others: new Set<number>(), core: 1 };
    const features = (unit: number, at: number) => {
      const f = new Map<string, number>();
      addNaming(f, close, group, [{ unit, at }]);
      return f;
    };
    expect(features(0, 1).get('close:best')).toBe(1.5);
    expect(features(1, 2).get('close:best')).toBe(-3);
    expect(features(9, 0).has('close:out-of-sight')).toBe(true);
    const named = namedWith(close, group, reading.units[1]!)!;
    expect(named.get('sign')).toBeGreaterThan(0.9);
    expect(named.get('fridai')).toBeLessThan(0.1);
    expect(namedWith(reading, group, reading.units[1]!)).toBeNull();
  });
});

describe('what the encoder said', () => {
  const shape = { turn: 2, job: 2, about: 1, settle: 0 };
  const stretch = (units: number[], open: string | null = null): Stretch => ({ ids: [], parts: [], units: units.map((unit, at) => ({ unit, at })), open });
  const row = (...x: number[]) => x;
  it('is taken from the stretch that the unit stands furthest inside of, in whatever order the answers come', () => {
    const first = [stretch([0, 1, 2]), new Float32Array([row(1, 1, 3, 4, 0), row(2, 2, 3, 4, 0), row(3, 3, 3, 4, 0)].flat())] as const;
    const second = [stretch([1, 2, 3]), new Float32Array([row(9, 9, 3, 4, 0), row(8, 8, 3, 4, 0), row(7, 7, 3, 4, 0)].flat())] as const;
    for (const order of [
      [first, second],
      [second, first],
    ]) {
      const c = new Collected(4, shape);
      for (const [s, m] of order) c.add(s, m);
      expect(c.nature).toEqual([
        [1, 1],
        [2, 2],
        [8, 8],
        [7, 7],
      ]);
    }
  });
  it('of a commitment is the surest of what was said of a unit', () => {
    const c = new Collected(1, shape);
    c.add(stretch([0], 'C'), new Float32Array([0, 0, 0, 0, -1]));
    c.add(stretch([0], 'C'), new Float32Array([0, 0, 0, 0, 2]));
    c.add(stretch([0], 'C'), new Float32Array([0, 0, 0, 0, 1]));
    expect(c.about.get('C')!.get(0)).toEqual([2]);
  });
});
