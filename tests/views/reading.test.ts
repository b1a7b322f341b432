import { describe, expect, it } from 'vitest';
import type { KeptFind } from '../../src/server/sift/finds.ts';
import { countsInWords, readingWords, refine } from '../../src/views/sift/reading.ts';
import { changedElsewhere } from '../../src/views/sift/use-live.ts';

const find = (id: number, text: string, verdict: KeptFind['verdict'] = 'open'): KeptFind => ({
  id,
  record: 1,
  verdict,
  ref: null,
  reader: 'quick',
  also: [],
  seen: 0,
  by: null,
  unadjusted: null,
  right: null,
  key: `action:${id}:0`,
  kind: 'action',
  text,
  about: [],
  owner: [],
  ownerHow: null,
  due: null,
  duePhrase: null,
  update: null,
  evidence: [],
  clues: [],
  confidence: 0.5,
  reason: '',
});

describe('the close reader’s finds on the screen', () => {
  it('are laid over the first ones: put better, dropped, added', () => {
    const r = refine([find(1, 'a'), find(2, 'b'), find(3, 'c')], [find(1, 'a'), find(2, 'B'), find(9, 'new')], new Set());
    expect(r.finds.map((f) => [f.id, f.text])).toEqual([
      [1, 'a'],
      [2, 'B'],
      [9, 'new'],
    ]);
    expect([r.added, r.changed, r.gone]).toEqual([1, 1, 1]);
  });
  it('leave alone what was judged and what is being edited', () => {
    const r = refine([find(1, 'taken', 'taken'), find(2, 'edited'), find(3, 'passed', 'passed')], [find(1, 'x'), find(2, 'y')], new Set([2]));
    expect(r.finds.map((f) => f.text)).toEqual(['taken', 'edited', 'passed']);
    expect(r.changed + r.gone + r.added).toBe(0);
  });
  it.each([
    [null, undefined],
    [{ state: 'waiting', done: 0, all: 0, why: null }, 'reads closely next'],
    [{ state: 'reading', done: 12, all: 48, why: null }, 'read closely 25%'],
    [{ state: 'reading', done: 0, all: 0, why: null }, 'reading closely'],
    [{ state: 'quick only', done: 0, all: 0, why: 'x' }, 'quick reader only'],
    [{ state: 'done', done: 4, all: 4, why: null }, undefined],
  ] as const)('%o is said as %s', (state, words) => {
    expect(readingWords(state)).toBe(words);
  });
  it('are counted together when they arrived in two goes', () => {
    expect(countsInWords({ added: 1, changed: 2, gone: 0 }, { added: 1, changed: 0, gone: 3 })).toBe('2 new, 2 put better, 3 doubted');
    expect(countsInWords({ added: 0, changed: 0, gone: 0 })).toBe('nothing changed');
  });
});

describe('what is told as changed elsewhere', () => {
  it('is what people did, not what a reader did', () => {
    const shown = [find(1, 'a'), find(2, 'b')];
    expect(
      changedElsewhere(shown, [
        { ...find(1, 'A'), reader: 'close' },
        { ...find(3, 'c'), reader: 'close' },
      ]),
    ).toBeNull();
    expect(changedElsewhere(shown, [{ ...find(1, 'A'), verdict: 'taken', seen: 4, ref: 'C-9', by: 'Noor' }, find(2, 'b')])).toBe('Noor took C-9: A');
    expect(changedElsewhere(shown, [...shown, { ...find(3, 'by hand'), reader: 'hand', by: 'Noor' }])).toBe('Noor marked a find: by hand');
    expect(changedElsewhere([{ ...find(1, 'a'), seen: 2 }, find(2, 'b')], [find(2, 'b')])).toBe('A find was taken away');
  });
});
