import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { calendarsOf } from '../../src/server/letters/rules.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { plan } from '../../src/server/meetings/planning.ts';
import { changeProject, ProjectChangeSchema } from '../../src/server/people/beginning.ts';
import { addList, changeDetails, DetailsSchema, detailsOf, readList, takeListBack } from '../../src/server/people/details.ts';
import { BeginSchema, begin } from '../../src/server/people/first-run.ts';
import { ownerOf } from '../../src/server/people/owner.ts';
import { peopleOf } from '../../src/server/people/people.ts';
import { projectsOf } from '../../src/server/people/projects.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { keepRecord } from '../../src/server/records/bringing-in.ts';
import { type Db, openDatabase } from '../../src/server/store/database.ts';
import { bytes, demoWorld } from './world.ts';

const TODAY = '2026-03-05';
const FIRST = { name: ' Mara  Quill ', mail: 'mara@quill.example', zone: 'Europe/Lisbon', country: 'PT', project: 'New slipway' };
let db: Db;
let ws: Workspace;
/** the meeting whose record was brought in */
let held: number;
beforeAll(async () => {
  db = await openDatabase(':memory:');
});
afterAll(() => db.destroy());

describe('the first run', () => {
  it('happens once, however often it is asked for at the same moment', async () => {
    expect(await ownerOf(db)).toBeNull();
    const tries = await Promise.allSettled([1, 2, 3].map(() => begin(db, BeginSchema.parse(FIRST), TODAY)));
    expect(tries.filter((t) => t.status === 'fulfilled')).toHaveLength(1);
    expect(await ownerOf(db)).toBe('mara-quill');
    ws = await workspaceOf(db, 'mara-quill', TODAY);
    expect(ws.asker).toMatchObject({ name: 'Mara Quill', mail: 'mara@quill.example', projects: new Set(['new-slipway']) });
  });
  it('is not asked for where an earlier Ottik has somebody who runs a project', async () => {
    const { db: earlier } = await demoWorld();
    await earlier.deleteFrom('settings').execute();
    expect(await ownerOf(earlier)).toBe('ines');
    await earlier.destroy();
  });
  it.each([
    ['name', ' ', 'first name'],
    ['mail', 'mara at quill', 'not a mail address'],
    ['zone', 'Europe/Nowhere', 'not a time zone'],
    ['country', 'Portugal', 'not a country code'],
    ['project', 'x', 'needs a name'],
  ])('refuses a %s that is none', (field, value, why) => {
    expect(BeginSchema.safeParse({ ...FIRST, [field]: value }).error?.message).toContain(why);
  });
});

describe('people of a project', () => {
  const P = 'new-slipway';
  it('come from a list; who is known keeps what is known of them', async () => {
    const list = 'Tomas Reis <tomas@quill.example>, welder, Quill Yard\nMara Quill, manager\nAda Lume';
    expect((await readList(ws, P, list)).people.map((p) => p.known)).toEqual([null, 'Mara Quill', null]);
    const done = await addList(ws, P, list);
    expect(done).toMatchObject({ added: ['tomas-reis', 'ada-lume'], filled: [{ id: 'mara-quill' }] });
    expect(await addList(ws, P, list)).toEqual({ added: [], filled: [] });
    expect(await detailsOf(ws, P, 'mara-quill')).toMatchObject({ role: 'manager', mail: 'mara@quill.example' });
    await expect(addList(ws, P, '12345')).rejects.toThrow('nobody in this list');
    // taken back: who is new goes, what was filled in goes, and what somebody changed since stays
    await changeDetails(ws, P, 'mara-quill', { ...(await detailsOf(ws, P, 'mara-quill')), organisation: 'Quill Yard' });
    expect(await takeListBack(ws, P, done)).toEqual({ stay: [] });
    expect((await peopleOf(ws, P)).map((p) => p.name)).toEqual(['Mara Quill']);
    expect(await detailsOf(ws, P, 'mara-quill')).toMatchObject({ role: '', organisation: 'Quill Yard' });
    const again = await addList(ws, P, list);
    const talk = await plan(ws, P, { do: 'meeting', title: 'Slip talk', when: 'friday at 9:00', minutes: 30, place: '', people: ['ada-lume'] });
    expect(await takeListBack(ws, P, again)).toEqual({ stay: ['Ada Lume'] });
    await plan(ws, P, { do: 'remove meeting', meeting: talk.meeting! });
    await addList(ws, P, list);
  });
  it('are changed in place; what stood before comes back whole', async () => {
    const before = await detailsOf(ws, P, 'ada-lume');
    const to = DetailsSchema.parse({ ...before, mail: ' ada@quill.example ', aliases: ['Ada', 'AL', 'Ada'], role: 'diver', country: 'DE-BY', zone: 'Europe/Berlin' });
    expect((await changeDetails(ws, P, 'ada-lume', to)).before).toEqual(before);
    expect(await detailsOf(ws, P, 'ada-lume')).toMatchObject({ mail: 'ada@quill.example', aliases: ['Ada', 'AL'], role: 'diver' });
    await changeDetails(ws, P, 'ada-lume', before);
    expect(await detailsOf(ws, P, 'ada-lume')).toEqual(before);
    await expect(changeDetails(ws, P, 'ada-lume', { ...before, mail: 'TOMAS@quill.example' })).rejects.toThrow('is the address of Tomas Reis');
    // a sign that stands for any other in a search is itself in an address
    await changeDetails(ws, P, 'ada-lume', { ...before, mail: 'tom_s@quill.example' });
    await changeDetails(ws, P, 'ada-lume', before);
    await expect(changeDetails(ws, P, 'nobody', before)).rejects.toThrow('no such person');
  });
  it('a record of last month can be brought in to a project begun today', async () => {
    const kept = await keepRecord(ws, { project: P, fileName: 'a.txt', meeting: null, series: null, title: 'A talk', date: '2026-02-05', author: null, voices: {} }, bytes('Ada Lume: I will order the rails.\n'));
    ({ meeting: held } = kept);
    expect((await meetingRows(ws, { id: held }))[0]).toMatchObject({ date: '2026-02-05', records: 1 });
  });
});

describe('projects, series and meetings', () => {
  const P = 'new-slipway';
  it('are begun and renamed, never two of a name', async () => {
    await expect(changeProject(ws, { do: 'begin', name: 'NEW slipway' })).rejects.toThrow('already');
    const { project } = await changeProject(ws, { do: 'begin', name: 'Harbour lights' });
    ws = await workspaceOf(db, 'mara-quill', TODAY);
    expect(await changeProject(ws, { do: 'rename', project, name: 'Harbour lamps' })).toMatchObject({ project, before: { name: 'Harbour lights', archived: false } });
    await expect(changeProject(ws.with({ asker: { ...ws.asker, projects: new Set() } }), { do: 'rename', project, name: 'Mine' })).rejects.toThrow('no such project');
  });
  it('are archived: read, and not changed, until they are taken out', async () => {
    const mara = () => workspaceOf(db, 'mara-quill', TODAY);
    const { project } = await changeProject(await mara(), { do: 'begin', name: 'Old pier' });
    await changeProject(await mara(), { do: 'archive', project });
    const after = await mara();
    expect((await projectsOf(after)).at(-1)).toMatchObject({ id: project, archived: true });
    expect(await peopleOf(after, project)).toHaveLength(1);
    const working = after.with({ needs: 'work' });
    await expect(plan(working, project, { do: 'meeting', title: 'Talk', when: 'friday', minutes: 30, place: '', people: [] })).rejects.toThrow('archived');
    await expect(changeProject(working, { do: 'rename', project, name: 'Older pier' })).rejects.toThrow('archived');
    expect(await changeProject(working, { do: 'take out', project })).toMatchObject({ before: { archived: true } });
    await expect(changeProject(await mara(), { do: 'rename', project, name: 'Older pier' })).resolves.toMatchObject({ project });
  });
  it('have working days and a country, which hold for those who have none of their own', async () => {
    await changeProject(ws, { do: 'settle', project: P, country: 'DE', workingDays: '12347' });
    await addList(ws, P, 'Tomas Reis');
    const works = await calendarsOf(db, P, TODAY);
    expect(['2026-03-06', '2026-03-08', '2026-04-06'].map(works('tomas-reis'))).toEqual([false, true, false]);
    await changeDetails(ws, P, 'tomas-reis', { ...(await detailsOf(ws, P, 'tomas-reis')), country: 'FR', workingDays: '12345' });
    const own = (await calendarsOf(db, P, TODAY))('tomas-reis');
    expect(['2026-03-06', '2026-03-08', '2026-04-03'].map(own)).toEqual([true, false, true]);
    expect(ProjectChangeSchema.safeParse({ do: 'settle', project: P, country: '', workingDays: '' }).success).toBe(false);
  });
  it('are not begun by somebody who is a guest everywhere', async () => {
    await db.updateTable('people').set({ account: 1 }).where('id', '=', 'tomas-reis').execute();
    await db.updateTable('memberships').set({ sees: 1, access: 'guest' }).where('person_id', '=', 'tomas-reis').execute();
    await expect(changeProject(await workspaceOf(db, 'tomas-reis', TODAY), { do: 'begin', name: 'My own' })).rejects.toThrow('Guests');
  });
  it('a series has its coming days at once, and goes whole while nothing hangs on it', async () => {
    const series = { do: 'series' as const, title: 'Yard call', when: 'every second Tuesday at 10:00', minutes: 45, place: 'Yard', people: ['tomas-reis', 'new:Ben Wren'] };
    const begun = await plan(ws, P, series);
    expect(begun.days.slice(0, 2)).toEqual(['2026-03-10', '2026-03-24']);
    expect((await meetingRows(ws, { project: P, series: begun.series! })).map((m) => [m.number, m.time, m.minutes]).slice(0, 2)).toEqual([
      [1, '10:00', 45],
      [2, '10:00', 45],
    ]);
    await expect(plan(ws, P, series)).rejects.toThrow('already');
    await expect(plan(ws, P, { ...series, title: 'Other', when: 'now and then' })).rejects.toThrow('does not say when');
    await plan(ws, P, { do: 'remove series', series: begun.series! });
    expect(await meetingRows(ws, { project: P, series: begun.series! })).toEqual([]);
  });
  it('a meeting is planned in words; one with a record stays', async () => {
    const planned = await plan(ws, P, { do: 'meeting', title: 'Visit', when: 'next Tuesday at 14:30', minutes: 60, place: '', people: [] });
    const [row] = await meetingRows(ws, { id: planned.meeting! });
    expect(row).toMatchObject({ date: planned.days[0], time: '14:30', title: 'Visit' });
    await expect(plan(ws, P, { do: 'meeting', title: 'Visit', when: '2026-03-01', minutes: 60, place: '', people: [] })).rejects.toThrow('is past');
    await expect(plan(ws, P, { do: 'meeting', title: 'Visit', when: 'some day', minutes: 60, place: '', people: [] })).rejects.toThrow('names no day');
    await plan(ws, P, { do: 'remove meeting', meeting: planned.meeting! });
    await expect(plan(ws, P, { do: 'remove meeting', meeting: held })).rejects.toThrow('something to show');
  });
});
