import { afterAll, beforeAll, expect, it } from 'vitest';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerRows, undoEvent } from '../../src/server/ledger/commitments.ts';
import { ledgerSince, ledgerStamp } from '../../src/server/ledger/live.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { changesAsTheyCome } from '../../src/server/store/live.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

it('a Ledger that is open elsewhere hears of each change, and gets the lines that changed and no others', async () => {
  const listener = new AbortController();
  const reader = changesAsTheyCome(() => ledgerStamp(ws.db), listener.signal).getReader();
  const next = async () => new TextDecoder().decode((await reader.read()).value);
  const before = await ledgerStamp(ws.db);
  expect(await next()).toBe(`event: changed\ndata: ${before}\n\n`);
  const [line] = await ledgerRows(ws, { project: P });
  const { event } = await changeCommitment(ws, line!.id, { do: 'move', due: '2026-04-01' });
  expect(await next()).toBe(`event: changed\ndata: ${await ledgerStamp(ws.db)}\n\n`);
  const since = await ledgerSince(ws, P, Number(before));
  expect(since).toMatchObject({ rows: [{ id: line!.id, due: '2026-04-01' }], gone: [], stamp: Number(await ledgerStamp(ws.db)) });
  await undoEvent(ws, event, TODAY);
  expect((await ledgerSince(ws, P, since.stamp)).rows).toMatchObject([{ id: line!.id, due: line!.due }]);
  expect((await ledgerSince(ws, 'somewhere-else', Number(before))).rows).toEqual([]);
  listener.abort();
});
