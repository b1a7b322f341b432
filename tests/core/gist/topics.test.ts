import { describe, expect, it } from 'vitest';
import { pk, segmentationScores, usualWindow, windowDiff } from '../../../bench/segmentation.ts';
import { cuts } from '../../../src/core/gist/segmentation.ts';
import { topicsOf } from '../../../src/core/gist/topics.ts';
import { turnsOf } from '../../../src/core/gist/turns.ts';
import { readRecord } from '../../../src/core/record/read.ts';

/** Worked examples of the docstrings of nltk.metrics.segmentation (NLTK 3.9), then values that module computed for cuts made at random. */
describe('measures of a segmentation agree with NLTK', () => {
  it.each([
    ['000100000010', '000100000010', 3, 0],
    ['000100000010', '000010000100', 3, 0.3],
    ['000010000100', '100000010000', 3, 0.8],
    ['00000110000000010000', '01000100000000000110', 3, 0.5],
    ['000000000000000100000000010010', '010001010000000101100110000000', 5, 0.769231],
    ['00000000000001001001000000110000000000000', '10000001001000001000001010010000010000000', 4, 0.578947],
  ])('WindowDiff of %s and %s', (a, b, k, value) => {
    expect(windowDiff(a, b, k)).toBeCloseTo(value, 5);
  });
  it.each([
    ['0100'.repeat(100), '1'.repeat(400), 2, 0.5],
    ['0100'.repeat(100), '0'.repeat(400), 2, 0.5],
    ['0100'.repeat(100), '0100'.repeat(100), 2, 0],
  ])('Pk to two places', (a, b, k, value) => {
    expect(pk(a, b, k).toFixed(2)).toBe(value.toFixed(2));
  });
  it.each([
    ['00000110000000010000', '01000100000000000110', 0.388889],
    ['000000000000000100000000010010', '010001010000000101100110000000', 0.615385],
    ['00000000000001001001000000110000000000000', '10000001001000001000001010010000010000000', 0.473684],
  ])('Pk of %s and %s, with the usual window', (a, b, value) => {
    expect(pk(a, b, usualWindow(a))).toBeCloseTo(value, 5);
  });
  it('refuse cuts of different texts', () => {
    expect(() => pk('010', '01', 2)).toThrow(RangeError);
    expect(() => pk('01', '01', 5)).toThrow('shorter than a window');
  });
});

describe('cuts', () => {
  const about = (words: string, n: number) => Array.from({ length: n }, (_, i) => [words.split(' ')[i % 4]!, words.split(' ')[(i + 1) % 4]!]);
  it('fall where the words change', () => {
    const units = [...about('cable tray trunk port', 12), ...about('berth night tide mooring', 12), ...about('invoice budget cost cells', 12)];
    expect(cuts(units)).toEqual([0, 12, 24]);
  });
  it('are none in even talk, and none in no talk', () => {
    expect(cuts(about('cable tray trunk port', 30))).toEqual([0]);
    expect(cuts([])).toEqual([]);
    expect(cuts([[], [], []])).toEqual([0]);
  });
  it('are no further apart than the longest stretch', () => {
    const starts = cuts(about('cable tray trunk port', 100), { longest: 40 });
    starts.forEach((s, i) => {
      expect((starts[i + 1] ?? 100) - s).toBeLessThanOrEqual(40);
    });
  });
  it('find stretches of different meetings better than even cuts and no cuts do', () => {
    const [own, none, even] = segmentationScores();
    expect(own!.pk).toBeLessThan(even!.pk);
    expect(own!.pk).toBeLessThan(none!.pk);
    expect(own!.windowDiff).toBeLessThan(even!.windowDiff);
  });
});

describe('topics', () => {
  const trays = ['The cable trays on deck two, which side does the trunk run?', 'The cable trunk is on the port side.', 'Then the trays go to port, and the trunk cover too.', 'Cable trays to port, I draw the trunk.'];
  const berths = ['The night berths, the harbour board wants a letter.', 'A letter about the berths, with the tide hours.', 'The board meets on the tide hours, so the berths letter first.', 'Night berths then, letter to the board.'];
  const talk = (lines: string[]) => turnsOf(readRecord(lines.map((l, i) => `[10:${String(i).padStart(2, '0')}] ${i % 2 ? 'Ines' : 'Jonas'}: ${l}`).join('\n'), 'txt'));

  it('are named by what is said in them and lie one after the other', () => {
    const topics = topicsOf(talk([...trays, ...trays, `Next, ${berths[0]}`, ...berths.slice(1), ...berths]));
    expect(topics).toHaveLength(2);
    expect(topics[0]!.title.toLowerCase()).toContain('cable');
    expect(topics[1]!.title.toLowerCase()).toMatch(/berths|letter|board/);
    expect(topics[1]).toMatchObject({ from: 8, to: 15, start: 480 });
    expect(topics[0]!.length).toBe(480);
  });
  it('of notes are their headings', () => {
    const talk = turnsOf(readRecord('# Works call\n\n## Cable trays\n- port side\n- trunk drawn\n\n## Night berths\n- letter to the board\n', 'md'));
    expect(topicsOf(talk).map((t) => t.title)).toEqual(expect.arrayContaining(['Night berths']));
  });
  it('cover every turn once', () => {
    const t = talk([...trays, ...berths, ...trays]);
    const covered = topicsOf(t).flatMap((x) => Array.from({ length: x.to - x.from + 1 }, (_, i) => x.from + i));
    expect(covered).toEqual(t.turns.map((_, i) => i));
  });
  it('of an empty record are none', () => {
    expect(topicsOf(turnsOf(readRecord('', 'txt')))).toEqual([]);
  });
});
