import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { planOf, writePlanned } from '../../src/server/letters/plan.ts';
import { queueLetter } from '../../src/server/letters/queue.ts';
import { meetingRows, seriesRows } from '../../src/server/meetings/meetings.ts';
import { plan } from '../../src/server/meetings/planning.ts';
import { changeMeeting, changeSeries, endSeries, fillAhead, fillEverySeries, seriesShown } from '../../src/server/meetings/series.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { nextSitting } from '../../src/server/records/bringing-in.ts';
import { demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
let id: string;
beforeEach(async () => {
  ws = await demoWorld();
  id = (await plan(ws, P, { do: 'series', title: 'Crane talk', when: 'every Tuesday at 9:00', minutes: 30, place: 'slip 2', people: ['bram'] })).series!;
});
afterEach(() => ws.db.destroy());
const days = async () => (await seriesShown(ws, id)).meetings.filter((m) => !m.cancelled).map((m) => m.date);
const at = async (date: string) => (await seriesShown(ws, id)).meetings.find((m) => m.date === date)!;
const numbers = async () => (await seriesShown(ws, id)).meetings.map((m) => `${m.date.slice(5)} ${m.number ?? '-'}`);
const TUESDAYS = ['2026-03-10', '2026-03-17', '2026-03-24', '2026-03-31', '2026-04-07', '2026-04-14', '2026-04-21', '2026-04-28'];

describe('the calendar of a series', () => {
  it('has eight meetings ahead, and goes on by itself', async () => {
    expect(await days()).toEqual(TUESDAYS);
    expect(await fillAhead(ws.db, id, '2026-03-05')).toEqual([]);
    expect(await fillEverySeries(ws.db, '2026-03-20')).toBeGreaterThanOrEqual(2);
    expect((await days()).slice(-2)).toEqual(['2026-05-05', '2026-05-12']);
    expect((await numbers()).at(-1)).toBe('05-12 10');
  });
  it('moves one meeting, which keeps its turn in the rhythm, and moves it back', async () => {
    const one = await at('2026-03-17');
    const moved = await changeMeeting(ws, one.id, { do: 'move', when: 'Wednesday 18 March at 14:30' });
    expect(moved).toMatchObject({ date: '2026-03-18', time: '14:30', before: { date: '2026-03-17', time: '09:00' }, invited: [] });
    expect(await at('2026-03-18')).toMatchObject({ movedFrom: '2026-03-17', number: 2 });
    // the day it left is not filled again
    await fillAhead(ws.db, id, TODAY);
    expect(await days()).not.toContain('2026-03-17');
    expect(await nextSitting(ws.db, id, '2026-03-10')).toBe('2026-03-18');
    await changeMeeting(ws, one.id, { do: 'move', when: '2026-03-17 at 09:00' });
    expect(await at('2026-03-17')).toMatchObject({ movedFrom: null, time: '09:00' });
  });
  it('cancels one: it is not counted, not planned for, and can be held after all', async () => {
    const one = await at('2026-03-17');
    await changeMeeting(ws, one.id, { do: 'cancel' });
    expect((await numbers()).slice(0, 3)).toEqual(['03-10 1', '03-17 -', '03-24 2']);
    await fillAhead(ws.db, id, TODAY);
    expect(await days()).toEqual(TUESDAYS.filter((d) => d !== '2026-03-17'));
    expect((await meetingRows(ws, { project: P, series: id })).map((m) => m.date)).not.toContain('2026-03-17');
    expect((await meetingRows(ws, { project: P, series: id, cancelled: true })).map((m) => m.date)).toContain('2026-03-17');
    expect(await nextSitting(ws.db, id, '2026-03-10')).toBe('2026-03-24');
    const invitations = (await planOf(ws.db, P, '2026-03-12')).letters.filter((l) => l.kind === 'invitation' && l.to === 'bram').map((l) => l.day);
    expect(invitations).not.toContain('2026-03-13');
    await changeMeeting(ws, one.id, { do: 'hold after all' });
    expect((await numbers()).slice(0, 3)).toEqual(['03-10 1', '03-17 2', '03-24 3']);
  });
  it('lets no invitation go to one that was cancelled after it was written', async () => {
    const later = ws.with({ today: '2026-03-06' });
    const planned = (await planOf(ws.db, P, later.today)).letters.find((l) => l.to === 'bram' && l.parts.some((p) => p.kind === 'invitation'))!;
    const letter = await writePlanned(later, P, 'bram', planned.day);
    const { sitting_id } = await ws.db.selectFrom('letters').select('sitting_id').where('id', '=', letter.id).executeTakeFirstOrThrow();
    await changeMeeting(later, sitting_id!, { do: 'cancel' });
    await expect(queueLetter(later, letter.id, new Date('2026-03-06T09:00:00Z'))).rejects.toThrow('was cancelled since this letter was written');
    await changeMeeting(later, sitting_id!, { do: 'hold after all' });
    await expect(queueLetter(later, letter.id, new Date('2026-03-06T09:00:00Z'))).resolves.toBeUndefined();
  });
  it('follows another rhythm; what hangs on a day keeps it there', async () => {
    const kept = await at('2026-03-17');
    await ws.db
      .insertInto('jottings')
      .values({ project_id: P, text: 'ask about the hoist', on_day: TODAY, at: `${TODAY}T09:00:00Z`, by_person: 'ines', about_kind: 'meeting', about_id: String(kept.id), standing: 0 })
      .execute();
    const { entry } = await seriesShown(ws, id);
    const { before, stayed } = await changeSeries(ws, id, { ...entry, when: 'first Monday of the month at 8:30', title: 'Crane council', notes: 'Hard hats.', people: [...entry.people, { id: 'ruth', part: 'keeps minutes' }] });
    expect(before).toEqual(entry);
    expect(stayed).toEqual(['2026-03-17']);
    expect((await days()).slice(0, 3)).toEqual(['2026-03-17', '2026-04-06', '2026-05-04']);
    expect(await at('2026-04-06')).toMatchObject({ time: '08:30', number: 2 });
    expect((await meetingRows(ws, { id: kept.id }))[0]).toMatchObject({ title: 'Crane council', time: '08:30' });
    expect((await seriesRows(ws, P)).find((s) => s.id === id)).toMatchObject({ often: 'the first Monday of every month at 08:30' });
    await changeSeries(ws, id, before);
    expect(await days()).toEqual(TUESDAYS);
    expect((await seriesShown(ws, id)).entry).toEqual(before);
  });
  it('ends without what was to come, and goes on again', async () => {
    expect((await endSeries(ws, id, 'end')).days).toEqual(TUESDAYS);
    await fillEverySeries(ws.db, '2026-03-20');
    expect(await days()).toEqual([]);
    expect(await nextSitting(ws.db, id, TODAY)).toBeNull();
    await endSeries(ws, id, 'go on');
    expect(await days()).toEqual(TUESDAYS);
  });
  it('refuses what cannot be, and changes nothing', async () => {
    const one = await at('2026-03-17');
    const { entry } = await seriesShown(ws, id);
    await expect(changeMeeting(ws, one.id, { do: 'move', when: 'some time' })).rejects.toThrow('names no day');
    await expect(changeMeeting(ws, one.id, { do: 'move', when: '2026-03-02' })).rejects.toThrow('is past');
    await expect(changeMeeting(ws, one.id, { do: 'move', when: '24 March' })).rejects.toThrow('meets on 2026-03-24 already');
    const held = (await ws.db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').select('m.id').where('m.series_id', '=', 'works').executeTakeFirstOrThrow()).id;
    await expect(changeMeeting(ws, held, { do: 'cancel' })).rejects.toThrow('has a record');
    await expect(changeSeries(ws, id, { ...entry, when: 'now and then' })).rejects.toThrow('does not say when');
    await expect(changeSeries(ws, id, { ...entry, title: 'Weekly works call' })).rejects.toThrow('There is a series');
    await expect(changeSeries(ws, id, { ...entry, people: [{ id: 'nobody-known', part: 'attends' }] })).rejects.toThrow('Nobody here is called');
    await expect(seriesShown(ws, 'no-such')).rejects.toThrow('no such series');
    await expect(changeSeries(ws.with({ asker: { ...ws.asker, projects: new Set() } }), id, entry)).rejects.toThrow('no such series');
    expect((await seriesShown(ws, id)).entry).toEqual(entry);
    expect(await days()).toEqual(TUESDAYS);
  });
});
