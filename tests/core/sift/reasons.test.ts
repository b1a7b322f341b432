import { describe, expect, it } from 'vitest';
import { readRecord } from '../../../src/core/record/read.ts';
import type { Draft } from '../../../src/core/sift/draft.ts';
import type { DueCandidate } from '../../../src/core/sift/due.ts';
import type { UpdateKind } from '../../../src/core/sift/find.ts';
import { readUnits } from '../../../src/core/sift/reading.ts';
import { whyAction, whyPlain, whyUpdate } from '../../../src/core/sift/reasons.ts';
import { viewOpen } from '../../../src/core/sift/reconcile.ts';

const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
];
const reading = (text: string) => readUnits({ record: readRecord(text, 'txt'), people, meeting: { date: '2026-03-05', next: null, present: ['ines', 'bram'], author: null }, open: [{ id: '7', text: 'Signed weights of the old engine', owner: ['bram'], due: '2026-03-06', madeOn: '2026-02-20' }] });
const candidate = (over: Partial<DueCandidate>): DueCandidate => ({ unit: 0, which: 0, date: null, phrase: '', from: 0, to: 0, rule: '', lead: '', ...over });
const draft = (nature: Draft['nature'], units: number[], over: Partial<Draft> = {}): Draft => ({
  group: { units, core: units[0]! },
  nature,
  owner: { people: [], sure: 1, how: '' },
  due: { due: null, candidate: null, sure: 1 },
  wording: () => ({ text: '', about: [], units: [] }),
  named: 0,
  likeOpen: 0,
  ...over,
});
const bram = (how: string) => ({ people: ['bram'], sure: 0.9, how });

describe('why an action is proposed', () => {
  const asked = 'Ines: Can you send the weights by Friday?\nBram: Yes, will do.\nInes: Thanks.';
  it('tells that somebody was asked and agreed, and that a day is named', () => {
    expect(whyAction(reading(asked), draft('action', [0, 1], { owner: bram('Bram answers the request'), due: { due: '2026-03-06', candidate: candidate({ date: '2026-03-06', phrase: 'by Friday' }), sure: 0.9 } }))).toBe('Bram is asked and agrees; a day is named.');
  });
  it('tells of two who were asked', () => {
    expect(whyAction(reading(asked), draft('action', [0, 1], { owner: { people: ['ines', 'bram'], sure: 0.6, how: '' } }))).toBe('Ines and Bram are asked and agree; no day is named.');
  });
  it('tells of a promise, and quotes words that name no day', () => {
    const r = reading('Ines: Weights?\nBram: I’ll send them when I get a chance.\nInes: Good.');
    expect(whyAction(r, draft('action', [1], { owner: bram('Bram says so'), due: { due: null, candidate: candidate({ phrase: 'when I get a chance' }), sure: 0.5 } }))).toBe('Bram promises it; “when I get a chance” names no day.');
  });
  it('tells that nobody takes it on', () => {
    expect(whyAction(reading('Ines: Somebody has to ring them.\nBram: Mm.\nInes: Next.'), draft('action', [0]))).toBe('Has to be done, and nobody says by whom; no day is named.');
    expect(whyAction(reading('Ines: The weights, then.\nBram: Mm.\nInes: Next.'), draft('action', [0]))).toBe('Nobody takes it on by name; no day is named.');
  });
  it('tells that it was said again much later', () => {
    const long = ['Bram: I’ll send the weights.', ...Array.from({ length: 18 }, (_, k) => `Ines: Point ${k}.`), 'Ines: Bram, the weights.', 'Bram: Yes, the weights.'].join('\n');
    expect(whyAction(reading(long), draft('action', [0, 19, 20], { owner: bram('Bram says so') }))).toMatch(/; said again later\.$/);
  });
});

describe('why a decision or a question is proposed', () => {
  it.each<[Draft['nature'], string, string]>([
    ['decision', 'Ines: Resolved, that the slip be kept.\nBram: Mm.\nInes: Next.', 'Resolved in the minutes.'],
    ['decision', 'Ines: We keep the slip, anyone against?\nBram: Mm.\nInes: Next.', 'Asked, and nobody is against it.'],
    ['decision', 'Ines: So we keep the slip.\nBram: Yes, fine.\nInes: Next.', 'Said as settled, and others agree.'],
    ['decision', 'Ines: So we keep the slip.\nBram: The crane moves.\nInes: Mm.', 'Said as settled.'],
    ['decision', 'Ines: The slip, rather than the crane.\nBram: The crane moves.\nInes: Mm.', 'A choice was on the table and one side is taken.'],
    ['question', 'Ines: Who pays for it? We park that.\nBram: Mm.\nInes: Mm.', 'Raised and put off.'],
    ['question', 'Ines: Who pays for it?\nBram: I don’t know.\nInes: Mm.', 'Nobody knows the answer here.'],
    ['question', 'Ines: Who pays for the crane?\nBram: Mm.\nInes: Mm.', 'Asked, and no answer follows.'],
  ])('%s: %s', (nature, text, reason) => {
    expect(whyPlain(reading(text), draft(nature, [0]))).toBe(reason);
  });
});

describe('why news is proposed', () => {
  const said = 'Bram: The weights of the engine are signed.\nInes: Bram has the weights.\nInes: Good, the engine then.';
  it.each<[number, UpdateKind, RegExp]>([
    [0, 'done', /^Its owner speaks of it, with “weights”.*; it is done\.$/],
    [1, 'progress', /^Its owner is named, with “weights”; it is still on\.$/],
    [2, 'blocked', /^It is spoken of, with “engine”; it cannot go on yet\.$/],
    [0, 'moved', /; it has a new date\.$/],
    [0, 'reassigned', /; somebody else has it now\.$/],
    [0, 'dropped', /; it is no longer wanted\.$/],
  ])('place %i, %s', (place, kind, reason) => {
    const r = reading(said);
    expect(whyUpdate(r, viewOpen(r)[0]!, [place], kind)).toMatch(reason);
  });
});
