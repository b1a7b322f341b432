import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import { rankClauses } from '../../../src/core/sift/clauses.ts';
import { chooseDue, dueCandidates } from '../../../src/core/sift/due.ts';
import { formOf } from '../../../src/core/sift/forms.ts';
import { logOdds, probability, steps, strongest } from '../../../src/core/sift/linear.ts';
import type { SiftModels } from '../../../src/core/sift/models.ts';
import { readNatures } from '../../../src/core/sift/natures.ts';
import { chooseOwner, ownerCandidates, ownerFeatures } from '../../../src/core/sift/owner.ts';
import { readUnits } from '../../../src/core/sift/reading.ts';
import { stemIndex, viewOpen } from '../../../src/core/sift/reconcile.ts';
import { sift } from '../../../src/core/sift/sift.ts';
import weights from '../../../src/core/sift/weights/quick.json' with { type: 'json' };

const models = weights as unknown as SiftModels;
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'ruth', name: 'Ruth Adair', aliases: [], role: 'architect' },
];
const reading = (text: string, format: 'txt' | 'md' = 'txt', author: string | null = null) =>
  readUnits({ record: readRecord(text, format), people, meeting: { date: '2026-03-05', next: '2026-03-12', present: ['ines', 'bram'], author }, open: [{ id: '7', text: 'Signed weights of the old engine', owner: ['bram'], due: '2026-03-06', madeOn: '2026-02-20' }] });

describe('units', () => {
  it('are cues and lines, and sentences of long prose', () => {
    const r = reading('# Minutes\n\nThe weights were signed by the foreman on Monday and went to Ms Adair the same day. The Chair thanked him. It was then agreed that the slip be kept for another week, Mr Osei to tell the harbour office of it before Friday in writing.', 'md', 'ines');
    expect(r.units.filter((u) => u.segment === 1).length).toBeGreaterThan(1);
    expect(r.units.every((u) => u.text === r.input.record.segments[u.segment]!.text.slice(u.from, u.to))).toBe(true);
  });
  it('know their speaker: the voice, or the author of notes', () => {
    expect(reading('Ines: hello\nBram: hi\nInes: so').units.map((u) => u.speaker)).toEqual(['ines', 'bram', 'ines']);
    expect(reading('- I will ring them', 'md', 'bram').units[0]!.speaker).toBe('bram');
    expect(reading('[0:01] hello\n[0:02] there\n[0:03] all').units[0]!.speaker).toBeNull();
  });
});

describe('owner', () => {
  const own = (text: string, units: number[], format: 'txt' | 'md' = 'txt', author: string | null = null) => chooseOwner(reading(text, format, author), { units, core: units[0]! }, new Map(), models.owner).people;
  it.each([
    ['first person is the speaker', 'Ines: morning\nBram: I will send the weights by Friday.\nInes: good', [1], ['bram']],
    ['second person is whoever answers', 'Ines: Can you send the weights?\nBram: Yes, by Friday.\nInes: thanks', [0, 1], ['bram']],
    ['a third person who is named', 'Ines: Ruth will have to redraw the outline by Friday.\nBram: ok\nInes: good', [0], ['ruth']],
  ])('%s', (_, text, units, expected) => {
    expect(own(text, units)).toEqual(expected);
  });
  it('is named in front of a line of notes', () => {
    expect(own('- Bram: weights to Ruth by Friday\n- the weather', [0], 'md', 'ines')).toEqual(['bram']);
  });
  const signs = (text: string, units: number[], person: string, format: 'txt' | 'md' = 'txt') => [...ownerFeatures(reading(text, format, format === 'md' ? 'ines' : null), { units, others: new Set(), core: units[0]! }, person, new Map()).keys()];
  it.each<[string, string, number[], string, string, string]>([
    ['“she” is who was named before', 'Ines: I wrote to Ruth.\nInes: She’ll send the outline back by Friday.', [1], 'ruth', 'core:he-or-she', 'bram'],
    ['in the same words too', 'Ines: Bram heard from Ruth, and she is to send it.', [0], 'ruth', 'core:he-or-she', 'bram'],
    ['who is thanked by name has taken it on', 'I will write to the office about it.\nThank you, Bram.', [0], 'bram', 'spoken-to-after', 'ruth'],
    ['who is asked by name', 'Bram, could you do that?\nYes, by Friday.', [1], 'bram', 'spoken-to-before', 'ruth'],
  ])('%s', (_, text, units, person, sign, other) => {
    expect(signs(text, units, person)).toContain(sign);
    expect(signs(text, units, other)).not.toContain(sign);
  });
  it('is named in brackets of either kind', () => {
    for (const line of ['- AI: the outline (Ruth)', '- AI: the outline [Ruth]', '- AI: the outline [Bram + Ruth]']) expect(signs(line, [0], 'ruth', 'md')).toContain('core:named-in-brackets');
    expect(signs('- AI: Ruth has the outline', [0], 'ruth', 'md')).not.toContain('core:named-in-brackets');
  });
  it('candidates are those who speak or are named right there', () => {
    const r = reading('Ines: far away\nInes: still\nInes: away\nInes: and more\nBram: I will do it\nInes: ok');
    expect(ownerCandidates(r, { units: [4], core: 4 })).toEqual(['ines', 'bram']);
  });
});

describe('dates of a job', () => {
  it('come from its places and the ones beside', () => {
    const r = reading('Ines: Can you send the weights?\nBram: Yes.\nInes: By when?\nBram: Friday.\nInes: the audit is on the 20th');
    expect(dueCandidates(r, { units: [0, 1, 2], core: 0 }).map((d) => d.date)).toEqual(['2026-03-06', '2026-03-20']);
  });
});

describe('the day of a plain request', () => {
  const due = (text: string, units: number[]) => {
    const r = reading(text);
    return chooseDue(r, new Float64Array(r.units.length), { units, others: new Set(), core: units[0]! }, [], new Map(), { bias: 0, weights: {} }).due;
  };
  it.each<[string, string, number[], string | null]>([
    ['is the one it names, whatever else is said later', 'Ines: Could you draw the outline of the pontoon by Tuesday?\nRuth: I can.\nInes: And the lamps?\nInes: Bram, would you order the ropes by the 12th?\nBram: Will do.', [0, 1], '2026-03-10'],
    ['of a plain promise too', 'Bram: I will send the signed weights by Friday.\nInes: Good.', [0], '2026-03-06'],
    ['gives way where the answer names another, which is weighed', 'Ines: Could you draw the outline of the pontoon by Tuesday?\nRuth: Not before Thursday.', [0, 1], null],
  ])('%s', (_, text, units, expected) => {
    // a model without weights prefers nothing, so that what the form says shows
    if (expected) expect(due(text, units)).toBe(expected);
    else expect(due(text, units)).not.toBe('2026-03-10');
  });
});

describe('wording', () => {
  it('prefers the sentence that says what the matter is', () => {
    const r = reading('Ines: So the weights of the old engine are read twice from now on, is anyone against that?\nBram: Yes. No, fine by me.\nInes: Good.');
    const natures = readNatures(r, models.natures);
    expect(rankClauses(r, natures.odds.decision, { units: [0, 1], core: 0 }, models.clause.decision)[0]!.clause.text).toContain('weights');
  });
});

describe('open commitments', () => {
  it('are compared by stems of their words', () => {
    const r = reading('Bram: The engine weighed more than we thought.\nInes: So the weights are signed?\nBram: yes');
    const [view] = viewOpen(r);
    expect([...view!.stems].sort()).toEqual(['engin', 'old', 'sign', 'weight']);
    expect(stemIndex(r).get('weight')).toEqual([1]);
  });
});

describe('linear models', () => {
  const model = { bias: -1, weights: { a: 2, b: -1 } };
  it('sum what they know', () => {
    expect(
      logOdds(
        model,
        new Map([
          ['a', 1],
          ['b', 0.5],
          ['unknown', 9],
        ]),
      ),
    ).toBe(0.5);
    expect(probability(0)).toBe(0.5);
    expect(probability(-1e9)).toBeGreaterThanOrEqual(0);
  });
  it('tell what spoke for a judgement', () => {
    expect(
      strongest(
        model,
        new Map([
          ['a', 1],
          ['b', 1],
        ]),
        3,
      ),
    ).toEqual(['a']);
  });
  it('bend in steps', () => {
    const f = new Map<string, number>();
    steps(f, 'x', 5, [1, 5, 9]);
    expect([...f.keys()]).toEqual(['x>=1', 'x>=5']);
  });
});

describe('lines of notes that say by their form what they are', () => {
  const people = [
    { id: 'bram', name: 'Bram Osei', aliases: [], role: '' },
    { id: 'ruth', name: 'Ruth Adair', aliases: [], role: '' },
  ];
  const forms = (text: string) => {
    const reading = readUnits({ record: readRecord(text, 'md'), people, meeting: { date: '2026-03-05', next: null, present: ['bram', 'ruth'], author: null }, open: [] }, null);
    return reading.units.map((u) => formOf(u));
  };
  it.each([
    ['- [ ] paint the casing', 'todo'],
    ['- [x] paint the casing', null],
    ['Action: Bram to paint the casing', 'todo'],
    ['TODO Bram: paint the casing', 'todo'],
    ['Action (Bram): paint', 'todo'],
    ['**Decision:** the trunk goes aft', 'decided'],
    ['DECIDED no band', 'decided'],
    ['Open: who pays?', 'asked'],
    ['Agreed with everything Bram said', null],
    ['The decision is hard', null],
    ['Opening the shed took an hour', null],
  ])('%j', (text, form) => expect(forms(text)).toEqual([form]));
  it('a row of a table is one when it names who and when', () => {
    expect(forms('| What | Who | When |\n|---|---|---|\n| Check the weights | Bram | 12 March |\n| Stores | dry | warm |')).toEqual([null, 'row', null]);
  });
});

describe('plain speech that says by its form what it is', () => {
  const people = [{ id: 'bram', name: 'Bram Osei', aliases: [], role: '' }];
  const inputOf = (text: string) => ({ record: readRecord(text, 'txt'), people, meeting: { date: '2026-03-05', next: null, present: ['bram'], author: null }, open: [] });
  const form = (words: string) => formOf(readUnits(inputOf(`Bram: ${words}\nInes: Yes.`)).units[0]!);
  it.each([
    ['I will ring the diver about the chain by Friday.', 'promised'],
    ['Fine, I’ll mend the gangway rail on Monday then.', 'promised'],
    ['Ines, could you book the tug for the tow by Friday?', 'requested'],
    ['I will ring him about it by Friday.', null],
    ['I will ring the diver about the chain.', null],
    ['If it rains I will ring the diver about the chain by Friday.', null],
    ['I’ll be on the quay wall on Friday.', null],
    ['The diver will ring about the chain by Friday.', null],
    ['Could you imagine the noise on the quay by Friday?', null],
  ])('%j', (words, expected) => expect(form(words)).toBe(expected));
  it('gives one find for each job of a plain round, each with its day', () => {
    const jobs = ['ring the diver about the chain', 'order two drums of paint', 'mend the gangway rail', 'write to the council about the lamps', 'count the life jackets', 'book the tug for the tow', 'copy the keys of the shed', 'measure the gap at the slipway'];
    const text = jobs.map((job) => `Bram: I will ${job} by Friday.\nInes: Thanks, Bram.\nInes: Next.`).join('\n');
    const actions = sift(inputOf(text), weights as unknown as SiftModels).finds.filter((f) => f.kind === 'action');
    expect(actions).toHaveLength(jobs.length);
    for (const a of actions) expect(a).toMatchObject({ owner: ['bram'], due: '2026-03-06' });
  });
});
