import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Asker } from '../../src/server/asker.ts';
import { checkLedger } from '../../src/server/check.ts';
import type { Db } from '../../src/server/database.ts';
import { findsOf } from '../../src/server/finds.ts';
import { reopenFind, takeFind } from '../../src/server/judging.ts';
import { meetingRows } from '../../src/server/meetings.ts';
import { peopleOf } from '../../src/server/people.ts';
import { demoWorld } from './world.ts';

const P = 'quiet-crossing';
let db: Db;
let asker: Asker;
let action: number;
const names = async () => (await peopleOf(asker, db, P)).map((p) => p.name).sort();

beforeAll(async () => {
  ({ db, asker } = await demoWorld());
  const meeting = (await meetingRows(asker, db, { project: P })).find((m) => m.findsLeft > 0)!.id;
  action = (await findsOf(asker, db, meeting)).find((f) => f.kind === 'action' && f.verdict === 'open')!.id;
});
afterAll(() => db.destroy());

describe('an owner who is typed', () => {
  it('is somebody known where the words name them, and nobody new', async () => {
    const before = await names();
    expect((await takeFind(asker, db, action, { owner: ['new:Bram and Ruth'] })).owner.sort()).toEqual(['bram', 'ruth']);
    await reopenFind(asker, db, action);
    expect((await takeFind(asker, db, action, { owner: ['new:me'] })).owner).toEqual(['ines']);
    await reopenFind(asker, db, action);
    expect(await names()).toEqual(before);
  });
  it.each(['the team', 'f the week', 'everybody', '12'])('is refused where “%s” is nobody’s name, and nothing is kept', async (words) => {
    const before = await names();
    await expect(takeFind(asker, db, action, { owner: [`new:${words}`] })).rejects.toThrow(/nobody in particular|not a name/);
    expect(await names()).toEqual(before);
  });
  it('who is new goes when their take is taken back, and comes again with it', async () => {
    const before = await names();
    expect((await takeFind(asker, db, action, { owner: ['new:Priya Nair'] })).owner).toEqual(['priya-nair']);
    expect(await names()).toContain('Priya Nair');
    await reopenFind(asker, db, action);
    expect(await names()).toEqual(before);
    expect((await takeFind(asker, db, action, {})).owner).toEqual(['priya-nair']);
    expect(await names()).toContain('Priya Nair');
    expect((await checkLedger(db)).differences).toEqual([]);
  });
});
