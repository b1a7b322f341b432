import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addDays } from '../../src/core/dates/calendar.ts';
import { heatOf } from '../../src/core/ledger/heat.ts';
import { figuresOf } from '../../src/core/ledger/predicates.ts';
import { changeCommitment, enterCommitment } from '../../src/server/ledger/changes.ts';
import { ledgerCounts, ledgerRows, openBefore } from '../../src/server/ledger/commitments.ts';
import { dayPage } from '../../src/server/pages/day.ts';
import { ledgerPage } from '../../src/server/pages/ledger.ts';
import { peoplePage } from '../../src/server/pages/person.ts';
import { projectPage } from '../../src/server/pages/project.ts';
import { weavePage } from '../../src/server/pages/weave.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { type Db, openDatabase } from '../../src/server/store/database.ts';

const TODAY = '2026-03-05';
let db: Db;
let made = 0;
beforeAll(async () => {
  db = await openDatabase(':memory:');
  for (const [id, name] of [
    ['ines', 'Ines Falk'],
    ['bram', 'Bram Osei'],
    ['ruth', 'Ruth Adair'],
  ] as const)
    await db
      .insertInto('people')
      .values({ id, name, aliases: '[]', role: '', mail: null, organisation: '', account: id === 'ines' ? 1 : 0 })
      .execute();
}, 60_000);
afterAll(() => db.destroy(), 60_000);

/** A small project with a ledger of its own; the ones before it are out of sight. */
async function world(): Promise<Workspace> {
  const project = `slipway-${++made}`;
  await db.deleteFrom('memberships').execute();
  await db.insertInto('projects').values({ id: project, name: 'Slipway', started_on: '2025-12-01' }).execute();
  for (const id of ['ines', 'bram', 'ruth'])
    await db
      .insertInto('memberships')
      .values({ project_id: project, person_id: id, sees: id === 'ines' ? 1 : 0 })
      .execute();
  return (await workspaceOf(db, 'ines', TODAY)).with({ project });
}

const days = (from: number, to: number) => fc.integer({ min: from, max: to }).map((n) => addDays(TODAY, n));
const commitment = fc.record({
  owner: fc.constantFrom([], ['bram'], ['ruth'], ['ines', 'bram']),
  due: fc.option(days(-20, 20)),
  became: fc.constantFrom('nothing', 'done', 'drop', 'block', 'no date', 'put off', 'backlog'),
  until: days(1, 9),
});

describe('open, late and loose mean the same on every page', () => {
  it('whatever the ledger holds', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(commitment, { maxLength: 10 }), async (list) => {
        const ws = await world();
        const { project } = ws;
        for (const [k, c] of list.entries()) {
          const { row } = await enterCommitment(ws.with({ today: addDays(TODAY, -k) }), project, { text: `Paint bollard ${k}`, owner: [...c.owner], due: c.due });
          const change = c.became === 'put off' ? { do: 'put off' as const, until: c.until } : c.became === 'backlog' ? { do: 'put off' as const, until: null } : c.became === 'nothing' ? null : { do: c.became };
          if (change && !(change.do === 'no date' && c.due !== null)) await changeCommitment(ws, row.id, change as Parameters<typeof changeCommitment>[2]);
        }
        const rows = await ledgerRows(ws, { project, state: 'all' });
        const wanted = figuresOf(rows, TODAY);
        const [counts, ledger, day, own, people, weave] = await Promise.all([ledgerCounts(ws, project, TODAY), ledgerPage(ws, new URLSearchParams()), dayPage(ws), projectPage(ws), peoplePage(ws), weavePage(ws, { series: null, person: null, order: 'owner', closed: true })]);
        const { open, late, loose, putOff, backlog } = counts;
        expect({ open, late, loose, putOff, backlog }).toEqual(wanted);
        expect([ledger.open, ledger.late, ledger.loose]).toEqual([wanted.open, wanted.late, wanted.loose]);
        expect([day.late.length, day.loose.length]).toEqual([wanted.late, wanted.loose]);
        expect([own.current.open, own.current.late]).toEqual([wanted.open, wanted.late]);
        expect(own.current.heat.reasons.find((r) => r.what === 'loose')?.count ?? 0).toBe(wanted.loose);
        expect(own.current.heat.reasons.find((r) => r.what === 'late')?.count ?? 0).toBe(wanted.late);
        for (const p of people) {
          const held = figuresOf(
            rows.filter((r) => r.owner.some((o) => o.id === p.id)),
            TODAY,
          );
          expect([p.id, p.open, p.late]).toEqual([p.id, held.open, held.late]);
        }
        expect(await openBefore(ws, project, addDays(TODAY, 1))).toBe(wanted.open);
        if (list.length) expect(weave.sub).toContain(`: ${wanted.open} open${wanted.late ? `, of which ${wanted.late} late` : ''}`);
      }),
      { numRuns: 12 },
    );
  });
  it('somebody who said that a thing needs no date has made it no looser', () => {
    const one = { owner: ['bram'], due: null, lastOn: TODAY, carried: 0, moved: 0, waiting: false };
    expect(heatOf([{ ...one, undated: true }], TODAY).reasons).toEqual([]);
    expect(heatOf([{ ...one, undated: false }], TODAY).reasons).toMatchObject([{ what: 'loose', count: 1 }]);
  });
});
