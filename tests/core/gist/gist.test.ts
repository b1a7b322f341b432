import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameLate } from '../../../src/core/gist/arrivals.ts';
import { gistOf } from '../../../src/core/gist/gist.ts';
import { moodOf } from '../../../src/core/gist/mood.ts';
import { namedIn } from '../../../src/core/gist/named.ts';
import { overlaps, speakingShares } from '../../../src/core/gist/speaking.ts';
import { ideasOf, stancesOn } from '../../../src/core/gist/stances.ts';
import { timeOn } from '../../../src/core/gist/subject.ts';
import { summaryOf } from '../../../src/core/gist/summary.ts';
import { topicsOf } from '../../../src/core/gist/topics.ts';
import { troublesOf } from '../../../src/core/gist/troubles.ts';
import { soFar, turnsOf } from '../../../src/core/gist/turns.ts';
import { readRecord } from '../../../src/core/record/read.ts';

const talk = (text: string) => turnsOf(readRecord(text, 'txt'));
const cue = (from: string, to: string, who: string, words: string) => `00:00:${from}.000 --> 00:00:${to}.000\n<v ${who}>${words}\n`;
const captions = (...cues: string[]) => readRecord(`WEBVTT\n\n${cues.join('\n')}`, 'vtt');
const PEOPLE = [
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: 'naval architect' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
];

describe('turns', () => {
  it('take their times from captions', () => {
    const t = turnsOf(captions(cue('01', '05', 'Ines', 'The weights first.'), cue('08', '10', 'Bram', 'Signed.')));
    expect(t.times).toBe('measured');
    expect(t.turns.map((x) => [x.start, x.length])).toEqual([
      [1, 4],
      [8, 2],
    ]);
    expect(t.length).toBe(10);
  });
  it('run until the next line where only starts are known, but not through a silence', () => {
    const t = talk('[10:00] Ines: The weights first, please.\n[10:01] Bram: Signed.\n[10:30] Ines: And the trunk?');
    expect(t.times).toBe('measured');
    expect(t.turns[1]!.length).toBeLessThan(10);
  });
  it('are estimated from the words otherwise, at 150 a minute', () => {
    const t = talk(`Ines: ${'word '.repeat(75)}\nBram: yes`);
    expect(t.times).toBe('estimated');
    expect(t.turns[0]!.length).toBeCloseTo(30, 5);
  });
  it('so far end at a moment, and so do the voices', () => {
    const record = captions(cue('01', '05', 'Ines', 'The weights first.'), cue('08', '10', 'Bram', 'Signed.'), cue('20', '24', 'Ruth', 'And the book?'));
    expect(soFar(record, { seconds: 9 }).segments).toHaveLength(2);
    expect(soFar(record, { seconds: 9 }).voices).toEqual(['Ines', 'Bram']);
    expect(soFar(record, { segment: 0 }).segments).toHaveLength(1);
    expect(soFar(record, { seconds: 0 }).segments).toHaveLength(0);
  });
});

describe('speaking', () => {
  it('is shared by seconds, turns in a row counting as one', () => {
    const t = turnsOf(captions(cue('00', '06', 'Ines', 'a b c'), cue('06', '09', 'Ines', 'd'), cue('09', '12', 'Bram', 'e f')));
    expect(speakingShares(t)).toEqual([
      { voice: 'Ines', seconds: 9, words: 4, turns: 1, share: 0.75, longest: 9 },
      { voice: 'Bram', seconds: 3, words: 2, turns: 1, share: 0.25, longest: 3 },
    ]);
  });
  it('over each other is seen where captions overlap, and not where they touch', () => {
    const t = turnsOf(captions(cue('00', '06', 'Ines', 'a'), cue('04', '08', 'Bram', 'b'), cue('08', '09', 'Ines', 'c')));
    expect(overlaps(t)).toEqual([{ first: 'Ines', firstSegment: 0, second: 'Bram', secondSegment: 1, start: 4, seconds: 2 }]);
  });
  it('over each other is unknown without times', () => {
    expect(overlaps(talk('Ines: a\nBram: b'))).toEqual([]);
  });
  it.each([
    ['the shares sum to one', 'Ines: one two\nBram: three'],
    ['lines without a speaker count for nobody', 'Ines: one two\nBram: three\n(laughter)'],
  ])('%s', (_, text) => {
    expect(speakingShares(talk(text)).reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 9);
  });
});

describe('arrivals', () => {
  it('after the start are those who say so, once', () => {
    const minute = (m: string, who: string, words: string) => `00:${m}:00.000 --> 00:${m}:05.000\n<v ${who}>${words}\n`;
    const t = turnsOf(captions(minute('00', 'Ines', 'Sorry, I am late with the agenda.'), minute('02', 'Dele', 'Sorry, I came in late.'), minute('03', 'Ruth', 'The book first.'), minute('04', 'Dele', 'I came in late, as I said.'), minute('05', 'Bram', 'I’ve just joined.')));
    expect(cameLate(t)).toEqual([
      { voice: 'Dele', at: 120 },
      { voice: 'Bram', at: 300 },
    ]);
    expect(cameLate(talk('Ines: a\nBram: I came in late'))).toEqual([]);
  });
});

describe('summary', () => {
  const lines = Array.from({ length: 40 }, (_, i) => `${i % 2 ? 'Ines' : 'Bram'}: ${['The cable trays run on the port side of deck two', 'The night berths need a letter to the harbour board', 'Two invoices of the yard are missing from the cost report', 'hm yes'][i % 4]} ${i}.`);
  const t = talk(lines.join('\n'));
  const topics = topicsOf(t);
  const length = (l: 'brief' | 'usual' | 'everything') => summaryOf(t, topics, [], l).length;
  it('has three lengths, each in the order of the record, of words that were said', () => {
    expect(length('brief')).toBeLessThanOrEqual(4);
    expect(length('usual')).toBeLessThanOrEqual(10);
    expect(length('everything')).toBeGreaterThanOrEqual(length('usual'));
    const segments = summaryOf(t, topics, [], 'usual').map((l) => l.segment);
    expect(segments).toEqual([...segments].sort((a, b) => a - b));
    for (const l of summaryOf(t, topics, [], 'usual')) expect(t.turns.some((x) => x.segment === l.segment && x.text === l.text)).toBe(true);
  });
  it('does not say the same twice', () => {
    const texts = summaryOf(t, topics, [], 'brief').map((l) => l.text.replace(/ \d+\.$/, ''));
    expect(new Set(texts).size).toBe(texts.length);
  });
  it('keeps what was found', () => {
    const mixed = talk(['Bram: The forklift ran over the hose.', ...lines].join('\n').replace(/^(.*)$/m, 'Ines: We decided that the pump goes aft.\n$1'));
    expect(summaryOf(mixed, topicsOf(mixed), [{ segment: 0, kind: 'decision', confidence: 1 }], 'brief')[0]).toMatchObject({ segment: 0, carries: 'decision' });
  });
});

describe('for and against', () => {
  const t = talk(
    ['Ines: What if we charge at both quays and not only at Kelda?', 'Dele: I like it, it saves us the big transformer.', 'Petra: Too expensive, two sets of cables.', 'Bram: Depends on the tide, really.', 'Ruth: Works for me.', 'Ines: Then the weights, have they come?', 'Bram: Signed on Monday.'].join('\n'),
  );
  it('lists an idea with what each person said to it and the words it rests on', () => {
    const [idea] = ideasOf(t);
    expect(idea).toMatchObject({ voice: 'Ines', segment: 0 });
    expect(idea!.stances.map((s) => [s.voice, s.side, s.because])).toEqual([
      ['Dele', 'for', 'I like it'],
      ['Petra', 'against', 'Too expensive'],
      ['Bram', 'unsure', 'Depends'],
      ['Ruth', 'for', 'Works for me'],
    ]);
  });
  it('leaves out what nobody discussed', () => {
    expect(ideasOf(talk('Ines: What if we charge at both quays?\nBram: The weights are signed.\nInes: Good, and the trunk?'))).toEqual([]);
  });
  it('goes by what comes after “but”', () => {
    const [idea] = ideasOf(talk("Ines: How about a second survey in autumn?\nRuth: Good idea, but we can't afford it.\nBram: Sure."));
    expect(idea!.stances.map((s) => s.side)).toEqual(['against', 'for']);
  });
  it('can be asked of any subject', () => {
    expect(stancesOn(talk('Bram: I am against two cable sets.\nInes: Lunch?\nRuth: Lunch sounds good.'), new Set(['cabl', 'set'])).map((s) => [s.voice, s.side])).toEqual([['Bram', 'against']]);
  });
});

describe('risks and blockers', () => {
  it.each([
    ["We're stuck until the crane is back.", 'blocker', 'stuck'],
    ['Still waiting for the permit from the Board.', 'blocker', 'Still waiting for'],
    ["I can't draw the trays before I know the side.", 'blocker', "can't draw the trays before"],
    ['Two invoices are missing.', 'blocker', 'are missing'],
    ['The delivery might slip into April.', 'risk', 'might slip'],
    ['If the survey fails we lose a month.', 'risk', 'If the survey fails'],
    ['There is only one person who knows the relay.', 'risk', 'only one person who'],
  ])('%s is a %s', (text, kind, because) => {
    expect(troublesOf(talk(`Bram: ${text}`))).toMatchObject([{ kind, because }]);
  });
  it.each(['The yard is no longer stuck, all good.', 'It is not a risk any more.', 'The engine is out and on the plinth.'])('%s is none', (text) => {
    expect(troublesOf(talk(`Bram: ${text}`))).toEqual([]);
  });
});

describe('mood', () => {
  const mood = (text: string) => {
    const t = talk(text);
    return moodOf(t, [{ title: '', from: 0, to: t.turns.length - 1, segment: 0, start: 0, length: 0 }])[0]!;
  };
  it('follows the words of feeling, and shows them', () => {
    expect(mood('Ines: Wonderful, the crew are happy and the yard is proud.').mood).toBeGreaterThan(0.5);
    const low = mood('Bram: A terrible week, the crew are angry and the delay is a disaster.');
    expect(low.mood).toBeLessThan(-0.5);
    expect(low.words.map((w) => w.word)).toEqual(expect.arrayContaining(['terrible', 'angry', 'disaster']));
  });
  it('is turned round by a denial', () => {
    expect(mood('Bram: I am not happy with it.').words).toEqual([expect.objectContaining({ word: 'not happy', value: -3 })]);
  });
  it('takes words that are neutral at work as such', () => {
    expect(mood('Ines: The fire alarm and the battery charge, please share the tender.').words).toEqual([]);
  });
  it('tells where it turns', () => {
    const t = talk('A: Lovely, wonderful, brilliant, a joy.\nB: Superb.\nA: Terrible, awful, a disaster.\nB: I hate this failure.');
    const part = (from: number, to: number) => ({ title: '', from, to, segment: from, start: 0, length: 0 });
    expect(moodOf(t, [part(0, 1), part(2, 3)]).map((p) => p.turns)).toEqual([null, 'worse']);
  });
});

describe('names', () => {
  const t = talk(['Ines: Ruth has the book. We met Kelda Grid at Marrow Quay.', 'Bram: Then Adair said the Harbour Inspectorate comes on Monday.', 'Ines: the harbour board wants a letter from Ruth Adair.', 'Bram: Good. Then we ask Kelda Grid again.'].join('\n'));
  it('are of people, of organisations, and others', () => {
    const named = namedIn(t, PEOPLE);
    expect(named[0]).toMatchObject({ kind: 'person', name: 'Ruth Adair', person: 'ruth', segments: [0, 1, 2] });
    expect(named.filter((n) => n.kind === 'organisation').map((n) => n.name)).toEqual(expect.arrayContaining(['Harbour Inspectorate', 'harbour board']));
    expect(named.filter((n) => n.kind === 'name').map((n) => n.name)).toEqual(['Kelda Grid', 'Marrow Quay']);
  });
  it('are not words that only begin a sentence, nor days', () => {
    expect(namedIn(talk('Ines: Cables come on Monday. Trays too.\nBram: Yes. Maybe.'), PEOPLE)).toEqual([]);
  });
});

describe('time on a subject', () => {
  const t = turnsOf(captions(cue('00', '10', 'Ines', 'The cable trunk runs to port.'), cue('10', '14', 'Bram', 'Fine.'), cue('14', '20', 'Ruth', 'I draw the trunk cable.'), cue('40', '50', 'Ines', 'Lunch.')));
  it('is that of its exchanges', () => {
    expect(timeOn(t, 'the cable trunk')).toEqual({ stretches: [{ from: 0, to: 2, segment: 0, start: 0, seconds: 20 }], seconds: 20 });
  });
  it('is nothing for a subject nobody spoke of, or of no content', () => {
    expect(timeOn(t, 'budget').seconds).toBe(0);
    expect(timeOn(t, 'the of').seconds).toBe(0);
  });
});

describe('whatever the record', () => {
  const word = fc.constantFrom('the', 'cable', 'What if we', 'no', 'risk', '10:00', '<v X>', '👩‍👩‍👧', '\u202Eabc', '**', '|', '\n', '\nInes: ', '\n[00:10] Bram: ', 'a'.repeat(300), 'constructor', '__proto__');
  it('nothing throws, shares stay shares and every place exists', () => {
    fc.assert(
      fc.property(fc.array(word, { maxLength: 120 }), (words) => {
        const record = readRecord(words.join(' '), 'txt');
        const g = gistOf(record, PEOPLE, []);
        for (const s of g.shares) expect(s.share >= 0 && s.share <= 1).toBe(true);
        const places = [...g.topics, ...g.troubles, ...g.ideas, ...g.summary.everything].map((x) => x.segment);
        for (const p of places) expect(record.segments[p]).toBeDefined();
        expect(Number.isFinite(g.length)).toBe(true);
      }),
      { numRuns: 200 },
    );
  });
  it.each([
    ['a million characters without a space', 'a'.repeat(1_000_000)],
    ['ten thousand speakers', Array.from({ length: 10_000 }, (_, i) => `Voice ${i}: the cable number ${i} is stuck`).join('\n')],
    ['sixty thousand words', Array.from({ length: 4_000 }, (_, i) => `[${String(10 + Math.floor(i / 3600)).padStart(2, '0')}:${String(Math.floor(i / 60) % 60).padStart(2, '0')}] ${i % 3 ? 'Ines' : 'Bram'}: ${'the cable trunk on deck two and the harbour board letter, '.repeat(2)}${i}`).join('\n')],
  ])('%s is read through', (_, text) => {
    expect(gistOf(readRecord(text, 'txt'), PEOPLE, []).topics.length).toBeGreaterThan(0);
  });
});

describe('sentences of a summary', () => {
  it('are whole where captions cut them, and point at the cue they begin in', () => {
    const record = captions(
      cue('01', '03', 'Ines', 'We keep the old crane on the quay if'),
      cue('03', '05', 'Ines', 'the harbour board agrees by the end of March.'),
      cue('06', '08', 'Bram', 'The vent trunk goes aft of the funnel casing. If'),
      cue('08', '10', 'Bram', 'Mirela signs the drawing, we order the pipe on Monday.'),
    );
    const talk = turnsOf(record);
    const lines = summaryOf(talk, topicsOf(talk), [], 'everything');
    expect(lines.length).toBeGreaterThan(0);
    const whole = ['We keep the old crane on the quay if the harbour board agrees by the end of March.', 'The vent trunk goes aft of the funnel casing.', 'If Mirela signs the drawing, we order the pipe on Monday.'];
    for (const l of lines) expect(whole).toContain(l.text);
    for (const l of lines) expect(record.segments[l.segment]!.text).toContain(l.text.split(' ').slice(0, 1)[0]!);
  });
  it('of lists stay lines: nothing is joined that no caption cut', () => {
    const talk = turnsOf(readRecord('# Call\n\n- the slip stays open\n- paint the port bollards green\n- order new shackles for the crane', 'md'));
    for (const l of summaryOf(talk, topicsOf(talk), [], 'everything')) expect(l.text).not.toMatch(/open paint|green order/);
  });
});
