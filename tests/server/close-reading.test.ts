import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Find } from '../../src/core/sift/find.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { readingOf } from '../../src/server/sift/close-reading.ts';
import { findsOf, type KeptFind, keepFinds } from '../../src/server/sift/finds.ts';
import { passFind, reopenFind, takeFind } from '../../src/server/sift/judging.ts';
import { demoWorld } from './world.ts';

let ws: Workspace;
let meeting: number;
let record: number;
let first: KeptFind[];
beforeAll(async () => {
  vi.stubEnv('OTTIK_CLOSE_READER', 'off');
  ws = await demoWorld();
  meeting = (await meetingRows(ws, { project: 'quiet-crossing' })).find((m) => m.findsLeft > 0)!.id;
  first = await findsOf(ws, meeting);
  record = first[0]!.record;
});
afterAll(async () => {
  vi.unstubAllEnvs();
  await ws.db.destroy();
});

const plain = ({ id: _, record: __, verdict: ___, ref: ____, reader: _____, ...find }: KeptFind): Find => find;

describe('finds of a second reader', () => {
  it('take the place of the first reader’s without changing their ids, and those it does not have stay, doubted', async () => {
    const [kept, lost] = [first[0]!, first[1]!];
    const better = { ...plain(kept), text: 'Put better' };
    await keepFinds(ws.db, meeting, record, { finds: [better, ...first.slice(2).map(plain)], reader: 'close' });
    const now = await findsOf(ws, meeting);
    expect(now.find((f) => f.id === kept.id)).toMatchObject({ text: 'Put better', reader: 'close', verdict: 'open' });
    expect(now.find((f) => f.id === lost.id)).toMatchObject({ text: lost.text, confidence: lost.confidence, reader: 'doubted', verdict: 'open' });
    expect(now).toHaveLength(first.length);
    expect((await meetingRows(ws, { id: meeting }))[0]!.findsLeft).toBe(first.length);
  });
  it('do not take away what somebody is just editing: taken, it is there again', async () => {
    const lost = first[1]!;
    expect(await takeFind(ws, lost.id, lost.update ? {} : { text: 'Held in the hand' })).toMatchObject({ id: lost.id, verdict: 'taken' });
    await reopenFind(ws, lost.id);
    expect((await findsOf(ws, meeting)).some((f) => f.id === lost.id)).toBe(true);
  });
  it('never touch what a person has judged, and propose nothing again where that stands', async () => {
    const now = await findsOf(ws, meeting);
    const action = now.find((f) => f.kind === 'action')!;
    const other = now.find((f) => f.kind === 'action' && f.id !== action.id)!;
    await takeFind(ws, action.id, { text: 'As a person put it' });
    await passFind(ws, other.id);
    const again = [{ ...plain(action), key: 'action:another-key', text: 'Proposed once more' }, { ...plain(other), text: 'And this' }, ...now.filter((f) => f.id !== action.id && f.id !== other.id).map(plain)];
    await keepFinds(ws.db, meeting, record, { finds: again, reader: 'close' });
    const after = await findsOf(ws, meeting);
    expect(after).toHaveLength(now.length);
    expect(after.find((f) => f.id === action.id)).toMatchObject({ text: 'As a person put it', verdict: 'taken' });
    expect(after.find((f) => f.id === other.id)).toMatchObject({ verdict: 'passed' });
    expect(after.some((f) => f.text === 'Proposed once more' || f.text === 'And this')).toBe(false);
  });
  it('that are not to be had leave the first reader’s, and it is said why', async () => {
    await keepFinds(ws.db, meeting, record, { finds: first.filter((f) => f.kind !== 'action').map(plain), reader: 'quick' });
    let state = await readingOf(ws, record);
    for (let i = 0; i < 100 && (state.state === 'waiting' || state.state === 'reading'); i++) {
      await new Promise((r) => setTimeout(r, 10));
      state = await readingOf(ws, record);
    }
    expect(state).toMatchObject({ state: 'quick only', why: 'it is switched off', finds: null });
  });
  it('are nobody’s business who may not see the record', async () => {
    await expect(readingOf(ws.with({ asker: { ...ws.asker, projects: new Set() } }), record)).rejects.toThrow('no such record');
  });
});
