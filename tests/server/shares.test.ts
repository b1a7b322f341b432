import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { changeMinutes } from '../../src/server/meetings/minutes/minutes.ts';
import { changeShares, openShare, ShareSchema, sharesOf } from '../../src/server/meetings/shares.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { demoWorld } from './world.ts';

const MEETING = 9;
const NOW = new Date('2026-03-05T12:00:00Z');
const later = (days: number) => new Date(NOW.getTime() + days * 86_400_000);
let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
  const versions = await ws.db.selectFrom('minutes_versions').select('version').where('meeting_id', '=', MEETING).execute();
  if (versions.length === 0) await changeMinutes(ws, MEETING, { do: 'issue', revision: 0 });
});
afterEach(() => ws.db.destroy());
const share = async (over: object = {}) => (await changeShares(ws, MEETING, ShareSchema.parse({ do: 'share', version: 1, days: 14, ...over }), NOW)).token!;
const shares = (now = NOW) => sharesOf(ws, MEETING, now);

describe('a link to minutes', () => {
  it('shows them and nothing else, counted, until it runs out', async () => {
    const token = await share();
    const page = (await openShare(ws.db, token, null, NOW))!;
    expect(page).toContain('Version 1');
    expect(page).not.toMatch(/<script|href="\/|\/_astro/);
    await openShare(ws.db, token, null, later(13));
    expect(await shares()).toMatchObject([{ version: 1, opened: 2, stands: 'open', until: '2026-03-19', passcode: false }]);
    await expect(openShare(ws.db, token, null, later(14))).rejects.toMatchObject({ status: 404 });
    expect((await shares(later(15)))[0]!.stands).toBe('run out');
    expect(JSON.stringify(await ws.db.selectFrom('shares').selectAll().execute())).not.toContain(token);
  });
  it('asks for its passcode, and is closed after ten wrong ones', async () => {
    const token = await share({ passcode: 'neap tide' });
    expect(await openShare(ws.db, token, null, NOW)).toBeNull();
    expect(await openShare(ws.db, token, 'neap tide', NOW)).toContain('<h1>');
    for (let i = 0; i < 10; i++) await expect(openShare(ws.db, token, `guess ${i}`, NOW)).rejects.toThrow('not the passcode');
    await expect(openShare(ws.db, token, 'neap tide', NOW)).rejects.toThrow('leads nowhere');
    expect((await shares())[0]!.stands).toBe('closed after wrong passcodes');
  });
  it('to the meeting itself shows what came of it as it stands, as whoever shared it sees it', async () => {
    const token = await share({ version: null });
    const page = (await openShare(ws.db, token, null, NOW))!;
    const made = await ws.db.selectFrom('commitments').select(['number', 'text']).where('meeting_id', '=', MEETING).executeTakeFirst();
    expect(page).toContain('As it stands on Thursday 5 March');
    if (made) expect(page).toContain(`C-${made.number}`);
    expect(page).not.toMatch(/<script|href=/);
    expect(await shares()).toMatchObject([{ version: null, opened: 1 }]);
    await ws.db.updateTable('meetings').set({ visibility: 'attendees' }).where('id', '=', MEETING).execute();
    await ws.db.deleteFrom('attendance').where('meeting_id', '=', MEETING).where('person_id', '=', 'ines').execute();
    await expect(openShare(ws.db, token, null, NOW)).rejects.toMatchObject({ status: 404 });
  });
  it('is taken back at once', async () => {
    const token = await share();
    const [made] = await shares();
    await changeShares(ws, MEETING, { do: 'revoke', share: made!.id }, NOW);
    await expect(openShare(ws.db, token, null, NOW)).rejects.toThrow('leads nowhere');
    await expect(openShare(ws.db, 'no-such-token', null, NOW)).rejects.toThrow('leads nowhere');
  });
  it('is made by whoever sees the meeting, of what was issued, for a year at most', async () => {
    await expect(share({ version: 7 })).rejects.toThrow('no version 7');
    expect(() => ShareSchema.parse({ do: 'share', version: 1, days: 0 })).toThrow('at least a day');
    expect(() => ShareSchema.parse({ do: 'share', version: 1, days: 366 })).toThrow('at most a year');
    await expect(changeShares(ws.with({ asker: { ...ws.asker, projects: new Set() } }), MEETING, { do: 'revoke', share: 1 }, NOW)).rejects.toThrow('no such meeting');
  });
});
