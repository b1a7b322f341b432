import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { jot, jottingsOf } from '../../src/server/day/jottings.ts';
import { enterCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { keepImport } from '../../src/server/ledger/files.ts';
import { splitCommitment } from '../../src/server/ledger/merging.ts';
import { planOf, writePlanned } from '../../src/server/letters/plan.ts';
import { roundUpFor } from '../../src/server/letters/round-up.ts';
import { siftPage } from '../../src/server/pages/sift.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { keepRecord } from '../../src/server/records/bringing-in.ts';
import { databaseTrouble, openDatabase } from '../../src/server/store/database.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

/** The same thing five times at the same moment; how many of them were let through. */
const fiveTimes = async (what: () => Promise<unknown>) => (await Promise.allSettled(Array.from({ length: 5 }, what))).filter((r) => r.status === 'fulfilled').length;

describe('five times at once is once', () => {
  it('for a record', async () => {
    const bytes = new TextEncoder().encode('Ines Falk: I will send the weights by Friday.\nBram Osei: Fine.');
    const before = (await ws.db.selectFrom('meetings').select('id').execute()).length;
    const keep = { project: P, fileName: 'a.txt', meeting: null, series: null, title: 'Once', date: TODAY, author: null, voices: {} };
    expect(await fiveTimes(() => keepRecord(ws, keep, bytes))).toBe(1);
    expect(await ws.db.selectFrom('meetings').select('id').execute()).toHaveLength(before + 1);
  });
  it('and a record whose sifting was broken off is sifted when it is looked at', async () => {
    const { id } = await ws.db.selectFrom('meetings').select('id').where('title', '=', 'Once').executeTakeFirstOrThrow();
    await ws.db.deleteFrom('finds').where('meeting_id', '=', id).execute();
    await ws.db.updateTable('meetings').set({ sifted_at: null }).where('id', '=', id).execute();
    expect((await siftPage(ws.with({ project: P, today: TODAY }), id)).view!.finds.length).toBeGreaterThan(0);
  });
  it('for a jotting and for a line entered by hand', async () => {
    const [jotted, held] = [(await jottingsOf(ws, P)).length, (await ledgerRows(ws, { project: P })).length];
    await fiveTimes(() => jot(ws, P, { text: 'Ropes are cheaper in bulk' }));
    await fiveTimes(() => enterCommitment(ws, P, { text: 'Count the ropes', owner: ['bram'], due: null }));
    expect(await jottingsOf(ws, P)).toHaveLength(jotted + 1);
    expect(await ledgerRows(ws, { project: P })).toHaveLength(held + 1);
  });
  it('for a list that is brought in', async () => {
    const before = (await ledgerRows(ws, { project: P, state: 'all' })).length;
    await fiveTimes(() => keepImport(ws, P, { name: 'a.csv', text: 'what,owner,due\nPaint the bollards,Bram Osei,2026-04-01\nOrder the paint,Ruth Adair,' }));
    expect(await ledgerRows(ws, { project: P, state: 'all' })).toHaveLength(before + 2);
  });
  it('for a split', async () => {
    const [line] = (await ledgerRows(ws, { project: P })).filter((r) => r.text === 'Paint the bollards');
    const before = (await ledgerRows(ws, { project: P })).length;
    expect(await fiveTimes(() => splitCommitment(ws, { split: { id: line!.id, parts: ['Sand the bollards', 'Prime the bollards', 'Coat the bollards'] } }))).toBe(1);
    expect(await ledgerRows(ws, { project: P })).toHaveLength(before + 2);
  });
  it('for a round-up', async () => {
    const { id } = await ws.db.selectFrom('meetings').select('id').where('title', '=', 'Once').executeTakeFirstOrThrow();
    await fiveTimes(() => roundUpFor(ws, id));
    const drafted = await ws.db.selectFrom('letters').selectAll().where('meeting_id', '=', id).where('kind', '=', 'round-up').execute();
    expect(drafted).toHaveLength(1);
    // and the database holds it, whatever the code does
    const { id: _, ...again } = drafted[0]!;
    await expect(ws.db.insertInto('letters').values(again).execute()).rejects.toThrow('UNIQUE');
    const { id: __, ...record } = await ws.db.selectFrom('records').selectAll().where('meeting_id', '=', id).executeTakeFirstOrThrow();
    const other = await ws.db.selectFrom('meetings').select('id').where('project_id', '=', P).where('id', '!=', id).executeTakeFirstOrThrow();
    await expect(
      ws.db
        .insertInto('records')
        .values({ ...record, meeting_id: other.id })
        .execute(),
    ).rejects.toThrow('kept already');
  });
  it('for a planned letter', async () => {
    const planned = (await planOf(ws.db, P, TODAY)).letters.find((l) => l.day === TODAY)!;
    expect(await fiveTimes(() => writePlanned(ws, P, planned.to, TODAY))).toBe(1);
  });
});

describe('a database', () => {
  const folder = mkdtempSync(join(tmpdir(), 'ottik-db-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const trouble = (file: string) =>
    openDatabase(file).then(
      () => null,
      (error: unknown) => databaseTrouble(error, 'it'),
    );
  it('that is written by two at once has both write, one after the other', async () => {
    const file = join(folder, 'two.db');
    const [one, other] = [await openDatabase(file), await openDatabase(file)];
    for (const d of [one, other])
      await d.transaction().execute(async (tx) => {
        const { n } = await tx
          .selectFrom('settings')
          .select(({ fn }) => fn.countAll<number>().as('n'))
          .executeTakeFirstOrThrow();
        await tx
          .insertInto('settings')
          .values({ name: `row ${n}`, value: '' })
          .execute();
      });
    expect(await one.selectFrom('settings').selectAll().execute()).toHaveLength(2);
    await Promise.all([one.destroy(), other.destroy()]);
  });
  it('that is broken or was emptied says what it is, and is not written over', async () => {
    writeFileSync(join(folder, 'broken.db'), 'this is no database, and has never been one at all. '.repeat(200));
    writeFileSync(join(folder, 'empty.db'), '');
    expect((await trouble(join(folder, 'broken.db')))?.message).toBe('it is broken.');
    expect((await trouble(join(folder, 'empty.db')))?.message).toContain('is empty');
    expect(await trouble(join(folder, 'new.db'))).toBeNull();
  });
});
