import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readClock } from '../../../src/core/record/captions.ts';
import { RecordError } from '../../../src/core/record/model.ts';
import { readRecord } from '../../../src/core/record/read.ts';

const vtt = (body: string) => readRecord(`WEBVTT\n\n${body}`, 'vtt');

describe('WebVTT, examples of the W3C specification “WebVTT: The Web Video Text Tracks Format”, section 1', () => {
  it('reads a caption file with speakers (section 1.1, “A simple caption file”)', () => {
    const record = readRecord(
      'WEBVTT\n\n00:11.000 --> 00:13.000\n<v Roger Bingham>We are in New York City\n\n00:13.000 --> 00:16.000\n<v Roger Bingham>We’re actually at the Lucern Hotel, just down the street\n\n00:16.000 --> 00:18.000\n<v Roger Bingham>from the American Museum of Natural History\n\n00:18.000 --> 00:20.000\n<v Roger Bingham>And with me is Neil deGrasse Tyson\n',
      'vtt',
    );
    expect(record.segments).toHaveLength(4);
    expect(record.voices).toEqual(['Roger Bingham']);
    expect(record.segments[0]).toMatchObject({ text: 'We are in New York City', start: 11, end: 13 });
  });
  it('reads captions that last several lines (section 1.2)', () => {
    const record = vtt(
      '00:01.000 --> 00:04.000\nNever drink liquid nitrogen.\n\n00:05.000 --> 00:09.000\n- It will perforate your stomach.\n- You could die.\n\n00:10.000 --> 00:14.000\nThe Organisation for Sample Public Service Announcements accepts no liability for the content of this advertisement, or for the consequences of any actions taken on the basis of the information provided.',
    );
    expect(record.segments.map((s) => s.start)).toEqual([1, 5, 10]);
    expect(record.segments[1]!.text).toBe('- It will perforate your stomach. - You could die.');
  });
  it('leaves styles out (section 1.3, “Styling captions”)', () => {
    const record = readRecord(
      'WEBVTT\n\nSTYLE\n::cue {\n  background-image: linear-gradient(to bottom, dimgray, lightgray);\n  color: papayawhip;\n}\n/* Style blocks cannot use blank lines nor "dash dash greater than" */\n\nNOTE comment blocks can be used between style blocks.\n\nSTYLE\n::cue(b) {\n  color: peachpuff;\n}\n\n00:00:00.000 --> 00:00:10.000\n- Hello <b>world</b>.\n\nNOTE style blocks cannot appear after the first cue.',
      'vtt',
    );
    expect(record.segments.map((s) => s.text)).toEqual(['- Hello world.']);
  });
  it('reads cue identifiers and escapes (section 1.3)', () => {
    const record = vtt('test\n00:00.000 --> 00:02.000\nThis is a test.\n\n123\n00:00.000 --> 00:02.000\nThat’s an, an, that’s an L!\n\ncrédit de transcription\n00:04.000 --> 00:05.000\nTranscrit par Célestes™ &amp; Co');
    expect(record.segments.map((s) => s.text)).toEqual(['This is a test.', 'That’s an, an, that’s an L!', 'Transcrit par Célestes™ & Co']);
  });
  it('leaves comments out (section 1.4, “Comments in WebVTT”)', () => {
    const record = readRecord(
      'WEBVTT - Translation of that film I like\n\nNOTE\nThis translation was done by Kyle so that\nsome friends can watch it with their parents.\n\n1\n00:02:15.000 --> 00:02:20.000\n- Ta en kopp varmt te.\n- Det är inte varmt.\n\nNOTE This last line may not translate well.\n\n3\n00:02:25.000 --> 00:02:30.000\n- Ta en kopp',
      'vtt',
    );
    expect(record.segments).toHaveLength(2);
    expect(record.segments[0]!.start).toBe(135);
  });
  it('reads regions, settings and timestamps inside a cue (sections 1.5 and 4.2)', () => {
    const record = readRecord(
      'WEBVTT\n\nREGION\nid:fred\nwidth:40%\nlines:3\nscroll:up\n\n00:00:00.000 --> 00:00:20.000 region:fred align:left\n<v Fred>Hi, my name is Fred\n\n00:16.500 --> 00:18.500 position:10%,line-left align:left size:35%\n<v.loud Esme><c.highlight>When the moon</c> <00:17.500>hits your eye</v>',
      'vtt',
    );
    expect(record.segments.map((s) => [s.voice, s.text])).toEqual([
      ['Fred', 'Hi, my name is Fred'],
      ['Esme', 'When the moon hits your eye'],
    ]);
  });
});

describe('captions as they come', () => {
  it('takes a name before a colon as the speaker', () => {
    expect(vtt('00:01.000 --> 00:02.000\nBram Osei: Good morning.').segments[0]).toMatchObject({ voice: 'Bram Osei', text: 'Good morning.' });
    expect(vtt('00:01.000 --> 00:02.000\nthe thing is: we wait').segments[0]!.voice).toBeNull();
  });
  it('keeps the words of a cue with a broken time and says which line', () => {
    const record = vtt('00:01.000 --> 00:02.000\nOne.\n\n00:99.000 --> oops\nTwo.');
    expect(record.segments[1]).toMatchObject({ text: 'Two.', start: null, end: null });
    expect(record.doubts).toEqual([{ line: 6, message: '“00:99.000 --> oops” is not a time; the words are kept without one.' }]);
  });
  it('keeps the start of a cue that ends before it begins', () => {
    const record = vtt('00:09.000 --> 00:02.000\nBackwards.');
    expect(record.segments[0]).toMatchObject({ start: 9, end: 9 });
    expect(record.doubts).toHaveLength(1);
  });
  it('refuses a file with no cue, with advice', () => {
    expect(() => readRecord('WEBVTT\n\nnothing here', 'vtt')).toThrow(RecordError);
    expect(() => readRecord('only words', 'srt')).toThrow(/no cue/);
  });
  it('reads SubRip', () => {
    const record = readRecord('1\r\n00:00:03,857 --> 00:00:07,252\r\nAnnika: Okay.\r\n\r\n2\r\n00:00:07,860 --> 00:00:17,176\r\nTwo\r\nlines\r\n', 'srt');
    expect(record.segments).toMatchObject([
      { voice: 'Annika', text: 'Okay.', start: 3.857 },
      { voice: null, text: 'Two lines' },
    ]);
  });
  it('begins a cue at every time, blank line before it or not', () => {
    const record = readRecord('1\n00:00:01,000 --> 00:00:02,000\nInes: One.\n2\n00:00:03,000 --> 00:00:04,000\nBram: Two.\n00:00:05,000 --> 00:00:06,000\nInes: Three, in room\n42\n', 'srt');
    expect(record.segments.map((s) => [s.voice, s.text, s.start])).toEqual([
      ['Ines', 'One.', 1],
      ['Bram', 'Two.', 3],
      ['Ines', 'Three, in room 42', 5],
    ]);
  });
  it('reads two voices in one cue as two turns', () => {
    expect(vtt('00:00.000 --> 00:04.000\n<v Ines Falk>Can you send it? <v Bram Osei>Yes, by Friday.').segments.map((s) => [s.voice, s.text, s.start, s.end])).toEqual([
      ['Ines Falk', 'Can you send it?', 0, 2.286],
      ['Bram Osei', 'Yes, by Friday.', 2.286, 4],
    ]);
    expect(vtt('00:00.000 --> 00:04.000\n- Ines: Can you send it?\n- Bram: Yes, by Friday.').segments.map((s) => [s.voice, s.text])).toEqual([
      ['Ines', 'Can you send it?'],
      ['Bram', 'Yes, by Friday.'],
    ]);
    expect(vtt('00:00.000 --> 00:04.000\n<v Ines>One.</v>\n<v Ines>Two.</v>').segments).toHaveLength(1);
  });
  it('keeps words after a blank line and words without a time, and says where', () => {
    const record = vtt('00:01.000 --> 00:02.000\n<v Ines>We order the pump,\n\nbut not before Friday.\n\n00:03.000 --> 00:04.000\nFine.');
    expect(record.segments.map((s) => s.text)).toEqual(['We order the pump, but not before Friday.', 'Fine.']);
    expect(record.doubts).toEqual([{ line: 6, message: expect.stringMatching(/after a blank line/) }]);
    const early = readRecord('Recorded on the quay\nby Bram\n\n1\n00:00:01,000 --> 00:00:02,000\nOne.\n', 'srt');
    expect(early.segments.map((s) => [s.text, s.start])).toEqual([
      ['Recorded on the quay by Bram', null],
      ['One.', 1],
    ]);
    expect(early.doubts[0]).toMatchObject({ line: 1 });
  });
  it('loses no word of any file, however its lines and times are mixed', () => {
    const line = fc.oneof(fc.constant(''), fc.constant('00:00:01.000 --> 00:00:02.000'), fc.stringMatching(/^w[a-z]{2,6}( w[a-z]{2,6}){0,3}$/));
    fc.assert(
      fc.property(fc.array(line, { maxLength: 14 }), (lines) => {
        const record = readRecord(`00:00:00.000 --> 00:00:01.000\nwfirst\n\n${lines.join('\n')}\n`, 'srt');
        const kept = record.segments.map((s) => s.text).join(' ');
        lines.forEach((words, i) => {
          // what stands alone right before a time is what its cue is called (section 4.1 of the specification)
          const called = lines[i + 1]?.includes('-->') && (i === 0 || lines[i - 1] === '');
          if (words.startsWith('w') && !called) expect(kept).toContain(words);
        });
      }),
    );
  });
  it('decodes every character reference, once (HTML standard, named and numeric references)', () => {
    expect(vtt('00:01.000 --> 00:02.000\nCaf&eacute; &#8212; it&#x27;s 5 &lt; 6 &amp;amp; more&hellip;').segments[0]!.text).toBe("Café — it's 5 < 6 &amp; more…");
  });
  it.each([
    ['00:01.500', 1.5],
    ['01:00:00.000', 3600],
    ['00:00:01,25', 1.25],
    ['0:16', 16],
    ['00:61', null],
    ['x', null],
  ])('reads the clock %s', (stamp, seconds) => {
    expect(readClock(stamp)).toBe(seconds);
  });
});
