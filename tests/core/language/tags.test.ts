import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { taggedWords } from '../../../src/core/language/tags.ts';

const asked = (text: string) => taggedWords(text).flatMap((t) => t.asked ?? []);

describe('verbs, as one asks for what they say', () => {
  it.each([
    ['I will bring the ropes.', ['bring']],
    ['Bram brings the ropes on Monday.', ['bring']],
    ['I am writing to the harbour office.', ['write']],
    ['Could you ring the diver?', ['ring']],
    ['Send the drawings to the printer.', ['send']],
    ['Then I redraw the outline.', ['redraw']],
  ])('%s', (text, verbs) => expect(asked(text)).toEqual(verbs));
  it.each([['We painted the rail.'], ['The cut was deep.'], ['I think so.'], ['They have the keys.'], ['Bram sent it.'], ['The digger people hold a week for us.']])('none in: %s', (text) => expect(asked(text)).toEqual([]));
});

describe('tagged words', () => {
  it('stand where the text has them', () => {
    const text = 'Ines: the six  cupped sheets — “on Monday” — go back.';
    for (const t of taggedWords(text)) expect(text.slice(t.from, t.to).trim()).not.toBe('');
    expect(taggedWords(text).map((t) => text.slice(t.from, t.to))).toContain('cupped');
  });
  it('are found in any text, in order, without throwing', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 200 }), (text) => {
        let at = 0;
        for (const t of taggedWords(text)) {
          expect(t.from).toBeGreaterThanOrEqual(at);
          expect(t.to).toBeLessThanOrEqual(text.length);
          at = t.to;
        }
      }),
      { numRuns: 150 },
    );
  });
});
