import { describe, expect, it } from 'vitest';
import type { KeptAnswer } from '../../src/server/letters/replies.ts';
import { matching } from '../../src/views/parts/ComboField.tsx';
import { draftOf, takeOf, withDue, withKind, withOwner } from '../../src/views/post/answer-draft.ts';
import { type Section, standIn } from '../../src/views/post/entries.ts';

const read = (more: Partial<KeptAnswer>) => draftOf({ kind: 'remark', due: null, owner: null, ...more } as KeptAnswer);

describe('what is changed in an answer’s slip is what is taken', () => {
  it('a hand-over chosen by key or click', () => {
    expect(takeOf(withOwner(withKind(read({}), 'reassigned'), ['jonas']))).toEqual({ kind: 'reassigned', owner: ['jonas'] });
    expect(takeOf(withOwner(read({ kind: 'done' }), ['jonas']))).toEqual({ kind: 'reassigned', owner: ['jonas'] });
  });
  it('a date typed over the one that was read', () => {
    expect(takeOf(withDue(read({ kind: 'moved', due: '2026-03-09' }), '2026-12-11'))).toEqual({ kind: 'moved', due: '2026-12-11' });
    expect(takeOf(withDue(read({ kind: 'progress' }), '2026-12-11'))).toEqual({ kind: 'moved', due: '2026-12-11' });
  });
  it('a hand-over with a date', () => expect(takeOf(withDue(withOwner(read({}), ['jonas']), '2026-12-11'))).toEqual({ kind: 'reassigned', owner: ['jonas'], due: '2026-12-11' }));
  it('nothing that the kind shown does not have', () => expect(takeOf(withKind(withDue(read({}), '2026-12-11'), 'done'))).toEqual({ kind: 'done' }));
});

describe('a list that loses what is looked at', () => {
  const entry = (id: string) => ({ at: 'reply', id }) as unknown as Section['entries'][number];
  const sections = [
    { title: 'Back', entries: [entry('a')] },
    { title: 'Today', entries: [entry('b'), entry('d')] },
  ] as Section[];
  it('goes to the next of the same list, the last one after the end, another list only where it is empty', () => {
    expect(standIn(sections, { section: 'Today', at: 1 })!.id).toBe('d');
    expect(standIn(sections, { section: 'Today', at: 2 })!.id).toBe('d');
    expect(standIn(sections, { section: 'Held', at: 0 })!.id).toBe('a');
    expect(standIn([], { section: 'Held', at: 0 })).toBeUndefined();
  });
});

describe('a choice by typing', () => {
  const options = [
    { value: 1, label: 'C-12', note: 'Hoist certificate to Mirela' },
    { value: 2, label: 'C-1', note: 'Certify the hoist' },
    { value: 3, label: 'C-121', note: 'Paint' },
  ];
  it('finds by reference, with or without its dash, and by any words', () => {
    expect(matching(options, 'c-12').map((o) => o.value)).toEqual([1, 3]);
    expect(matching(options, 'c12').map((o) => o.value)).toEqual([1, 3]);
    expect(matching(options, 'hoi cert').map((o) => o.value)).toEqual([1, 2]);
    expect(matching(options, 'paint').map((o) => o.value)).toEqual([3]);
    expect(matching(options, 'zebra')).toEqual([]);
    expect(matching(options, '')).toHaveLength(3);
  });
});
