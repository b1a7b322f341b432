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
