import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { countsAsLoose, countsAsOpen, figuresOf, isDue, isLate, isPutOff } from '../../src/core/ledger/predicates.ts';
import { type CommitmentState, isEnded, isOpen } from '../../src/core/ledger/state.ts';
import { ledgerCounts } from '../../src/server/ledger/commitments.ts';
import { predicates } from '../../src/server/ledger/predicates.ts';
import { Workspace } from '../../src/server/people/workspace.ts';
import { type Db, openDatabase } from '../../src/server/store/database.ts';

const TODAY = '2026-03-05';
const DAYS = ['2026-03-01', '2026-03-04', TODAY, '2026-03-06', '2026-04-01'];
const asker = { person: 'ines', name: 'Ines', mail: null, zone: 'UTC', projects: new Set(['p']), roles: new Map(), archived: new Set<string>() };

let db: Db;
beforeAll(async () => {
  db = await openDatabase(':memory:');
  await db.insertInto('people').values({ id: 'ines', name: 'Ines', aliases: '[]', role: '', mail: null, organisation: '', account: 1 }).execute();
  await db.insertInto('projects').values({ id: 'p', name: 'Quay', started_on: '2026-01-05' }).execute();
});
afterAll(() => db.destroy());

const commitment = fc.record({
  state: fc.constantFrom<CommitmentState>('open', 'blocked', 'done', 'dropped', 'merged', 'withdrawn'),
  due: fc.constantFrom(null, ...DAYS),
  putOff: fc.constantFrom(null, 'backlog', ...DAYS),
  undated: fc.boolean(),
  owned: fc.boolean(),
});

describe('what the words of the Ledger mean', () => {
  it('is the same where commitments are read and where they are only counted', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(commitment, { minLength: 1, maxLength: 12 }), async (ledger) => {
        await db.deleteFrom('commitment_owners').execute();
        await db.deleteFrom('commitments').execute();
        const rows = ledger.map((c, i) => ({ ...c, id: i + 1, owner: c.owned ? ['ines'] : [] }));
        await db
          .insertInto('commitments')
          .values(rows.map((c) => ({ id: c.id, project_id: 'p', number: c.id, meeting_id: null, series_id: null, text: 'x', due: c.due, state: c.state, made_on: DAYS[0]!, ended_on: isOpen(c.state) ? null : TODAY, moved: 0, handed_over: 0, last_on: TODAY, put_off: c.putOff, undated: c.undated ? 1 : 0 })))
          .execute();
        const owners = rows.filter((c) => c.owned).map((c) => ({ commitment_id: c.id, person_id: 'ines' }));
        if (owners.length) await db.insertInto('commitment_owners').values(owners).execute();
        const twins = predicates(TODAY);
        const pairs = [
          ['standing', (c: (typeof rows)[number]) => isOpen(c.state)],
          ['ended', (c: (typeof rows)[number]) => isEnded(c.state)],
          ['putOff', (c: (typeof rows)[number]) => isPutOff(c, TODAY)],
          ['backlog', (c: (typeof rows)[number]) => isOpen(c.state) && c.putOff === 'backlog'],
          ['open', (c: (typeof rows)[number]) => countsAsOpen(c, TODAY)],
          ['late', (c: (typeof rows)[number]) => isLate(c, TODAY)],
          ['due', (c: (typeof rows)[number]) => isDue(c, TODAY)],
          ['loose', (c: (typeof rows)[number]) => countsAsLoose(c, TODAY)],
        ] as const;
        for (const [word, holds] of pairs) {
          const counted = (await db.selectFrom('commitments as c').select('c.id').where(twins[word]).orderBy('c.id').execute()).map((c) => c.id);
          expect([word, counted]).toEqual([word, rows.filter(holds).map((c) => c.id)]);
        }
        expect(await ledgerCounts(new Workspace(db, asker, TODAY, 'p'), 'p', TODAY)).toMatchObject(figuresOf(rows, TODAY));
      }),
      { numRuns: 120 },
    );
  });
});
