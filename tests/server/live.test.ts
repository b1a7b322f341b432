import { afterAll, beforeAll, expect, it } from 'vitest';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerRows, undoEvent } from '../../src/server/ledger/commitments.ts';
import { ledgerSince, ledgerStamp } from '../../src/server/ledger/live.ts';
import type { Asker } from '../../src/server/people/asker.ts';
import type { Db } from '../../src/server/store/database.ts';
import { changesAsTheyCome } from '../../src/server/store/live.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let db: Db;
let asker: Asker;
beforeAll(async () => {
  ({ db, asker } = await demoWorld());
});
afterAll(() => db.destroy());

it('a Ledger that is open elsewhere hears of each change, and gets the lines that changed and no others', async () => {
  const listener = new AbortController();
  const reader = changesAsTheyCome(() => ledgerStamp(db), listener.signal).getReader();
  const next = async () => new TextDecoder().decode((await reader.read()).value);
  const before = await ledgerStamp(db);
  expect(await next()).toBe(`event: changed\ndata: ${before}\n\n`);
  const [line] = await ledgerRows(asker, db, { project: P });
  const { event } = await changeCommitment(asker, db, line!.id, { do: 'move', due: '2026-04-01' }, TODAY);
  expect(await next()).toBe(`event: changed\ndata: ${await ledgerStamp(db)}\n\n`);
  const since = await ledgerSince(asker, db, P, Number(before));
  expect(since).toMatchObject({ rows: [{ id: line!.id, due: '2026-04-01' }], gone: [], stamp: Number(await ledgerStamp(db)) });
  await undoEvent(asker, db, event, TODAY);
  expect((await ledgerSince(asker, db, P, since.stamp)).rows).toMatchObject([{ id: line!.id, due: line!.due }]);
  expect((await ledgerSince(asker, db, 'somewhere-else', Number(before))).rows).toEqual([]);
  listener.abort();
});
