import { describe, expect, it } from 'vitest';
import type { Find } from '../../../../src/core/sift/find.ts';
import { joined } from '../../../../src/core/sift/model/joining.ts';
import { TRUST } from '../../../../src/core/sift/model/trust.ts';

const find = (given: Partial<Find>): Find => ({
  key: 'action:3:0',
  kind: 'action',
  text: 'Order the bilge pump',
  about: [],
  owner: ['ada'],
  ownerHow: 'Ada says so',
  due: '2026-03-06',
  duePhrase: 'by Friday',
  update: null,
  evidence: [{ segment: 3, from: 0, to: 20, role: 'states' }],
  clues: [],
  confidence: 0.6,
  doubtful: [],
  reason: 'Ada promises it; a day is named.',
  ...given,
});
const theirs = (given: Partial<Find>) => find({ key: 'action:4:0', text: 'Order the second bilge pump', evidence: [{ segment: 4, from: 0, to: 10, role: 'states' }], confidence: 0.75, reason: 'The model reader; the words say whose it is; a day is named.', ...given });

describe('two readers’ finds', () => {
  it('are one where both have it: surer, called as the model calls it, known by the key it had', () => {
    expect(joined([find({})], [theirs({})], TRUST)).toMatchObject([{ key: 'action:3:0', text: 'Order the second bilge pump', confidence: TRUST.both.action, doubtful: [], reason: 'Both readers; the words say whose it is; a day is named.', evidence: [{ segment: 3 }, { segment: 4 }] }]);
  });
  it('stay as they are where one alone has it', () => {
    const [mine, other] = [find({}), theirs({ text: 'Paint the wheelhouse', evidence: [{ segment: 9, from: 0, to: 5, role: 'states' }] })];
    expect(joined([mine], [other], TRUST)).toEqual([mine, other]);
  });
  it.each([
    ['another owner', { owner: ['ben'] }, ['owner']],
    ['no owner', { owner: [] }, ['owner']],
    ['another date', { due: '2026-03-09' }, ['due']],
    ['no date', { due: null }, ['due']],
    ['another owner and no date', { owner: ['ben'], due: null }, ['owner', 'due']],
  ] as const)('leave somebody to look where the model has %s', (_, other, doubtful) => {
    expect(joined([find({})], [theirs({ ...other, owner: [...('owner' in other ? other.owner : ['ada'])] })], TRUST)[0]!.doubtful).toEqual(doubtful);
  });
  it('take from each other what one of them lacks', () => {
    expect(joined([find({ owner: [], due: null, doubtful: ['owner'] })], [theirs({})], TRUST)[0]).toMatchObject({ owner: ['ada'], due: '2026-03-06', doubtful: [] });
    expect(joined([find({})], [theirs({ due: null, duePhrase: null })], TRUST)[0]).toMatchObject({ due: '2026-03-06', duePhrase: 'by Friday' });
  });
  it('are about the same commitment or not at all, as updates', () => {
    const update = (open: string, kind: 'done' | 'moved') => find({ key: `update:${open}`, kind: 'update', update: { open, kind, due: null, owner: null } });
    const [one] = joined([update('1', 'done')], [update('1', 'moved')], TRUST);
    expect(one).toMatchObject({ doubtful: ['news'], update: { kind: 'moved' } });
    expect(joined([update('1', 'done')], [update('2', 'done')], TRUST)).toHaveLength(2);
  });
  it('of other kinds are two, though they rest on the same words', () => {
    expect(joined([find({ kind: 'decision' })], [theirs({ evidence: find({}).evidence })], TRUST)).toHaveLength(2);
  });
  it('have keys of their own', () => {
    const same = joined([find({})], [theirs({ key: 'action:3:0', text: 'Paint the wheelhouse', evidence: [{ segment: 9, from: 0, to: 5, role: 'states' }] })], TRUST);
    expect(new Set(same.map((f) => f.key)).size).toBe(2);
  });
});
