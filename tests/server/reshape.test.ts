import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { findsOf, type KeptFind, keepFinds } from '../../src/server/sift/finds.ts';
import { passFind, reopenFind, takeFind } from '../../src/server/sift/judging.ts';
import { reshapeFind } from '../../src/server/sift/reshaping.ts';
import { demoWorld } from './world.ts';

let ws: Workspace;
let meeting: number;
const of = async (kind: KeptFind['kind']) => (await findsOf(ws, meeting)).filter((f) => f.kind === kind && f.verdict === 'open');
const now = async (id: number) => (await findsOf(ws, meeting)).find((f) => f.id === id)!;
beforeEach(async () => {
  ws = await demoWorld();
  meeting = (await meetingRows(ws, { project: 'quiet-crossing' })).find((m) => m.findsLeft > 0)!.id;
});
afterEach(() => ws.db.destroy());

describe('a find that is something else', () => {
  it('becomes another kind, and can be put back as it was', async () => {
    const [f] = await of('action');
    const { find } = await reshapeFind(ws, f!.id, { do: 'kind', kind: 'decision' });
    expect(find).toMatchObject({ kind: 'decision', owner: [], due: null, text: f!.text });
    expect((await takeFind(ws, f!.id, {})).ref).toMatch(/^D-/);
    await reopenFind(ws, f!.id);
    await reshapeFind(ws, f!.id, { do: 'put back' });
    expect(await now(f!.id)).toMatchObject({ kind: 'action', owner: f!.owner, due: f!.due });
    await expect(reshapeFind(ws, f!.id, { do: 'put back' })).rejects.toThrow('nothing to put back');
  });
  it('becomes news of an open commitment, and the other way round', async () => {
    const [action] = await of('action');
    const open = (await ledgerRows(ws, { project: 'quiet-crossing', state: 'open' })).filter((r) => r.meeting !== meeting);
    const spoken = new Set((await of('update')).map((u) => u.update!.open));
    const free = open.find((o) => !spoken.has(String(o.id)))!;
    const { find } = await reshapeFind(ws, action!.id, { do: 'about', open: free.id });
    expect(find).toMatchObject({ kind: 'update', text: free.text, ref: free.ref });
    const back = await reshapeFind(ws, action!.id, { do: 'about', open: null });
    expect(back.find).toMatchObject({ kind: 'action', update: null });
  });
  it('is not made news of a commitment that another find is news of', async () => {
    const [action] = await of('action');
    const [update] = await of('update');
    await expect(reshapeFind(ws, action!.id, { do: 'about', open: Number(update!.update!.open) })).rejects.toThrow('is news of C-');
    await expect(reshapeFind(ws, action!.id, { do: 'about', open: 99_999 })).rejects.toThrow('no such commitment');
  });
  it('swallows one that says the same, with its places; put back gives it free again', async () => {
    const [a, b] = await of('action');
    const { find, other } = await reshapeFind(ws, a!.id, { do: 'merge', with: b!.id });
    expect(other).toMatchObject({ id: b!.id, verdict: 'passed' });
    for (const e of b!.evidence) expect(find.evidence.some((x) => x.segment === e.segment && x.from === e.from)).toBe(true);
    expect(find.evidence.filter((e) => e.role === 'states')).toHaveLength(a!.evidence.filter((e) => e.role === 'states').length);
    const again = await reshapeFind(ws, a!.id, { do: 'put back' });
    expect(again.find.evidence).toEqual(a!.evidence);
    expect(again.other).toMatchObject({ id: b!.id, verdict: 'open' });
  });
  it('puts back step by step', async () => {
    const [a, b] = await of('action');
    await reshapeFind(ws, a!.id, { do: 'kind', kind: 'question' });
    await reshapeFind(ws, a!.id, { do: 'merge', with: b!.id });
    expect((await reshapeFind(ws, a!.id, { do: 'put back' })).find.kind).toBe('question');
    expect((await reshapeFind(ws, a!.id, { do: 'put back' })).find).toMatchObject({ kind: 'action', evidence: a!.evidence });
  });
  it('stays so when the close reader comes after', async () => {
    const [a] = await of('action');
    await reshapeFind(ws, a!.id, { do: 'kind', kind: 'decision' });
    await keepFinds(ws.db, meeting, a!.record, { finds: [], reader: 'close' });
    expect(await now(a!.id)).toMatchObject({ kind: 'decision', verdict: 'open' });
  });
  it('is refused when it is settled, of another meeting, or not to be seen', async () => {
    const [a, b] = await of('action');
    await passFind(ws, b!.id);
    await expect(reshapeFind(ws, b!.id, { do: 'kind', kind: 'decision' })).rejects.toThrow('settled already');
    await expect(reshapeFind(ws, a!.id, { do: 'merge', with: b!.id })).rejects.toThrow('other find is settled');
    await expect(reshapeFind(ws, a!.id, { do: 'kind', kind: 'action' })).rejects.toThrow('an action already');
    await expect(reshapeFind(ws.with({ asker: { ...ws.asker, projects: new Set() } }), a!.id, { do: 'kind', kind: 'decision' })).rejects.toThrow('no such find');
    const foreign = (await ws.db.selectFrom('finds').select('id').where('meeting_id', '!=', meeting).executeTakeFirstOrThrow()).id;
    await expect(reshapeFind(ws, a!.id, { do: 'merge', with: foreign })).rejects.toThrow('not of one meeting');
  });
});
