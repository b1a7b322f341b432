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
import type { Asker } from '../../src/server/people/asker.ts';
import { keepRecord } from '../../src/server/records/bringing-in.ts';
import { type Db, databaseTrouble, openDatabase } from '../../src/server/store/database.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let db: Db;
let asker: Asker;
beforeAll(async () => {
  ({ db, asker } = await demoWorld());
});
afterAll(() => db.destroy());

/** The same thing five times at the same moment; how many of them were let through. */
const fiveTimes = async (what: () => Promise<unknown>) => (await Promise.allSettled(Array.from({ length: 5 }, what))).filter((r) => r.status === 'fulfilled').length;

describe('five times at once is once', () => {
  it('for a record', async () => {
    const bytes = new TextEncoder().encode('Ines Falk: I will send the weights by Friday.\nBram Osei: Fine.');
    const before = (await db.selectFrom('meetings').select('id').execute()).length;
    const keep = { project: P, fileName: 'a.txt', meeting: null, series: null, title: 'Once', date: TODAY, author: null, voices: {} };
    expect(await fiveTimes(() => keepRecord(asker, db, keep, bytes, TODAY))).toBe(1);
    expect(await db.selectFrom('meetings').select('id').execute()).toHaveLength(before + 1);
  });
  it('and a record whose sifting was broken off is sifted when it is looked at', async () => {
    const { id } = await db.selectFrom('meetings').select('id').where('title', '=', 'Once').executeTakeFirstOrThrow();
    await db.deleteFrom('finds').where('meeting_id', '=', id).execute();
    await db.updateTable('meetings').set({ sifted_at: null }).where('id', '=', id).execute();
    expect((await siftPage({ db, asker, project: P, today: TODAY }, id)).view!.finds.length).toBeGreaterThan(0);
  });
  it('for a jotting and for a line entered by hand', async () => {
    const [jotted, held] = [(await jottingsOf(asker, db, P)).length, (await ledgerRows(asker, db, { project: P })).length];
    await fiveTimes(() => jot(asker, db, P, { text: 'Ropes are cheaper in bulk' }, TODAY));
    await fiveTimes(() => enterCommitment(asker, db, P, { text: 'Count the ropes', owner: ['bram'], due: null }, TODAY));
    expect(await jottingsOf(asker, db, P)).toHaveLength(jotted + 1);
    expect(await ledgerRows(asker, db, { project: P })).toHaveLength(held + 1);
  });
  it('for a list that is brought in', async () => {
    const before = (await ledgerRows(asker, db, { project: P, state: 'all' })).length;
    await fiveTimes(() => keepImport(asker, db, P, { name: 'a.csv', text: 'what,owner,due\nPaint the bollards,Bram Osei,2026-04-01\nOrder the paint,Ruth Adair,' }, TODAY));
    expect(await ledgerRows(asker, db, { project: P, state: 'all' })).toHaveLength(before + 2);
  });
  it('for a split', async () => {
    const [line] = (await ledgerRows(asker, db, { project: P })).filter((r) => r.text === 'Paint the bollards');
    const before = (await ledgerRows(asker, db, { project: P })).length;
    expect(await fiveTimes(() => splitCommitment(asker, db, { split: { id: line!.id, parts: ['Sand the bollards', 'Prime the bollards', 'Coat the bollards'] } }, TODAY))).toBe(1);
    expect(await ledgerRows(asker, db, { project: P })).toHaveLength(before + 2);
  });
  it('for a round-up', async () => {
    const { id } = await db.selectFrom('meetings').select('id').where('title', '=', 'Once').executeTakeFirstOrThrow();
    await fiveTimes(() => roundUpFor(asker, db, id));
    const drafted = await db.selectFrom('letters').selectAll().where('meeting_id', '=', id).where('kind', '=', 'round-up').execute();
    expect(drafted).toHaveLength(1);
    // and the database holds it, whatever the code does
    const { id: _, ...again } = drafted[0]!;
    await expect(db.insertInto('letters').values(again).execute()).rejects.toThrow('UNIQUE');
    const { id: __, ...record } = await db.selectFrom('records').selectAll().where('meeting_id', '=', id).executeTakeFirstOrThrow();
    const other = await db.selectFrom('meetings').select('id').where('project_id', '=', P).where('id', '!=', id).executeTakeFirstOrThrow();
    await expect(
      db
        .insertInto('records')
        .values({ ...record, meeting_id: other.id })
        .execute(),
    ).rejects.toThrow('kept already');
  });
  it('for a planned letter', async () => {
    const planned = (await planOf(db, P, TODAY)).letters.find((l) => l.day === TODAY)!;
    expect(await fiveTimes(() => writePlanned(asker, db, P, planned.to, TODAY, TODAY))).toBe(1);
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
