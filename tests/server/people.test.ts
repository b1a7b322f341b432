import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { checkLedger } from '../../src/server/ledger/check.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { mergePeople, partPeople, putBack, removePerson } from '../../src/server/people/merging.ts';
import { addPerson, peopleOf } from '../../src/server/people/people.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { findsOf } from '../../src/server/sift/finds.ts';
import { reopenFind, takeFind } from '../../src/server/sift/judging.ts';
import { demoWorld } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
let action: number;
const names = async () => (await peopleOf(ws, P)).map((p) => p.name).sort();

beforeAll(async () => {
  ws = await demoWorld();
  const meeting = (await meetingRows(ws, { project: P })).find((m) => m.findsLeft > 0)!.id;
  action = (await findsOf(ws, meeting)).find((f) => f.kind === 'action' && f.verdict === 'open')!.id;
});
afterAll(() => ws.db.destroy());

describe('an owner who is typed', () => {
  it('is somebody known where the words name them, and nobody new', async () => {
    const before = await names();
    expect((await takeFind(ws, action, { owner: ['new:Bram and Ruth'] })).owner.sort()).toEqual(['bram', 'ruth']);
    await reopenFind(ws, action);
    expect((await takeFind(ws, action, { owner: ['new:me'] })).owner).toEqual(['ines']);
    await reopenFind(ws, action);
    expect(await names()).toEqual(before);
  });
  it.each(['the team', 'f the week', 'everybody', '12'])('is refused where “%s” is nobody’s name, and nothing is kept', async (words) => {
    const before = await names();
    await expect(takeFind(ws, action, { owner: [`new:${words}`] })).rejects.toThrow(/nobody in particular|not a name/);
    expect(await names()).toEqual(before);
  });
  it('who is new goes when their take is taken back, and comes again with it', async () => {
    const before = await names();
    expect((await takeFind(ws, action, { owner: ['new:Priya Nair'] })).owner).toEqual(['priya-nair']);
    expect(await names()).toContain('Priya Nair');
    await reopenFind(ws, action);
    expect(await names()).toEqual(before);
    expect((await takeFind(ws, action, {})).owner).toEqual(['priya-nair']);
    expect(await names()).toContain('Priya Nair');
    expect((await checkLedger(ws.db)).differences).toEqual([]);
  });
});

describe('two entries that are one person', () => {
  const TABLES = ['commitment_owners', 'events', 'attendance', 'memberships', 'letter_recipients', 'replies', 'answers', 'letter_items', 'series_people', 'people'] as const;
  const voices = () => ws.db.selectFrom('records').select(['id', 'voices', 'said_by']).execute();
  /** every row that may name somebody, in no order */
  const snapshot = async () => (await Promise.all([...TABLES.map((t) => ws.db.selectFrom(t).selectAll().execute()), voices()])).map((rows) => rows.map((row) => JSON.stringify(row)).sort());
  it('are merged: whatever named the one names the other, the Ledger holds, and it can be taken back whole', async () => {
    const before = await snapshot();
    const held = (await ledgerRows(ws, { project: P, state: 'all' })).filter((r) => r.owner.some((o) => o.id === 'sam')).map((r) => r.ref);
    expect(held.length).toBeGreaterThan(0);
    const { merge } = await mergePeople(ws, 'sam', 'bram');
    expect(await names()).not.toContain('Sam Okafor');
    const now = (await ledgerRows(ws, { project: P, state: 'all' })).filter((r) => r.owner.some((o) => o.id === 'bram')).map((r) => r.ref);
    expect(now).toEqual(expect.arrayContaining(held));
    expect((await checkLedger(ws.db)).differences).toEqual([]);
    expect((await peopleOf(ws, P)).find((p) => p.id === 'bram')!.aliases).toContain('Sam Okafor');
    // the old name leads to who was kept, and makes nobody new
    expect(await addPerson(ws, P, 'sam okafor')).toBe('bram');
    await partPeople(ws, merge);
    expect(await snapshot()).toEqual(before);
    expect((await checkLedger(ws.db)).differences).toEqual([]);
    await expect(partPeople(ws, merge)).rejects.toThrow('already');
  });
  it('are not merged where the one that would go signs in here, nor with themselves', async () => {
    await expect(mergePeople(ws, 'ines', 'bram')).rejects.toThrow('signs in here');
    await expect(mergePeople(ws, 'bram', 'bram')).rejects.toThrow('same entry');
  });
});

describe('taking somebody off a project', () => {
  it('is refused with what they have to do with it, and done where that is nothing', async () => {
    await expect(removePerson(ws, P, 'sam')).rejects.toThrow(/Sam Okafor holds C-\d+/);
    const id = await addPerson(ws, P, 'Odile Marchais');
    await removePerson(ws, P, id);
    expect(await names()).not.toContain('Odile Marchais');
    await putBack(ws, P, id);
    expect(await names()).toContain('Odile Marchais');
  });
});
