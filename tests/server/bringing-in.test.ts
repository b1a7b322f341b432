import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { plan } from '../../src/server/meetings/planning.ts';
import { fillAhead, seriesShown } from '../../src/server/meetings/series.ts';
import { detailsOf } from '../../src/server/people/details.ts';
import { peopleOf } from '../../src/server/people/people.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { type Keep, keepRecord } from '../../src/server/records/bringing-in.ts';
import { firstFinds } from '../../src/server/records/first-look.ts';
import { previewRecord } from '../../src/server/records/preview.ts';
import { bytes, demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
const RECORD = bytes(`Weekly yard huddle, 3 March 2026
Present: Ines Falk, Bram Osei, Petra Lind, Tomas Reis
Bram: I will ring the inspector by Friday.
Petra Lind: I'll send the crane log to Hanne by Monday.
`);
let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
});
afterEach(() => ws.db.destroy());
const keep = (over: Partial<Keep> = {}): Keep => ({ project: P, fileName: 'huddle.txt', meeting: null, series: null, title: 'Weekly yard huddle', date: '2026-03-03', author: null, voices: { Bram: { person: 'bram', name: null }, 'Petra Lind': { person: null, name: 'Petra Lind' } }, ...over });
const begin = (when: string) => async (ws: Workspace) => ({ series: (await plan(ws, P, { do: 'series', title: 'Weekly yard huddle', when, minutes: 60, place: '', people: [] })).series! });

describe('a record on its way in', () => {
  it('says who is named and not known, and which series it looks like one of', async () => {
    const preview = await previewRecord(ws, P, RECORD, 'huddle.txt');
    expect(preview.named.map((n) => n.name)).toEqual(['Tomas Reis']);
    expect(preview.newSeries).toEqual({ title: 'Weekly yard huddle', when: 'every Tuesday at 10:00', why: 'its title says weekly' });
    expect(preview.voices.map((v) => [v.label, v.person])).toEqual([
      ['Bram', 'bram'],
      ['Petra Lind', null],
    ]);
  });
  it('shows first finds before it is kept; a voice nobody has named owns what it promises', async () => {
    const before = await ws.db.selectFrom('records').select('id').execute();
    const finds = await firstFinds(ws, P, { bytes: RECORD, fileName: 'huddle.txt', layout: null }, '2026-03-03');
    expect(finds.filter((f) => f.kind === 'action').map((f) => [f.owner, f.due])).toEqual([
      [['Bram Osei'], '2026-03-06'],
      [['Petra Lind'], '2026-03-09'],
    ]);
    expect(await ws.db.selectFrom('records').select('id').execute()).toEqual(before);
  });
  it('begins its series and adds who is named, all or nothing', async () => {
    const kept = await keepRecord(ws, keep({ named: { 'Tomas Reis': { person: null, name: 'Tomas Reis' }, Brammie: { person: 'bram', name: null } } }), RECORD, begin('every Tuesday at 10:00'));
    await fillAhead(ws.db, kept.series!, TODAY);
    expect((await meetingRows(ws, { id: kept.meeting }))[0]).toMatchObject({ title: 'Weekly yard huddle', series: kept.series, number: 1, date: '2026-03-03' });
    const shown = await seriesShown(ws, kept.series!);
    expect(shown.meetings.slice(0, 3).map((m) => [m.date, m.number, m.held])).toEqual([
      ['2026-03-03', 1, true],
      ['2026-03-10', 2, false],
      ['2026-03-17', 3, false],
    ]);
    expect(Object.values(shown.names).sort()).toEqual(['Bram Osei', 'Ines Falk', 'Petra Lind']);
    expect((await peopleOf(ws, P)).map((p) => p.name)).toContain('Tomas Reis');
    expect((await detailsOf(ws, P, 'bram')).aliases).toContain('Brammie');
  });
  it('leaves nothing behind where it is refused: no series, no people', async () => {
    const counts = async () => (await Promise.all([ws.db.selectFrom('series').select('id').execute(), ws.db.selectFrom('people').select('id').execute(), ws.db.selectFrom('meetings').select('id').execute()])).map((rows) => rows.length);
    const before = await counts();
    await expect(keepRecord(ws, keep({ named: { 'Tomas Reis': { person: null, name: 'Tomas Reis' }, X: { person: 'greta', name: null } } }), RECORD, begin('every Tuesday at 10:00'))).rejects.toThrow('Nobody here is called');
    await expect(keepRecord(ws, keep({ named: { 'Tomas Reis': { person: null, name: '?' } } }), RECORD, begin('every Tuesday at 10:00'))).rejects.toThrow('not a name');
    await expect(keepRecord(ws, keep(), RECORD, begin('now and then'))).rejects.toThrow('does not say when');
    expect(await counts()).toEqual(before);
  });
});
