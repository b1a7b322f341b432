import { describe, expect, it } from 'vitest';
import { decodeRecord, LARGEST_RECORD } from '../../../src/core/record/decode.ts';
import { RecordError } from '../../../src/core/record/model.ts';
import { guessFormat, readRecordBytes } from '../../../src/core/record/read.ts';

const utf16 = (text: string, big: boolean, mark: boolean) => {
  const bytes = Buffer.from((mark ? '\uFEFF' : '') + text, 'utf16le');
  return big ? bytes.swap16() : bytes;
};

describe('bytes to text', () => {
  it.each([
    ['utf-8', Buffer.from('Grüße, Šimůnek')],
    ['windows-1252', Buffer.from([0x47, 0x72, 0xfc, 0xdf, 0x65])],
    ['utf-16le', utf16('Grüße', false, true)],
    ['utf-16be', utf16('Grüße', true, true)],
    ['utf-16le', utf16('Good morning everybody', false, false)],
    ['utf-16be', utf16('Good morning everybody', true, false)],
  ])('tells %s', (encoding, bytes) => {
    const { text, encoding: found } = decodeRecord(bytes);
    expect(found).toBe(encoding);
    expect(text.replace('\uFEFF', '')).toMatch(/^(Grü|Good)/);
  });
  it('refuses an empty file, a blank one, a binary one and one that is too large, each with advice', () => {
    const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 13, 10, 26, 10, ...Array.from({ length: 400 }, (_, i) => i % 31)]);
    for (const [bytes, words] of [
      [Buffer.alloc(0), /empty/],
      [Buffer.from(' \n\n '), /blank/],
      [png, /not a text file/],
      [Buffer.alloc(LARGEST_RECORD + 1, 65), /MB/],
    ] as const) {
      expect(() => decodeRecord(bytes)).toThrow(words);
      try {
        decodeRecord(bytes);
      } catch (e) {
        expect(e).toBeInstanceOf(RecordError);
        expect((e as RecordError).advice.length).toBeGreaterThan(10);
      }
    }
  });
});

describe('format', () => {
  it.each([
    ['WEBVTT\n\n', 'x.txt', 'vtt'],
    ['1\n00:00:01,000 --> 00:00:02,000\nx', null, 'srt'],
    ['# Notes', 'a.md', 'md'],
    ['# Notes\n\n- [ ] a', null, 'md'],
    ['Ines: hi', null, 'txt'],
    ['anything', 'b.srt', 'srt'],
  ])('of %j named %s is %s', (text, name, format) => {
    expect(guessFormat(text, name)).toBe(format);
  });
  it('reads bytes in one step', () => {
    expect(readRecordBytes(Buffer.from('WEBVTT\n\n00:01.000 --> 00:02.000\n<v Ines>Hi'), 'x.vtt')).toMatchObject({ format: 'vtt', encoding: 'utf-8', voices: ['Ines'] });
  });
});
