import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ledgerCounts } from '../../src/server/ledger/commitments.ts';
import { recentFlow } from '../../src/server/ledger/measured.ts';
import { behindPoint, measuresPage, talkPage } from '../../src/server/pages/measures.ts';
import { inSight } from '../../src/server/people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { agesTold, asCsvRows, flowTold, forecastTold, keptTold, lettersTold, meetingsTold, slipsTold, speakersTold, subjectsTold, survivalPoints, survivalTold } from '../../src/views/measures/figures.ts';
import { demoWorld, TODAY } from './world.ts';

let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

const ALL = { projects: 'this', series: null, person: null, since: null } as const;

describe('measures of the demo', () => {
  it('count what the Ledger counts', async () => {
    const m = await measuresPage(ws, ALL);
    const counts = await ledgerCounts(ws, ws.project, '2026-03-02');
    expect(m.totals).toMatchObject({ open: counts.open, late: counts.late, done: counts.done });
    expect(m.ages.reduce((n, a) => n + a.open.length, 0)).toBe(counts.open);
    expect(m.flow.at(-1)).toMatchObject({ open: counts.open, late: counts.late });
    expect((await recentFlow(ws, { project: ws.project, series: null, person: null })).at(-1)).toMatchObject({ open: counts.open, late: counts.late });
  });
  it('go by series, person, time, and over all projects', async () => {
    const [all, works, dele, since, both] = await Promise.all([measuresPage(ws, ALL), measuresPage(ws, { ...ALL, series: 'works' }), measuresPage(ws, { ...ALL, person: 'dele' }), measuresPage(ws, { ...ALL, since: '2026-02-20' }), measuresPage(ws, { ...ALL, projects: 'all' })]);
    expect(works.totals.made).toBeLessThan(all.totals.made);
    expect(dele.totals).toMatchObject({ made: 2, open: 2 });
    expect(since.totals.made).toBeLessThan(all.totals.made);
    expect(since.totals.open).toBe(all.totals.open);
    expect(both.totals.made).toBeGreaterThan(all.totals.made);
    expect((await measuresPage(ws, { ...ALL, since: 'nonsense' })).from).toBe(all.from);
    expect((await measuresPage(ws, { ...ALL, series: 'none' })).totals.made).toBe(0);
  });
  it('the commitments behind a point are those that were counted', async () => {
    const m = await measuresPage(ws, ALL);
    const asked = { projects: 'this', series: null, person: null, from: m.from, days: 1 } as const;
    expect((await behindPoint(ws, { ...asked, point: 'late', key: TODAY })).rows).toHaveLength(m.totals.late);
    const [month] = m.kept.month.filter((k) => k.missed.length > 1);
    expect((await behindPoint(ws, { ...asked, point: 'missed by month', key: month!.key })).rows).toHaveLength(month!.missed.length);
    expect((await behindPoint(ws, { ...asked, point: 'age', key: '1' })).rows.map((r) => r.ref)).toEqual(expect.arrayContaining(m.ages[1]!.open.map((o) => o.ref)));
    expect((await behindPoint(ws, { ...asked, point: 'carried', key: 'works' })).rows).toHaveLength(m.slips.find((s) => s.series === 'works')!.carried.length);
  });
  it('who speaks, and of what, across a series', async () => {
    const talk = await talkPage(ws, 'works');
    expect(talk.meetings).toHaveLength(6);
    expect(talk.speakers[0]!.name).toBe('Ines Falk');
    expect(talk.subjects.length).toBeGreaterThan(2);
    for (const row of [...talk.speakers, ...talk.subjects]) expect(row.seconds).toHaveLength(6);
    await expect(talkPage(ws, 'nothing')).rejects.toThrow('no such series');
  });
  it('say in words what is to be seen, with the numbers behind', async () => {
    const m = await measuresPage(ws, ALL);
    const talk = await talkPage(ws, 'works');
    const told = [flowTold(m), agesTold(m), keptTold(m, 'month'), keptTold(m, 'owner'), keptTold(m, 'series'), survivalTold(m), slipsTold(m), forecastTold(m), meetingsTold(m, 80), lettersTold(m), speakersTold(talk), subjectsTold(talk)];
    for (const t of told) {
      expect(t.title).toMatch(/^[A-Z0-9]/);
      expect(t.title + t.read).not.toMatch(/NaN|undefined|Infinity|null/);
      expect(t.rows.length).toBeGreaterThan(0);
      for (const row of t.rows) expect(row).toHaveLength(t.head.length);
    }
    expect(told[0]!.title).toBe('18 open, 7 of them late');
    expect(told[2]!.title).toBe('1 of 13 came on time');
    expect(survivalPoints(m).at(-1)!.days % 7).toBe(0);
    // a cell that begins like a formula is text to a spreadsheet
    expect(asCsvRows({ title: '', read: '', head: ['a'], rows: [['=1+1']] })).toBe('a\r\n"\'=1+1"');
  });
  it('an empty project has sentences too', async () => {
    await ws.db.insertInto('projects').values({ id: 'empty', name: 'Empty', started_on: TODAY }).execute();
    await ws.db.insertInto('memberships').values({ project_id: 'empty', person_id: 'ines', sees: 1 }).execute();
    const m = await measuresPage((await workspaceOf(ws.db, 'ines', TODAY)).with({ project: 'empty' }), ALL);
    for (const t of [flowTold(m), agesTold(m), keptTold(m, 'month'), survivalTold(m), slipsTold(m), forecastTold(m), meetingsTold(m, 0), lettersTold(m)]) expect(t.title + t.read).not.toMatch(/NaN|undefined|Infinity|null/);
  });
  it('what is out of sight is in no figure', async () => {
    const walk = await ws.db.selectFrom('meetings').select('id').where('title', '=', 'Yard walk with Bram').executeTakeFirstOrThrow();
    await ws.db.updateTable('meetings').set({ visibility: 'attendees' }).where('id', '=', walk.id).execute();
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'hanne').execute();
    await ws.db.updateTable('memberships').set({ sees: 1 }).where('person_id', '=', 'hanne').execute();
    const hanne = (await inSight(await workspaceOf(ws.db, 'hanne', TODAY))).with({ project: ws.project });
    const [mine, hers] = await Promise.all([measuresPage(ws, ALL), measuresPage(hanne, ALL)]);
    expect(hers.totals.made).toBe(mine.totals.made - 2);
    expect(hers.meetings.flatMap((w) => w.ids)).not.toContain(walk.id);
    expect((await behindPoint(hanne, { projects: 'this', series: null, person: null, from: mine.from, days: 1, point: 'open', key: TODAY })).rows.map((r) => r.text)).not.toContain('Photographs of the corroded engine seat');
  });
});
