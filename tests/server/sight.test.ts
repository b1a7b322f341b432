import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Role } from '../../src/core/people/rights.ts';
import { enterCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { deliverDue, queueLetter } from '../../src/server/letters/queue.ts';
import { roundUpsFor } from '../../src/server/letters/round-up.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { changeVisibility } from '../../src/server/meetings/visibility.ts';
import { hiddenMeetings, inSight } from '../../src/server/people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { KeepSchema, keepRecord } from '../../src/server/records/bringing-in.ts';
import { bytes, demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
let meeting: number;
beforeEach(async () => {
  ws = await demoWorld();
  // one that made promises, and that somebody of the project was not at
  meeting = (await ws.db.selectFrom('commitments as c').innerJoin('meetings as m', 'm.id', 'c.meeting_id').select('m.id').where('c.project_id', '=', P).where('c.state', '=', 'open').orderBy('m.id', 'desc').executeTakeFirstOrThrow()).id;
  await ws.db.deleteFrom('attendance').where('meeting_id', '=', meeting).where('person_id', '=', 'dele').execute();
});
afterEach(() => ws.db.destroy());

const as = async (person: string, role: Role): Promise<Workspace> => {
  await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', person).execute();
  await ws.db.updateTable('memberships').set({ sees: 1, access: role }).where('person_id', '=', person).where('project_id', '=', P).execute();
  return inSight((await workspaceOf(ws.db, person, TODAY)).with({ project: P }));
};
const seen = async (own: Workspace) => (await meetingRows(own, { project: P })).map((m) => m.id);

describe('who sees a meeting', () => {
  it('is told before it is changed: who loses sight of it, and who gains it back', async () => {
    await as('dele', 'member');
    const look = await changeVisibility(ws, meeting, 'attendees', { keep: false });
    expect(look).toEqual({ now: 'project', gain: [], lose: ['Dele Marsh'].map((_) => expect.stringMatching(/^Dele /)) });
    expect(await seen(await as('dele', 'member'))).toContain(meeting);
    await changeVisibility(ws, meeting, 'attendees', { keep: true });
    expect(await seen(await as('dele', 'member'))).not.toContain(meeting);
    expect((await changeVisibility(ws, meeting, 'project', { keep: false })).gain).toHaveLength(1);
    await changeVisibility(ws, meeting, 'project', { keep: true });
    expect(await seen(await as('dele', 'member'))).toContain(meeting);
  });
  it('goes for what comes from it too, but for what somebody holds themselves', async () => {
    await changeVisibility(ws, meeting, 'attendees', { keep: true });
    const dele = await as('dele', 'member');
    const from = async (own: Workspace) => (await ledgerRows(own, { project: P, state: 'all' })).filter((r) => r.meeting === meeting).map((r) => r.id);
    const whole = await from(ws);
    expect(whole.length).toBeGreaterThan(0);
    expect(await from(dele)).toEqual([]);
    await ws.db.insertInto('commitment_owners').values({ commitment_id: whole[0]!, person_id: 'dele' }).execute();
    expect(await from(dele)).toEqual([whole[0]]);
    for (const table of ['records', 'finds', 'statements', 'attendance', 'minutes_versions'] as const) expect([table, (await dele.db.selectFrom(table).select('meeting_id').where('meeting_id', '=', meeting).execute()).length]).toEqual([table, 0]);
  });
  it('to come is seen by those of its series, while nobody else is named for it', async () => {
    const { id } = await ws.db.selectFrom('meetings').select('id').where('series_id', '=', 'works').where('date', '>', TODAY).orderBy('date').executeTakeFirstOrThrow();
    const look = await changeVisibility(ws, id, 'attendees', { keep: true });
    expect(look.lose).not.toContain('Ines Falk');
    expect(await hiddenMeetings(ws)).not.toContain(id);
    const petra = ws.with({ asker: (await as('petra', 'member')).asker });
    expect(await hiddenMeetings(petra)).toContain(id);
    await ws.db.insertInto('attendance').values({ meeting_id: id, person_id: 'petra', present: 1 }).execute();
    expect(await hiddenMeetings(petra)).not.toContain(id);
    expect(await hiddenMeetings(ws)).toContain(id);
  });
  it('reaches everybody who works here, and of another project nothing else', async () => {
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'greta').execute();
    await ws.db.updateTable('memberships').set({ sees: 1, access: 'member' }).where('person_id', '=', 'greta').execute();
    const greta = async () => inSight(await workspaceOf(ws.db, 'greta', TODAY));
    expect((await greta()).asker.projects.has(P)).toBe(false);
    const { name } = await ws.db.selectFrom('people').select('name').where('id', '=', 'greta').executeTakeFirstOrThrow();
    expect((await changeVisibility(ws, meeting, 'workspace', { keep: false })).gain).toEqual([name]);
    await changeVisibility(ws, meeting, 'workspace', { keep: true });
    const sees = await greta();
    expect(await seen(sees)).toEqual([meeting]);
    expect(new Set((await ledgerRows(sees, { project: P, state: 'all' })).map((r) => r.meeting))).toEqual(new Set([meeting]));
    await expect(enterCommitment(sees.with({ needs: 'work' }), P, { text: 'Paint the bollards', owner: ['ines'], due: null })).rejects.toThrow('not change it');
    // somebody who is a guest everywhere does not work here
    await ws.db.updateTable('memberships').set({ access: 'guest' }).where('person_id', '=', 'greta').execute();
    expect((await greta()).asker.projects.has(P)).toBe(false);
    await ws.db.updateTable('memberships').set({ access: 'member' }).where('person_id', '=', 'greta').execute();
    await changeVisibility(ws, meeting, 'project', { keep: true });
    expect((await greta()).asker.projects.has(P)).toBe(false);
  });
  it('is of a guest what they were at and what they hold', async () => {
    const guest = await as('dele', 'guest');
    const at = (await ws.db.selectFrom('attendance as a').innerJoin('meetings as m', 'm.id', 'a.meeting_id').select('m.id').where('a.person_id', '=', 'dele').where('m.project_id', '=', P).execute()).map((m) => m.id);
    expect((await seen(guest)).sort()).toEqual(at.sort());
    await enterCommitment(ws, P, { text: 'Paint the bollards', owner: ['ines'], due: null });
    const { row } = await enterCommitment(ws, P, { text: 'Count the cleats', owner: ['dele'], due: null });
    const own = await ledgerRows(guest, { project: P, state: 'all' });
    expect(own.map((r) => r.text)).not.toContain('Paint the bollards');
    expect(own.map((r) => r.ref)).toContain(row.ref);
    expect(await hiddenMeetings(await as('dele', 'member'))).toEqual([]);
  });
  it('does not give a number twice, nor a record, to whoever does not see the other one', async () => {
    await changeVisibility(ws, meeting, 'attendees', { keep: true });
    await ws.db.updateTable('commitments').set({ meeting_id: meeting }).where('project_id', '=', P).execute();
    const dele = await as('dele', 'member');
    const last = Math.max(...(await ws.db.selectFrom('commitments').select('number').where('project_id', '=', P).execute()).map((c) => c.number));
    expect((await enterCommitment(dele, P, { text: 'Count the cleats', owner: ['dele'], due: null })).row.ref).toBe(`C-${last + 1}`);
    const kept = await ws.db.selectFrom('records').select('bytes').where('meeting_id', '=', meeting).executeTakeFirst();
    if (!kept) throw new Error('the meeting has no record');
    const again = keepRecord(dele, KeepSchema.parse({ project: P, fileName: 'again.txt', title: 'Again', date: TODAY, series: null, voices: {}, author: null, meeting: null, next: null, told: null, format: null }), kept.bytes);
    await expect(again).rejects.toThrow('for a meeting that you do not see');
    await expect(keepRecord(dele, KeepSchema.parse({ project: P, fileName: 'new.txt', title: 'New', date: TODAY, series: null, voices: {}, author: null, meeting: null, next: null, told: null, format: null }), bytes('Dele: I will count the cleats by Friday.'))).resolves.toMatchObject({});
  });
  it('does not stop a letter that was let go before', async () => {
    const [letter] = await roundUpsFor(ws, meeting);
    await queueLetter(ws, letter!.id, new Date());
    await ws.db.deleteFrom('attendance').where('meeting_id', '=', meeting).where('person_id', '=', 'ines').execute();
    await changeVisibility(ws, meeting, 'attendees', { keep: true });
    let sent = 0;
    const carriers = { mail: { send: async () => void sent++ }, chat: { post: async () => undefined } };
    await deliverDue(ws.db, carriers, () => new Date(), letter!.id);
    expect(sent).toBeGreaterThan(0);
  });
});
