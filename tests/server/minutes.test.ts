import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '../../src/core/meetings/minutes.ts';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { changeMinutes, minutesFile, minutesOf } from '../../src/server/meetings/minutes/minutes.ts';
import { minutesPage } from '../../src/server/pages/minutes.ts';
import type { Asker } from '../../src/server/people/asker.ts';
import type { Db } from '../../src/server/store/database.ts';
import { demoWorld, TODAY } from './world.ts';

let db: Db;
let asker: Asker;
let id: number;
beforeAll(async () => {
  ({ db, asker } = await demoWorld());
  id = (await meetingRows(asker, db, { series: 'works' })).filter((m) => m.finds > 3 && m.findsLeft === 0).at(-1)!.id;
});
afterAll(() => db.destroy());
const parts = (...names: ('actions' | 'decisions' | 'attendance')[]) => draftOf(names.map((part) => ({ part })));

describe('minutes of a meeting', () => {
  it('begin with the usual parts and what was taken', async () => {
    const m = await minutesOf(asker, db, id);
    expect(m.revision).toBe(0);
    expect(m.data.present).toContain('Ines Falk');
    expect(m.data.actions.length).toBeGreaterThan(0);
    expect(m.data.actions.every((a) => a.ref.startsWith('C-') && a.commitment !== null)).toBe(true);
    expect(m.data.topics.length).toBeGreaterThan(0);
    expect(m.versions).toEqual([]);
  });
  it('keep a draft, and refuse one that was begun from an older', async () => {
    const kept = await changeMinutes(asker, db, id, { do: 'write', draft: parts('actions'), revision: 0 }, TODAY);
    expect(kept.revision).toBe(1);
    await expect(changeMinutes(asker, db, id, { do: 'write', draft: parts('decisions'), revision: 0 }, TODAY)).rejects.toThrow('Somebody else changed these minutes');
    expect((await minutesOf(asker, db, id)).draft).toEqual(parts('actions'));
  });
  it('are issued as a version that does not change when the commitment does; a correction makes the next, with what changed', async () => {
    const first = await changeMinutes(asker, db, id, { do: 'issue', revision: 1 }, TODAY);
    expect(first.versions).toHaveLength(1);
    await expect(changeMinutes(asker, db, id, { do: 'issue', revision: 1 }, TODAY)).rejects.toThrow('Version 1 says the same');
    const open = first.data.actions.find((a) => a.due !== null);
    await changeCommitment(asker, db, open!.commitment!, { do: 'move', due: '2026-04-01' }, TODAY).catch(() => changeCommitment(asker, db, open!.commitment!, { do: 'reword', text: 'Put otherwise' }, TODAY));
    const now = await minutesOf(asker, db, id);
    expect(now.pending).toHaveLength(1);
    expect(now.pending[0]).toContain(open!.ref);
    const second = await changeMinutes(asker, db, id, { do: 'issue', revision: 1 }, TODAY);
    expect(second.versions.map((v) => [v.version, v.changes.length])).toEqual([
      [1, 0],
      [2, 1],
    ]);
    expect(JSON.stringify(second.versions[0]!.minutes)).toBe(JSON.stringify(first.versions[0]!.minutes));
    for (const sql of ['UPDATE minutes_versions SET version = 9', 'DELETE FROM minutes_versions']) await expect(db.executeQuery((await import('kysely')).CompiledQuery.raw(sql))).rejects.toThrow('never changed and never deleted');
  });
  it('are not issued empty', async () => {
    const written = await changeMinutes(asker, db, id, { do: 'write', draft: { type: 'doc', content: [{ type: 'paragraph' }] }, revision: 1 }, TODAY);
    await expect(changeMinutes(asker, db, id, { do: 'issue', revision: written.revision }, TODAY)).rejects.toThrow('empty');
  });
  it('lend their parts to the series', async () => {
    const now = await minutesOf(asker, db, id);
    await changeMinutes(asker, db, id, { do: 'write', draft: parts('decisions', 'attendance'), revision: now.revision }, TODAY);
    await changeMinutes(asker, db, id, { do: 'template' }, TODAY);
    const other = (await meetingRows(asker, db, { series: 'works' })).find((m) => m.id !== id && m.records > 0)!;
    expect((await minutesOf(asker, db, other.id)).draft).toEqual(parts('decisions', 'attendance'));
  });
  it('come as files of four kinds, by version', async () => {
    for (const format of ['md', 'html', 'docx', 'pdf'] as const) {
      const f = await minutesFile(asker, db, id, format, 1);
      expect(f.name).toMatch(new RegExp(`-v1\\.${format}$`));
      expect(f.bytes.length).toBeGreaterThan(200);
    }
    await expect(minutesFile(asker, db, id, 'md', 7)).rejects.toThrow('no version 7');
  });
  it('say who will read them and what is new to those', async () => {
    const page = await minutesPage({ db, asker, project: 'quiet-crossing', today: TODAY }, id, 1);
    expect(page.version!.version).toBe(1);
    expect(page.view.audience.readers).toContain('Bram Osei');
    expect(page.view.audience.outside.length).toBeGreaterThan(0);
    expect(page.view.audience.fresh.join()).toMatch(/action/);
    await expect(minutesPage({ db, asker: { ...asker, projects: new Set() }, project: 'quiet-crossing', today: TODAY }, id, null)).rejects.toThrow('no such meeting');
  });
});
