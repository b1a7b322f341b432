import { describe, expect, it } from 'vitest';
import type { KeptFind } from '../../src/server/sift/finds.ts';
import { ALL_SHOWN, isFaint, isShown, looseOnes } from '../../src/views/sift/Shown.tsx';
import { canBeTakenUnseen, isDoubtful, nextOpen } from '../../src/views/sift/sure.ts';

const find = (more: Partial<KeptFind>): KeptFind => ({
  id: 1,
  record: 1,
  verdict: 'open',
  ref: null,
  reader: 'quick',
  key: 'k',
  kind: 'action',
  text: 't',
  about: [],
  owner: ['ines'],
  ownerHow: null,
  due: '2026-03-06',
  duePhrase: null,
  update: null,
  evidence: [],
  clues: [],
  confidence: 0.9,
  doubtful: [],
  reason: '',
  also: [],
  seen: 0,
  by: null,
  unadjusted: null,
  right: null,
  ...more,
});

describe('what stands in the margin', () => {
  it.each([
    [{}, ALL_SHOWN, true],
    [{}, { ...ALL_SHOWN, hidden: ['action' as const] }, false],
    [{ kind: 'question' as const }, { ...ALL_SHOWN, hidden: ['action' as const] }, true],
    [{ verdict: 'taken' as const }, { ...ALL_SHOWN, leftOnly: true }, false],
    [{ confidence: 0.5 }, { ...ALL_SHOWN, sureOnly: true }, false],
    [{ confidence: 0.5, verdict: 'taken' as const }, { ...ALL_SHOWN, sureOnly: true }, true],
  ])('%o under %o: %s', (more, shown, answer) => {
    expect(isShown(find(more), shown)).toBe(answer);
  });
  it('counts actions without owner or date that were not passed', () => {
    expect(looseOnes([find({}), find({ due: null }), find({ owner: [] }), find({ due: null, verdict: 'passed' }), find({ kind: 'decision', owner: [], due: null })])).toBe(2);
  });
});

describe('what is doubtful', () => {
  it.each([
    [{ confidence: 0.69 }, true],
    [{ confidence: 0.7 }, false],
    [{ confidence: 0.3, reader: 'hand' }, false],
    [{ confidence: 0.3, verdict: 'taken' as const }, false],
    [{ confidence: 0.3, seen: 4 }, false],
  ])('%o: %s', (more, doubtful) => {
    expect(isDoubtful(find(more))).toBe(doubtful);
    expect(isFaint(find(more), ALL_SHOWN)).toBe(doubtful);
    expect(isFaint(find(more), { ...ALL_SHOWN, doubtful: true })).toBe(false);
  });
  it('comes after all that is sure, and is not left out', () => {
    const [unsure, sure, done] = [find({ id: 1, confidence: 0.4 }), find({ id: 2 }), find({ id: 3, verdict: 'passed' })];
    expect(nextOpen([unsure, sure, done])).toBe(sure);
    expect(nextOpen([unsure, done])).toBe(unsure);
    expect(nextOpen([done])).toBeUndefined();
  });
});

describe('what is taken unseen', () => {
  it.each([
    [{}, true],
    [{ confidence: 0.79 }, false],
    [{ doubtful: ['due' as const] }, false],
    [{ doubtful: ['owner' as const] }, false],
    [{ kind: 'update' as const, doubtful: ['news' as const] }, false],
    [{ doubtful: undefined }, false],
    [{ reader: 'doubted' }, false],
    [{ owner: [] }, false],
    [{ due: null }, false],
    [{ kind: 'decision' as const, owner: [], due: null }, true],
    [{ verdict: 'passed' as const }, false],
  ])('%o: %s', (more, answer) => {
    expect(canBeTakenUnseen(find(more))).toBe(answer);
  });
});
