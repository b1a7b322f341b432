import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import type { Asker } from '../../src/server/people/asker.ts';
import { findsOf, type KeptFind, keepFinds } from '../../src/server/sift/finds.ts';
import { passFind, reopenFind, takeFind } from '../../src/server/sift/judging.ts';
import { reshapeFind } from '../../src/server/sift/reshaping.ts';
import type { Db } from '../../src/server/store/database.ts';
import { demoWorld } from './world.ts';

let db: Db;
let asker: Asker;
let meeting: number;
const of = async (kind: KeptFind['kind']) => (await findsOf(asker, db, meeting)).filter((f) => f.kind === kind && f.verdict === 'open');
const now = async (id: number) => (await findsOf(asker, db, meeting)).find((f) => f.id === id)!;
beforeEach(async () => {
  ({ db, asker } = await demoWorld());
  meeting = (await meetingRows(asker, db, { project: 'quiet-crossing' })).find((m) => m.findsLeft > 0)!.id;
});
afterEach(() => db.destroy());

describe('a find that is something else', () => {
  it('becomes another kind, and can be put back as it was', async () => {
    const [f] = await of('action');
    const { find } = await reshapeFind(asker, db, f!.id, { do: 'kind', kind: 'decision' });
    expect(find).toMatchObject({ kind: 'decision', owner: [], due: null, text: f!.text });
    expect((await takeFind(asker, db, f!.id, {})).ref).toMatch(/^D-/);
    await reopenFind(asker, db, f!.id);
    await reshapeFind(asker, db, f!.id, { do: 'put back' });
    expect(await now(f!.id)).toMatchObject({ kind: 'action', owner: f!.owner, due: f!.due });
    await expect(reshapeFind(asker, db, f!.id, { do: 'put back' })).rejects.toThrow('nothing to put back');
  });
  it('becomes news of an open commitment, and the other way round', async () => {
    const [action] = await of('action');
    const open = (await ledgerRows(asker, db, { project: 'quiet-crossing', state: 'open' })).filter((r) => r.meeting !== meeting);
    const spoken = new Set((await of('update')).map((u) => u.update!.open));
    const free = open.find((o) => !spoken.has(String(o.id)))!;
    const { find } = await reshapeFind(asker, db, action!.id, { do: 'about', open: free.id });
    expect(find).toMatchObject({ kind: 'update', text: free.text, ref: free.ref });
    const back = await reshapeFind(asker, db, action!.id, { do: 'about', open: null });
    expect(back.find).toMatchObject({ kind: 'action', update: null });
  });
  it('is not made news of a commitment that another find is news of', async () => {
    const [action] = await of('action');
    const [update] = await of('update');
    await expect(reshapeFind(asker, db, action!.id, { do: 'about', open: Number(update!.update!.open) })).rejects.toThrow('is news of C-');
    await expect(reshapeFind(asker, db, action!.id, { do: 'about', open: 99_999 })).rejects.toThrow('no such commitment');
  });
  it('swallows one that says the same, with its places; put back gives it free again', async () => {
    const [a, b] = await of('action');
    const { find, other } = await reshapeFind(asker, db, a!.id, { do: 'merge', with: b!.id });
    expect(other).toMatchObject({ id: b!.id, verdict: 'passed' });
    for (const e of b!.evidence) expect(find.evidence.some((x) => x.segment === e.segment && x.from === e.from)).toBe(true);
    expect(find.evidence.filter((e) => e.role === 'states')).toHaveLength(a!.evidence.filter((e) => e.role === 'states').length);
    const again = await reshapeFind(asker, db, a!.id, { do: 'put back' });
    expect(again.find.evidence).toEqual(a!.evidence);
    expect(again.other).toMatchObject({ id: b!.id, verdict: 'open' });
  });
  it('puts back step by step', async () => {
    const [a, b] = await of('action');
    await reshapeFind(asker, db, a!.id, { do: 'kind', kind: 'question' });
    await reshapeFind(asker, db, a!.id, { do: 'merge', with: b!.id });
    expect((await reshapeFind(asker, db, a!.id, { do: 'put back' })).find.kind).toBe('question');
    expect((await reshapeFind(asker, db, a!.id, { do: 'put back' })).find).toMatchObject({ kind: 'action', evidence: a!.evidence });
  });
  it('stays so when the close reader comes after', async () => {
    const [a] = await of('action');
    await reshapeFind(asker, db, a!.id, { do: 'kind', kind: 'decision' });
    await keepFinds(db, meeting, a!.record, { finds: [], reader: 'close' });
    expect(await now(a!.id)).toMatchObject({ kind: 'decision', verdict: 'open' });
  });
  it('is refused when it is settled, of another meeting, or not to be seen', async () => {
    const [a, b] = await of('action');
    await passFind(asker, db, b!.id);
    await expect(reshapeFind(asker, db, b!.id, { do: 'kind', kind: 'decision' })).rejects.toThrow('settled already');
    await expect(reshapeFind(asker, db, a!.id, { do: 'merge', with: b!.id })).rejects.toThrow('other find is settled');
    await expect(reshapeFind(asker, db, a!.id, { do: 'kind', kind: 'action' })).rejects.toThrow('an action already');
    await expect(reshapeFind({ ...asker, projects: new Set() }, db, a!.id, { do: 'kind', kind: 'decision' })).rejects.toThrow('no such find');
    const foreign = (await db.selectFrom('finds').select('id').where('meeting_id', '!=', meeting).executeTakeFirstOrThrow()).id;
    await expect(reshapeFind(asker, db, a!.id, { do: 'merge', with: foreign })).rejects.toThrow('not of one meeting');
  });
});
