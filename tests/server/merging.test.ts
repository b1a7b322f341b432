import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeCommitment, enterCommitment, undoMany } from '../../src/server/ledger/changes.ts';
import { checkLedger } from '../../src/server/ledger/check.ts';
import { type LedgerRow, ledgerCounts, ledgerRows } from '../../src/server/ledger/commitments.ts';
import { duplicatesOf, mergeCommitments, sayTheyDiffer, sendToProject, splitCommitment } from '../../src/server/ledger/merging.ts';
import { trailOf } from '../../src/server/ledger/trail.ts';
import { ledgerPage } from '../../src/server/pages/ledger.ts';
import type { Asker } from '../../src/server/people/asker.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { demoWorld, TODAY } from './world.ts';

let ws: Workspace;
const P = 'quiet-crossing';
const enter = async (text: string, owner: string[] = ['bram'], due: string | null = '2026-03-20'): Promise<LedgerRow> => (await enterCommitment(ws, P, { text, owner, due })).row;
const now = async (id: number) => (await ledgerRows(ws, { project: P, state: 'all', ids: [id] }))[0]!;
const trail = async (r: LedgerRow) => trailOf(ws, P, Number(r.ref.slice(2)), async () => []);

beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(async () => {
  expect((await checkLedger(ws.db)).differences).toEqual([]);
  await ws.db.destroy();
});

describe('two commitments that are one', () => {
  it('are found, merged with both histories kept, and parted again', async () => {
    const a = await enter('Order the mooring bollards for the north pontoon');
    const b = await enter('Mooring bollards, north pontoon');
    const pair = (await duplicatesOf(ws, P)).find((p) => p.keep.id === a.id);
    expect(pair?.other.id).toBe(b.id);
    await changeCommitment(ws, b.id, { do: 'move', due: '2026-03-27' });
    const out = await mergeCommitments(ws, { merge: { keep: a.id, others: [b.id] } });
    expect((await now(b.id)).state).toBe('merged');
    expect((await now(a.id)).state).toBe('open');
    const told = (await trail(a)).events;
    expect(told.filter((e) => e.of === b.ref).map((e) => e.kind)).toEqual(['made', 'moved']);
    expect(told.find((e) => e.kind === 'merged')!.data.reason).toContain(b.ref);
    expect((await trail(b)).events.at(-1)!.data.reason).toContain(a.ref);
    const { merged, dropped } = await ledgerCounts(ws, P, TODAY);
    expect(merged).toBe(1);
    expect(dropped).toBe((await ledgerRows(ws, { project: P, state: 'ended' })).filter((r) => r.state === 'dropped').length);
    await expect(changeCommitment(ws, b.id, { do: 'done' })).rejects.toThrow(`${b.ref} is merged`);
    await undoMany(ws, out.events);
    expect((await now(b.id)).state).toBe('open');
    expect((await trail(a)).events.some((e) => e.of === b.ref)).toBe(false);
  });
  it('are not offered again once somebody says that they differ', async () => {
    const a = await enter('Check the lamps of the east steps');
    const b = await enter('Check lamps, east steps');
    expect((await duplicatesOf(ws, P)).some((p) => p.keep.id === a.id && p.other.id === b.id)).toBe(true);
    await sayTheyDiffer(ws, { differ: { keep: a.id, other: b.id } });
    await sayTheyDiffer(ws, { differ: { keep: a.id, other: b.id } });
    expect((await duplicatesOf(ws, P)).some((p) => p.keep.id === a.id && p.other.id === b.id)).toBe(false);
  });
  it('are refused where one has ended, is itself, or is not to be seen', async () => {
    const a = await enter('Paint the rail');
    const b = await enter('Mend the winch');
    await changeCommitment(ws, b.id, { do: 'done' });
    const merge = (keep: number, others: number[], who = ws.asker) => mergeCommitments(ws.with({ asker: who }), { merge: { keep, others } });
    await expect(merge(a.id, [b.id])).rejects.toThrow(`${b.ref} is done`);
    await expect(merge(b.id, [a.id])).rejects.toThrow(`${b.ref} is done`);
    await expect(merge(a.id, [a.id])).rejects.toThrow('not one with itself');
    await expect(merge(a.id, [a.id], { ...ws.asker, projects: new Set() })).rejects.toThrow('no such commitment');
    expect((await now(a.id)).state).toBe('open');
  });
});

describe('a commitment that is several', () => {
  it('is split into parts with its owner and date, and put together again', async () => {
    const a = await enter('Draw the berth plan and send it to the board', ['ruth']);
    const out = await splitCommitment(ws, { split: { id: a.id, parts: ['Draw the berth plan', 'Send it to the board'] } });
    expect(out.rows.map((r) => r.text).sort()).toEqual(['Draw the berth plan', 'Send it to the board']);
    for (const r of out.rows) expect(r).toMatchObject({ due: '2026-03-20', owner: [{ id: 'ruth' }], state: 'open' });
    const part = out.rows.find((r) => r.id !== a.id)!;
    expect((await trail(part)).events[0]!.data.reason).toBe(`split from ${a.ref}`);
    await undoMany(ws, out.events);
    expect((await now(a.id)).text).toBe('Draw the berth plan and send it to the board');
    expect(await now(part.id)).toBeUndefined();
  });
  it('is refused where it has ended', async () => {
    const a = await enter('Sweep the quay');
    await changeCommitment(ws, a.id, { do: 'drop' });
    await expect(splitCommitment(ws, { split: { id: a.id, parts: ['Sweep', 'Wash'] } })).rejects.toThrow('is dropped');
  });
});

describe('a commitment of another project', () => {
  it('goes on there under a new reference, ends here, and both say so', async () => {
    const a = await enter('Copy the tide tables for the skippers', ['ruth']);
    await changeCommitment(ws, a.id, { do: 'move', due: '2026-03-24' });
    const out = await sendToProject(ws, { send: { ids: [a.id], project: 'tide-tables' } });
    expect(out.rows[0]).toMatchObject({ id: a.id, state: 'merged' });
    const there = (await ledgerRows(ws, { project: 'tide-tables' })).find((r) => r.ref === out.refs[0])!;
    expect(there).toMatchObject({ text: a.text, due: '2026-03-24', owner: [{ id: 'ruth' }] });
    const number = Number(there.ref.slice(2));
    const told = (who: Asker) => trailOf(ws.with({ asker: who }), 'tide-tables', number, async () => []);
    expect((await told(ws.asker)).events.filter((e) => e.of === a.ref).map((e) => e.kind)).toEqual(['made', 'moved']);
    // whoever may see only where it went is not told what happened elsewhere
    expect((await told({ ...ws.asker, projects: new Set(['tide-tables']) })).events.some((e) => e.of !== null)).toBe(false);
    await expect(sendToProject(ws, { send: { ids: [there.id], project: 'tide-tables' } })).rejects.toThrow('already');
    await expect(sendToProject(ws.with({ asker: { ...ws.asker, projects: new Set([P]) } }), { send: { ids: [a.id], project: 'tide-tables' } })).rejects.toThrow('no such project');
    await undoMany(ws, out.events);
    expect((await now(a.id)).state).toBe('open');
    expect((await ledgerRows(ws, { project: 'tide-tables' })).some((r) => r.id === there.id)).toBe(false);
  });
});

describe('the Ledger of all projects', () => {
  it('shows what whoever asks may see, each line with its project', async () => {
    await ws.db.insertInto('projects').values({ id: 'other-quay', name: 'Other Quay', started_on: '2026-01-01' }).execute();
    await ws.db.insertInto('memberships').values({ project_id: 'other-quay', person_id: 'ines', sees: 1 }).execute();
    const both: Asker = { ...ws.asker, projects: new Set([...ws.asker.projects, 'other-quay']) };
    await enterCommitment(ws.with({ asker: both }), 'other-quay', { text: 'Dredge the basin', owner: ['ines'], due: null });
    const page = (who: Asker, q: string) => ledgerPage(ws.with({ asker: who }), new URLSearchParams(q));
    const all = await page(both, 'projects=all');
    expect(Object.values(all.view.projects)).toEqual(expect.arrayContaining(['Other Quay', 'Quiet Crossing']));
    expect(all.view.rows.some((r) => r.project === 'other-quay')).toBe(true);
    const one = await page(both, '');
    expect(all.open).toBeGreaterThan(one.open);
    expect(all.open).toBe((await ledgerRows(ws.with({ asker: both }), { state: 'open', lives: false })).length);
    expect(one.view.rows.every((r) => r.project === P)).toBe(true);
    expect((await page(ws.asker, 'projects=all')).view.rows.every((r) => r.project !== 'other-quay')).toBe(true);
  });
});
