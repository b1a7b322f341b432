import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeCommitment, enterCommitment } from '../../src/server/ledger/changes.ts';
import { sendToProject } from '../../src/server/ledger/merging.ts';
import { fillTemplate, keepTemplate } from '../../src/server/letters/templates.ts';
import { recordShown, siftPage } from '../../src/server/pages/sift.ts';
import { peopleOf } from '../../src/server/people/people.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { keepRecord } from '../../src/server/records/bringing-in.ts';
import { contentPolicy, isOurs, SECURITY } from '../../src/server/web/hosts.ts';
import { bytes, demoWorld, TODAY } from './world.ts';

const P = 'quiet-crossing';
let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
  await ws.db.insertInto('people').values({ id: 'stranger', name: 'Sten Stranger', aliases: '[]', role: '', mail: null, organisation: '', account: 0 }).execute();
});
afterAll(() => ws.db.destroy());

const keep = { project: P, fileName: 'a.txt', meeting: null, series: null, title: 'A talk', date: TODAY, author: null, voices: {} };
const talk = (n: number) => bytes(`Ines Falk: I will send list ${n} to Ruth by Friday.\n`);

describe('ids belong to the project they are sent for', () => {
  it('of whoever wrote or spoke in a record; nothing of it is kept', async () => {
    const before = await ws.db.selectFrom('meetings').select('id').execute();
    await expect(keepRecord(ws, { ...keep, author: 'stranger' }, talk(1))).rejects.toThrow('Nobody here is called “stranger”');
    await expect(keepRecord(ws, { ...keep, voices: { 'Ines Falk': { person: 'stranger', name: null } } }, talk(1))).rejects.toThrow('Nobody here is called');
    await expect(keepRecord(ws, { ...keep, series: 'no-series' }, talk(1))).rejects.toThrow('no such series');
    expect(await ws.db.selectFrom('meetings').select('id').execute()).toEqual(before);
  });
  it('of an owner, of a series with a wording of its own', async () => {
    await expect(enterCommitment(ws, P, { text: 'Count the ropes', owner: ['stranger'], due: null })).rejects.toThrow('Nobody here is called');
    const { id } = await ws.db.selectFrom('commitments').select('id').where('project_id', '=', P).where('state', '=', 'open').executeTakeFirstOrThrow();
    await expect(changeCommitment(ws, id, { do: 'hand over', owner: ['stranger'] })).rejects.toThrow('Nobody here is called');
    await expect(keepTemplate(ws, P, { series: 'no-series', kind: 'overdue', language: 'en', subject: 'Late', body: 'Late', short: 'Late' })).rejects.toThrow('no such series');
  });
  it('and whoever holds what is sent to another project goes along with it', async () => {
    const other = [...ws.asker.projects].find((p) => p !== P)!;
    const here = new Set((await peopleOf(ws, other)).map((p) => p.id));
    const held = (await ws.db.selectFrom('commitments as c').innerJoin('commitment_owners as o', 'o.commitment_id', 'c.id').select(['c.id', 'o.person_id as owner']).where('c.project_id', '=', P).where('c.state', '=', 'open').execute()).find((c) => !here.has(c.owner))!;
    await sendToProject(ws, { send: { ids: [held.id], project: other } });
    expect((await peopleOf(ws, other)).map((p) => p.id)).toContain(held.owner);
  });
});

describe('wording', () => {
  it('reads no files, under any tag or path', () => {
    for (const tag of ['render', 'include', 'layout']) for (const path of ['package.json', '../package.json', '/etc/passwd']) expect(() => fillTemplate(`{% ${tag} "${path}" %}`, {})).toThrow('cannot be filled');
  });
});

describe('what a page may load', () => {
  it('is its own scripts and styles by their hashes; a file loads nothing', () => {
    const page = contentPolicy("script-src 'self' 'sha256-abc';");
    expect(page).toContain("default-src 'self'");
    expect(page).toContain("script-src 'self' 'sha256-abc'");
    expect(contentPolicy(null)).toContain("default-src 'none'");
    for (const policy of [page, contentPolicy(null)]) {
      for (const part of ["frame-ancestors 'none'", "object-src 'none'", "base-uri 'none'"]) expect(policy).toContain(part);
      expect(policy).not.toMatch(/script-src[^;]*(?:unsafe|\*)/);
    }
    expect(SECURITY['x-frame-options']).toBe('DENY');
    expect([isOurs('localhost:4324'), isOurs('quay.example'), isOurs(null)]).toEqual([true, false, false]);
  });
});

describe('a record of many hours', () => {
  it('comes after its page, with the names of those who speak', async () => {
    const lines = Array.from({ length: 6500 }, (_, i) => `[${String(Math.floor(i / 900)).padStart(2, '0')}:${String(Math.floor((i * 4) / 60) % 60).padStart(2, '0')}:${String((i * 4) % 60).padStart(2, '0')}] ${i % 2 ? 'Bram Osei' : 'Ines Falk'}: Line ${i} of the tide table.`);
    const { meeting } = await keepRecord(ws, { ...keep, title: 'A long day' }, bytes(lines.join('\n')));
    const { view } = await siftPage(ws.with({ project: P, today: TODAY }), meeting);
    expect(view!.record.segments).toBeNull();
    const shown = await recordShown(ws, view!.record.id);
    expect(shown.segments).toHaveLength(6500);
    expect(shown.segments[6499]).toMatchObject({ voice: 'Bram Osei', text: expect.stringContaining('Line 6499') });
    await expect(recordShown(ws.with({ asker: { ...ws.asker, projects: new Set() } }), view!.record.id)).rejects.toThrow('no such record');
  });
});
