import { sql } from 'kysely';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { deedOf, sightOf } from '../../src/core/people/deeds.ts';
import { AuditQuerySchema, auditPage, note } from '../../src/server/people/audit.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { demoWorld } from './world.ts';

describe('what a request did', () => {
  it.each([
    ['/api/letters/12', 'send', { did: 'sent', what: 'a letter: send', about: '12' }],
    ['/api/replies/3', 'write back', { did: 'sent', what: 'what came back: write back', about: '3' }],
    ['/api/people/bram/access', 'invite', { did: 'shared', what: 'a person’s entry: invite', about: 'bram' }],
    ['/api/commitments/7', 'done', { did: 'changed', what: 'a commitment: done', about: '7' }],
    ['/api/commitments', null, { did: 'changed', what: 'a commitment', about: null }],
    ['/api/settings', 'try out', null],
    ['/api/ledger-import', 'preview', null],
    ['/api/ledger', null, null],
  ])('%s with %s', (path, act, entry) => {
    expect(deedOf(path, act)).toEqual(entry);
  });
  it.each([
    ['/meetings/9/minutes', false, { did: 'saw', what: 'a meeting: minutes', about: '9' }],
    ['/ledger/C-12', false, { did: 'saw', what: 'a trail', about: 'C-12' }],
    ['/ledger.csv', true, { did: 'took away', what: '/ledger.csv', about: null }],
    ['/meetings/9/minutes.pdf', true, { did: 'took away', what: '/meetings/9/minutes.pdf', about: '9' }],
    ['/ledger/import', false, null],
    ['/', false, null],
  ])('looking at %s', (path, file, entry) => {
    expect(sightOf(path, file)).toEqual(entry);
  });
});

describe('the audit', () => {
  let ws: Workspace;
  beforeEach(async () => {
    ws = await demoWorld();
  });
  afterEach(() => ws.db.destroy());
  const find = async (asked: object = {}) => (await auditPage(ws, AuditQuerySchema.parse(asked))).rows.map((r) => [r.person, r.did, r.what, r.about]);
  const at = (minute: number) => new Date(Date.UTC(2026, 2, 5, 12, minute));

  it('keeps what was done, tells of the same sight once, and finds it by words, person and deed', async () => {
    const saw = { did: 'saw' as const, what: 'a meeting: sift', about: '9' };
    await note(ws.db, 'ines', ws.project, saw, at(0));
    await note(ws.db, 'ines', ws.project, saw, at(5));
    await note(ws.db, 'ines', ws.project, saw, at(20));
    await note(ws.db, 'bram', ws.project, { did: 'took away', what: '/ledger.csv', about: null }, at(21));
    expect(await find()).toEqual([
      ['Bram Osei', 'took away', '/ledger.csv', null],
      ['Ines Falk', 'saw', 'a meeting: sift', '9'],
      ['Ines Falk', 'saw', 'a meeting: sift', '9'],
    ]);
    expect(await find({ words: 'ledger' })).toHaveLength(1);
    expect(await find({ words: '%' })).toHaveLength(0);
    expect(await find({ person: 'ines' })).toHaveLength(2);
    expect(await find({ did: 'took away' })).toHaveLength(1);
  });
  it('cannot be changed, and is for whoever keeps this Ottik', async () => {
    await note(ws.db, 'ines', null, { did: 'changed', what: 'the settings', about: null }, at(0));
    await expect(sql`UPDATE audit SET person_id = 'bram'`.execute(ws.db)).rejects.toThrow('not changed');
    await expect(sql`DELETE FROM audit`.execute(ws.db)).rejects.toThrow('not changed');
    await expect(auditPage(ws.with({ asker: { ...ws.asker, person: 'bram' } }), AuditQuerySchema.parse({}))).rejects.toThrow('for whoever set up');
  });
});
