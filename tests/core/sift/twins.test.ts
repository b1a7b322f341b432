import { describe, expect, it } from 'vitest';
import { likeness, seenIn, type Told, twinOf } from '../../../src/core/sift/twins.ts';

const told = (over: Partial<Told>): Told => ({ kind: 'action', text: 'Send the crane papers to the harbour office', about: [], owner: [], due: null, update: null, ...over });
const news = (open: string): Told['update'] => ({ open, kind: 'done', due: null, owner: null });

describe('the same thing said in two records', () => {
  it.each<[string, Partial<Told>, Partial<Told>, boolean]>([
    ['the same words', {}, {}, true],
    ['fewer of the same words', {}, { text: 'crane papers' }, true],
    ['other words for one job with owner and date', { owner: ['bram'], due: '2026-03-06' }, { text: 'Crane papers, harbour master wants them', owner: ['bram'], due: '2026-03-06' }, true],
    ['the same job for somebody else', { text: 'Read the draft', owner: ['bram'] }, { text: 'Sign the draft', owner: ['ines'] }, false],
    ['one word in common', {}, { text: 'Paint the crane in the winter' }, false],
    ['another kind', {}, { kind: 'decision' }, false],
    ['news of one commitment', { kind: 'update', update: news('7') }, { kind: 'update', text: 'all of it has gone', update: news('7') }, true],
    ['news of two', { kind: 'update', update: news('7') }, { kind: 'update', update: news('8') }, false],
    ['no words at all', { text: '' }, { text: '' }, false],
  ])('%s', (_, a, b, same) => {
    expect(twinOf(told(a), [told(b)]) !== null).toBe(same);
    expect(likeness(told(a), told(b))).toBeCloseTo(likeness(told(b), told(a)), 9);
  });
  it('is looked for among all, and the likeliest is taken', () => {
    const near = told({ text: 'Send the crane papers' });
    const far = told({ text: 'Crane papers for the insurer' });
    expect(twinOf(told({}), [far, near])).toBe(near);
    expect(twinOf(told({}), [])).toBeNull();
  });
});

describe('a find beside another record it stands in', () => {
  const find = { record: 1, evidence: [{ segment: 4, from: 0, to: 9, role: 'states' as const }], clues: [], also: [{ record: 2, evidence: [{ segment: 0, from: 0, to: 5, role: 'states' as const }], clues: [] }] };
  it('has the places of that record, and keeps the others', () => {
    const there = seenIn(find, 2);
    expect(there.record).toBe(2);
    expect(there.evidence[0]!.segment).toBe(0);
    expect(there.also.map((e) => e.record)).toEqual([1]);
    expect(seenIn(there, 1)).toEqual(find);
  });
  it('stays as it is beside its own, or where it does not stand', () => {
    expect(seenIn(find, 1)).toBe(find);
    expect(seenIn(find, 3)).toBe(find);
  });
});
