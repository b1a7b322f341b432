import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { draftOf } from '../../src/core/meetings/minutes.ts';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { meetingRows } from '../../src/server/meetings/meetings.ts';
import { changeMinutes, minutesFile, minutesOf } from '../../src/server/meetings/minutes/minutes.ts';
import { minutesPage } from '../../src/server/pages/minutes.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { demoWorld, TODAY } from './world.ts';

let ws: Workspace;
let id: number;
beforeAll(async () => {
  ws = await demoWorld();
  id = (await meetingRows(ws, { series: 'works' })).filter((m) => m.finds > 3 && m.findsLeft === 0).at(-1)!.id;
});
afterAll(() => ws.db.destroy());
const parts = (...names: ('actions' | 'decisions' | 'attendance')[]) => draftOf(names.map((part) => ({ part })));

describe('minutes of a meeting', () => {
  it('begin with the usual parts and what was taken', async () => {
    const m = await minutesOf(ws, id);
    expect(m.revision).toBe(0);
    expect(m.data.present).toContain('Ines Falk');
    expect(m.data.actions.length).toBeGreaterThan(0);
    expect(m.data.actions.every((a) => a.ref.startsWith('C-') && a.commitment !== null)).toBe(true);
    expect(m.data.topics.length).toBeGreaterThan(0);
    expect(m.versions).toEqual([]);
  });
  it('keep a draft, and refuse one that was begun from an older', async () => {
    const kept = await changeMinutes(ws, id, { do: 'write', draft: parts('actions'), revision: 0 });
    expect(kept.revision).toBe(1);
    await expect(changeMinutes(ws, id, { do: 'write', draft: parts('decisions'), revision: 0 })).rejects.toThrow('Somebody else changed these minutes');
    expect((await minutesOf(ws, id)).draft).toEqual(parts('actions'));
  });
  it('are issued as a version that does not change when the commitment does; a correction makes the next, with what changed', async () => {
    const first = await changeMinutes(ws, id, { do: 'issue', revision: 1 });
    expect(first.versions).toHaveLength(1);
    await expect(changeMinutes(ws, id, { do: 'issue', revision: 1 })).rejects.toThrow('Version 1 says the same');
    const open = first.data.actions.find((a) => a.due !== null);
    await changeCommitment(ws, open!.commitment!, { do: 'move', due: '2026-04-01' }).catch(() => changeCommitment(ws, open!.commitment!, { do: 'reword', text: 'Put otherwise' }));
    const now = await minutesOf(ws, id);
    expect(now.pending).toHaveLength(1);
    expect(now.pending[0]).toContain(open!.ref);
    const second = await changeMinutes(ws, id, { do: 'issue', revision: 1 });
    expect(second.versions.map((v) => [v.version, v.changes.length])).toEqual([
      [1, 0],
      [2, 1],
    ]);
    expect(JSON.stringify(second.versions[0]!.minutes)).toBe(JSON.stringify(first.versions[0]!.minutes));
    for (const sql of ['UPDATE minutes_versions SET version = 9', 'DELETE FROM minutes_versions']) await expect(ws.db.executeQuery((await import('kysely')).CompiledQuery.raw(sql))).rejects.toThrow('never changed and never deleted');
  });
  it('are not issued empty', async () => {
    const written = await changeMinutes(ws, id, { do: 'write', draft: { type: 'doc', content: [{ type: 'paragraph' }] }, revision: 1 });
    await expect(changeMinutes(ws, id, { do: 'issue', revision: written.revision })).rejects.toThrow('empty');
  });
  it('lend their parts to the series', async () => {
    const now = await minutesOf(ws, id);
    await changeMinutes(ws, id, { do: 'write', draft: parts('decisions', 'attendance'), revision: now.revision });
    await changeMinutes(ws, id, { do: 'template' });
    const other = (await meetingRows(ws, { series: 'works' })).find((m) => m.id !== id && m.records > 0)!;
    expect((await minutesOf(ws, other.id)).draft).toEqual(parts('decisions', 'attendance'));
  });
  it('come as files of four kinds, by version', async () => {
    for (const format of ['md', 'html', 'docx', 'pdf'] as const) {
      const f = await minutesFile(ws, id, format, 1);
      expect(f.name).toMatch(new RegExp(`-v1\\.${format}$`));
      expect(f.bytes.length).toBeGreaterThan(200);
    }
    await expect(minutesFile(ws, id, 'md', 7)).rejects.toThrow('no version 7');
  });
  it('say who will read them and what is new to those', async () => {
    const page = await minutesPage(ws.with({ project: 'quiet-crossing', today: TODAY }), id, 1);
    expect(page.version!.version).toBe(1);
    expect(page.view.audience.readers).toContain('Bram Osei');
    expect(page.view.audience.outside.length).toBeGreaterThan(0);
    expect(page.view.audience.fresh.join()).toMatch(/action/);
    await expect(minutesPage(ws.with({ asker: { ...ws.asker, projects: new Set() } }), id, null)).rejects.toThrow('no such meeting');
  });
});
