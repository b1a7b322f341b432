import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { loadDemo } from '../../demo/load.ts';
import { runCheck } from '../../src/cli/check.ts';
import { type Change, changeCommitment, undoChange } from '../../src/server/ledger/changes.ts';
import { checkLedger } from '../../src/server/ledger/check.ts';
import type { Workspace } from '../../src/server/people/workspace.ts';
import { openDatabase } from '../../src/server/store/database.ts';
import { demoWorld, TODAY } from './world.ts';

let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
});
afterEach(() => ws.db.destroy());

describe('the stored state of every commitment', () => {
  it('is what its events say, over the whole demo', async () => {
    const { checked, differences } = await checkLedger(ws.db);
    expect(checked).toBeGreaterThan(20);
    expect(differences).toEqual([]);
  });
  it('is told where it is not, with both', async () => {
    await ws.db.updateTable('commitments').set({ due: '2099-01-01', moved: 7 }).where('number', '=', 2).where('project_id', '=', 'quiet-crossing').execute();
    const { differences } = await checkLedger(ws.db);
    expect(differences).toHaveLength(1);
    expect(differences[0]).toMatchObject({ ref: 'C-2', project: 'quiet-crossing' });
    expect(differences[0]!.what.join()).toContain('due: stored 2099-01-01, by its events');
    expect(differences[0]!.what.join()).toContain('moved: stored 7');
  });
  it('stays so whatever is done and undone, in any order', async () => {
    const ids = (await ws.db.selectFrom('commitments').select('id').where('project_id', '=', 'quiet-crossing').limit(4).execute()).map((c) => c.id);
    const change = fc.constantFrom<Change>({ do: 'move', due: '2026-04-01' }, { do: 'move', due: null }, { do: 'hand over', owner: ['ruth'] }, { do: 'hand over', owner: [] }, { do: 'reword', text: 'Put otherwise' }, { do: 'done' }, { do: 'drop' }, { do: 'block' }, { do: 'still on it' }, { do: 'reopen' });
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(fc.constantFrom(...ids), change, fc.boolean()), { maxLength: 12 }), async (steps) => {
        for (const [id, what, back] of steps) {
          // what cannot be done now is refused and must leave no trace
          const done = await changeCommitment(ws, id, what).catch(() => null);
          if (done && back) await undoChange(ws, done.event);
        }
        expect((await checkLedger(ws.db)).differences).toEqual([]);
      }),
      { numRuns: 25 },
    );
  });
});

describe('ottik check', () => {
  it('goes over a database file and tells by its exit code', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'ottik-check-'));
    const file = join(folder, 'ottik.db');
    const own = await openDatabase(file);
    await loadDemo(own, TODAY, null);
    const out: string[] = [];
    const spy = vi.spyOn(process.stdout, 'write').mockImplementation((s) => out.push(String(s)) > 0);
    expect(await runCheck([file])).toBe(0);
    await own.updateTable('commitments').set({ state: 'dropped' }).where('number', '=', 3).execute();
    expect(await runCheck([file])).toBe(1);
    spy.mockRestore();
    expect(out.join('')).toContain('all stand as their events say');
    expect(out.join('')).toContain('state: stored dropped');
    await expect(runCheck([join(folder, 'none.db')])).rejects.toThrow('no database at');
    await own.destroy();
    rmSync(folder, { recursive: true, force: true });
  });
  it('says of a damaged, an emptied and a foreign file what it is', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'ottik-check-'));
    const file = (name: string) => join(folder, name);
    const own = await openDatabase(file('whole.db'));
    await loadDemo(own, TODAY, null);
    await own.destroy();
    const whole = readFileSync(file('whole.db'));
    // a hole of some pages in the middle, as a disk leaves it
    writeFileSync(file('damaged.db'), Buffer.concat([whole.subarray(0, 40_960), Buffer.alloc(whole.length - 81_920, 0x5a), whole.subarray(whole.length - 40_960)]));
    writeFileSync(file('emptied.db'), '');
    writeFileSync(file('foreign.db'), 'minutes of the quay '.repeat(500));
    await expect(runCheck([file('damaged.db')])).rejects.toThrow('is broken. Stop Ottik');
    await expect(runCheck([file('emptied.db')])).rejects.toThrow('is empty, and it was not when it was made');
    await expect(runCheck([file('foreign.db')])).rejects.toThrow('is broken');
    rmSync(folder, { recursive: true, force: true });
  });
});
