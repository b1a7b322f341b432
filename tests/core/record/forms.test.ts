import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linesOfHtml, readHtml } from '../../../src/core/record/hypertext.ts';
import { readJson } from '../../../src/core/record/json.ts';
import { readMail } from '../../../src/core/record/mail.ts';
import { type MeetingRecord, RecordError } from '../../../src/core/record/model.ts';
import { guessFormat, readRecord } from '../../../src/core/record/read.ts';

const lines = (r: MeetingRecord) => r.segments.filter((s) => s.role === 'words').map((s) => [s.voice, s.text]);

describe('JSON', () => {
  it.each([
    ['our shape', '{"segments":[{"speaker":"Ines","start":0.5,"end":2,"text":"Good morning."}]}', ['Ines', 'Good morning.', 0.5, 2]],
    ['a plain list', '[{"voice":"Ines","time":"0:01:04","words":"Good morning."}]', ['Ines', 'Good morning.', 64, null]],
    ['messages with dates', '{"messages":[{"author":"Ines","time":"2026-03-05T10:00:00Z","message":"Good morning."},{"author":"Bram","time":"2026-03-05T10:02:00Z","message":"hi"}]}', ['Ines', 'Good morning.', 0, null]],
    ['nobody named', '[{"text":" Good\\n morning. "}]', [null, 'Good morning.', null, null]],
  ])('%s', (_, text, first) => {
    const s = readJson(text).segments[0]!;
    expect([s.voice, s.text, s.start, s.end]).toEqual(first);
  });
  it.each([
    ['{"segments":[{"speaker":"Ines"}]}', 'segment 1 has no text'],
    ['{"title":"x"}', 'no list of segments'],
    ['[1,2]', 'segment 1'],
    ['"words"', 'no list of segments'],
  ])('%s is refused with the place', (text, words) => {
    expect(() => readJson(text)).toThrow(words);
  });
  it('that is none is refused with the line', () => {
    try {
      readJson('[\n{"text": "a"},\n{"text": }\n]');
      expect.unreachable();
    } catch (error) {
      expect(error).toBeInstanceOf(RecordError);
      expect((error as RecordError).message).toContain('not valid JSON');
    }
  });
  it.each([
    ['x.json', '{}', 'json'],
    ['pasted', '  [ {"text":"a"}]', 'json'],
    ['x.html', 'a', 'html'],
    ['pasted', '<!doctype html><p>a', 'html'],
    ['notes.txt', '[10:00] Ines: a', 'txt'],
  ])('%s with %s is told as %s', (name, text, format) => {
    expect(guessFormat(text, name === 'pasted' ? null : name)).toBe(format);
  });
});

describe('HTML', () => {
  const page =
    '<html><head><title>x</title><style>p{}</style></head><body><h2>Cable trays</h2><ul><li>Jonas: draw the <b>trunk</b> by Friday<ul><li>port side</li></ul></li></ul><table><tr><th>Who</th><th>What</th></tr><tr><td>Bram</td><td>the weights</td></tr></table><script>alert(1)</script><p>That&nbsp;was &amp; is all.</p></body></html>';
  it('becomes notes: headings, items with their depth, rows, and nothing that is not words', () => {
    const r = readHtml(page);
    expect(r.format).toBe('html');
    expect(r.segments.map((s) => s.text).join('\n')).not.toMatch(/alert|p\{\}/);
    expect(r.segments[0]).toMatchObject({ role: 'heading', text: 'Cable trays' });
    expect(r.segments.find((s) => s.text.startsWith('Jonas'))).toMatchObject({ section: 'Cable trays', item: { depth: 0 } });
    expect(r.segments.find((s) => s.text === 'port side')!.item!.depth).toBeGreaterThan(0);
    expect(r.segments.find((s) => s.item?.cells?.[0] === 'Bram')!.item!.cells).toEqual(['Bram', 'the weights']);
    expect(r.segments.at(-1)!.text).toBe('That was & is all.');
  });
  it('that holds a talk is read as one', () => {
    expect(lines(readHtml('<div>Ines: the weights?</div><div>Bram: signed.</div><div>Ines: good</div>'))).toEqual([
      ['Ines', 'the weights?'],
      ['Bram', 'signed.'],
      ['Ines', 'good'],
    ]);
  });
  it.each([
    ['nested ten thousand deep', `${'<div>'.repeat(10_000)}words`],
    ['never closed', '<p><b><i>words<table><tr><td>x'],
    ['a million signs', '<'.repeat(1_000_000)],
  ])('%s is read without hanging', (_, html) => {
    expect(() => linesOfHtml(html)).not.toThrow();
  });
  it('of any kind is read or refused', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('<p>', '</p>', '<li>', '<ul>', 'words', '<h1>', '&amp;', '<td>', '<tr>', '<table>', '<a href="x">', '\u202E', '<script>', '</script>')), (parts) => {
        expect(readRecord(parts.join(' '), 'html').segments.every((s, i) => s.index === i)).toBe(true);
      }),
    );
  });
});

describe('mail', () => {
  const mail = (text: string, from = 'Bram Osei') => readMail({ from, sent: '2026-03-05T10:00:00Z', subject: 'Re: weights', text });
  it('is its writer’s words, wrapped lines joined, the signature left out', () => {
    const r = mail('Dear Ines,\n\nI will send the signed weights by Friday, all of\nthem this time.\n\n- the anchor gear too\n\n-- \nBram Osei\nPell Yard');
    expect(r.segments[0]).toMatchObject({ role: 'meta', text: 'Subject: Re: weights' });
    expect(lines(r)).toEqual([
      ['Bram Osei', 'Dear Ines,'],
      ['Bram Osei', 'I will send the signed weights by Friday, all of them this time.'],
      ['Bram Osei', 'the anchor gear too'],
    ]);
  });
  it.each([
    ['English', 'On Thu, 5 Mar 2026 at 09:12, Ines Falk <ines.falk@marrowsound.example> wrote:'],
    ['English over two lines', 'On Thu, 5 Mar 2026 at 09:12, Ines Falk\n<ines.falk@marrowsound.example> wrote:'],
    ['German', 'Am 05.03.2026 um 09:12 schrieb Ines Falk <ines.falk@marrowsound.example>:'],
    ['French', 'Le jeu. 5 mars 2026 à 09:12, Ines Falk <ines.falk@marrowsound.example> a écrit :'],
    ['Spanish', 'El jue, 5 mar 2026 a las 09:12, Ines Falk (<ines.falk@marrowsound.example>) escribió:'.replace('(<', '<').replace('>)', '>')],
    ['Portuguese', 'Em qui., 5 de mar. de 2026 às 09:12, Ines Falk <ines.falk@marrowsound.example> escreveu:'],
  ])('quoted below the answer is read first, under its own writer (%s)', (_, wrote) => {
    const r = mail(`Yes, I will.\n\n${wrote}\n> Can you send the weights?\n>\n> Ines`);
    expect(lines(r)).toEqual([
      ['Ines Falk', 'Can you send the weights?'],
      ['Ines Falk', 'Ines'],
      ['Bram Osei', 'Yes, I will.'],
    ]);
    expect(r.layout).toBe('a thread of 2 mails');
  });
  it('with headers of the inner mail and no quotation marks', () => {
    const r = mail('Done.\n\n-----Original Message-----\nFrom: Ines Falk <ines@x.example>\nSent: Thursday\nTo: Bram Osei\nSubject: weights\n\nAre they signed?');
    expect(lines(r)).toEqual([
      ['Ines Falk', 'Are they signed?'],
      ['Bram Osei', 'Done.'],
    ]);
  });
  it('with answers between the quoted lines keeps the order', () => {
    const r = mail('On Thu, 5 Mar 2026 at 09:12, Ines Falk <i@x.example> wrote:\n> The weights?\n\nBy Friday.\n\n> And the trunk?\n\nJonas has it.');
    expect(lines(r)).toEqual([
      ['Ines Falk', 'The weights?'],
      ['Bram Osei', 'By Friday.'],
      ['Ines Falk', 'And the trunk?'],
      ['Bram Osei', 'Jonas has it.'],
    ]);
  });
  it('quoted over three levels, the oldest first and nothing twice', () => {
    const long = 'The hoist certificate has to be with the inspectorate before they come.';
    const r = mail(`Third.\n\nOn Fri, 6 Mar 2026 at 09:12, Ines Falk <i@x.example> wrote:\n> Second.\n>\n> On Thu, 5 Mar 2026 at 09:12, Ruth Adair <r@x.example> wrote:\n>> ${long}\n>> ${long}\n`);
    expect(lines(r).map(([v]) => v)).toEqual(['Ruth Adair', 'Ines Falk', 'Bram Osei']);
  });
  it('one header-like line is a sentence', () => {
    expect(lines(mail('To: do list for the yard'))).toEqual([['Bram Osei', 'To: do list for the yard']]);
  });
  it('of any kind is read', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom('> ', '>> ', '\n', 'words', 'On Thu at 9, X <x@y.example> wrote:', '-----Original Message-----', 'From: A', 'To: B', 'Subject: C', '-- ', '- item', '\u202E'), { maxLength: 60 }), (parts) => {
        const r = mail(parts.join(''));
        r.segments.forEach((s, i) => {
          expect(s.index).toBe(i);
        });
      }),
    );
  });
});
