import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RecordError } from '../../../src/core/record/model.ts';
import { readRecord } from '../../../src/core/record/read.ts';

/** No record makes the readers throw anything but a RecordError, and every segment stays inside the file. */
const formats = fc.constantFrom('vtt', 'srt', 'txt', 'md' as const);
const piece = fc.oneof(fc.string({ unit: 'binary' }), fc.constantFrom('\n', '\n\n', '-->', '00:00:01.000 --> 00:00:02.000', '<v Ines>', '[10:00] Ines: ', 'Ines  0:03', '# ', '- [ ] ', '| a | b |', '**', '~~', '&amp;', '<script>alert(1)</script>', '\u202E', '👩‍👩‍👧', 'Ines: '));

describe('whatever comes', () => {
  it('is read or refused', () => {
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), formats, (pieces, format) => {
        const text = pieces.join('');
        try {
          const record = readRecord(text, format as 'vtt');
          record.segments.forEach((s, i) => {
            expect(s.index).toBe(i);
            expect(s.line).toBeGreaterThan(0);
          });
        } catch (e) {
          expect(e).toBeInstanceOf(RecordError);
        }
      }),
      { numRuns: 400 },
    );
  });
  it.each([
    ['a million characters without a space', 'a'.repeat(1_000_000)],
    ['a million colons', ':'.repeat(1_000_000)],
    ['ten thousand speakers', Array.from({ length: 10_000 }, (_, i) => `Voice ${i}: word`).join('\n')],
    ['nested marks', `${'**'.repeat(20_000)}${'['.repeat(20_000)}`],
    ['a line of brackets and times', '[10:00'.repeat(50_000)],
  ])('%s is read in all formats without hanging', (_, text) => {
    for (const format of ['txt', 'md'] as const) expect(readRecord(text, format).segments.length).toBeGreaterThan(0);
    expect(readRecord(`WEBVTT\n\n00:01.000 --> 00:02.000\n${text.slice(0, 200_000)}`, 'vtt').segments.length).toBeGreaterThan(0);
  });
});
