import { describe, expect, it } from 'vitest';
import { checkedGist, togetherInOne } from '../../src/core/gist/model/checking.ts';
import { readRecord } from '../../src/core/record/read.ts';
import { askingOf, partsOf } from '../../src/core/sift/model/question.ts';
import type { SiftInput } from '../../src/core/sift/reading.ts';

const INPUT: SiftInput = {
  record: readRecord(`Ada Marsh: We will not order the second pump this year, it costs 4,000.\nBen Holt: Fine by the yard. The hull is painted grey, as we said.\nAda Marsh: The crane may be late, and without it nothing moves.`, 'txt'),
  people: [
    { id: 'ada', name: 'Ada Marsh', aliases: [], role: 'chair' },
    { id: 'ben', name: 'Ben Holt', aliases: [], role: 'yard' },
    { id: 'cy', name: 'Cy Rook', aliases: [], role: 'crane' },
  ],
  meeting: { date: '2026-03-05', next: null, present: ['ada', 'ben'], author: null },
  open: [],
};
const check = (given: unknown, masked = false) => {
  const asking = askingOf(INPUT, [], masked);
  return checkedGist(given, asking, partsOf(INPUT, 16_000)[0]!);
};
const brief = (text: string, segments: number[]) => check({ brief: [{ text, segments }] })!;

describe('a sentence of a summary', () => {
  it.each([
    ['with the record’s words', 'The second pump is not ordered this year.', [0]],
    ['from several segments', 'The hull is painted grey, and the crane may be late.', [1, 2]],
    ['that names who speaks', 'Ada Marsh said that the crane may be late.', [2]],
  ])('stands %s', (_, text, segments) => {
    expect(brief(text, segments)).toMatchObject({ summary: { brief: [{ text, segments }] }, dropped: 0 });
  });
  it.each([
    ['the opposite of what was said', 'The second pump is ordered this year.', [0]],
    ['a “not” that nobody said', 'The hull is not painted grey.', [1]],
    ['words nobody said', 'The insurance was cancelled by the bank.', [0]],
    ['a number nobody said', 'The second pump is not ordered, it costs 9,000.', [0]],
    ['somebody who was not there', 'Cy Rook said that the crane may be late.', [2]],
    ['no segments', 'The hull is painted grey.', []],
    ['segments that are not there', 'The hull is painted grey.', [17]],
    ['nothing', ' ', [0]],
  ])('is left out with %s', (_, text, segments) => {
    expect(brief(text, segments)).toMatchObject({ summary: { brief: [] }, dropped: 1 });
  });
});

describe('what else is told', () => {
  it('stands on its segments too', () => {
    const gist = check({
      topics: [
        { name: 'Second pump', from: 0, to: 0 },
        { name: 'The insurance', from: 0, to: 2 },
        { name: 'Second pump', from: 2, to: 0 },
      ],
      ideas: [
        {
          text: 'The second pump is not ordered this year.',
          segments: [0],
          sides: [
            { side: 'for', segment: 1, words: 'Fine by the yard' },
            { side: 'against', segment: 1, words: 'over my dead body' },
          ],
        },
      ],
      risks: [{ text: 'The crane may be late.', segments: [2], kind: 'risk' }],
    })!;
    expect(gist.topics).toEqual([{ name: 'Second pump', from: 0, to: 0 }]);
    expect(gist.ideas).toMatchObject([{ sides: [{ side: 'for', segment: 1, from: 0, to: 16 }] }]);
    expect(gist.risks).toMatchObject([{ kind: 'risk' }]);
    expect(gist.dropped).toBe(3);
  });
  it('comes back with the names people have', () => {
    expect(check({ brief: [{ text: 'Person 1 said that the crane may be late.', segments: [2] }] }, true)!.summary.brief[0]!.text).toBe('Ada Marsh said that the crane may be late.');
  });
  it.each([[null], ['A nice meeting'], [{}], [{ brief: 'short' }]])('is none in %j', (given) => expect(check(given)).toBeNull());
  it('is one gist of several parts, each topic once', () => {
    const one = check({ brief: [{ text: 'The hull is painted grey.', segments: [1] }], topics: [{ name: 'Second pump', from: 0, to: 0 }] })!;
    const both = togetherInOne([one, one]);
    expect(both.topics).toHaveLength(1);
    expect(both.summary.brief).toHaveLength(2);
  });
});
