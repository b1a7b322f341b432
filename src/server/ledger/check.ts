import { standingOf } from '../../core/ledger/state.ts';
import type { Db } from '../store/database.ts';
import { eventsByCommitment } from './commitments.ts';

/** Where what is stored of a commitment is not what its events say. */
export interface Difference {
  ref: string;
  project: string;
  /** what differs, as `due: stored 2026-03-06, by its events 2026-03-13` */
  what: string[];
}

/** Commitments looked at together. */
const AT_ONCE = 500;

/**
 * Replays every commitment's events and compares the outcome with what is stored beside them for queries.
 * @returns how many were looked at, and those that differ; none ever should
 */
export async function checkLedger(db: Db): Promise<{ checked: number; differences: Difference[] }> {
  const all = await db.selectFrom('commitments').selectAll().orderBy('id').execute();
  const owners = new Map<number, string[]>();
  for (const o of await db.selectFrom('commitment_owners').selectAll().execute()) owners.set(o.commitment_id, [...(owners.get(o.commitment_id) ?? []), o.person_id]);
  const differences: Difference[] = [];
  for (let k = 0; k < all.length; k += AT_ONCE) {
    const some = all.slice(k, k + AT_ONCE);
    const events = await eventsByCommitment(
      db,
      some.map((c) => c.id),
    );
    for (const c of some) {
      const own = events.get(c.id);
      const what: string[] = [];
      if (!own) what.push('it has no event at all');
      else {
        const s = standingOf(own);
        const pairs: [string, unknown, unknown][] = [
          ['text', c.text, s.text],
          ['due', c.due, s.due],
          ['state', c.state, s.state],
          ['made on', c.made_on, s.madeOn],
          ['ended on', c.ended_on, s.endedOn],
          ['moved', c.moved, s.moved],
          ['handed over', c.handed_over, s.handedOver],
          ['last on', c.last_on, s.lastOn],
          ['handed on', c.handed_on, s.handedOn],
          ['written on', c.written_on, s.writtenOn],
          ['awaiting', c.awaiting === 1, s.awaiting],
          ['put off', c.put_off, s.putOff],
          ['waits for', c.waits_for, s.waitsFor],
          ['needs no date', c.undated === 1, s.undated],
          ['owner', (owners.get(c.id) ?? []).sort().join(', '), [...new Set(s.owner)].sort().join(', ')],
        ];
        for (const [name, stored, derived] of pairs) if (stored !== derived) what.push(`${name}: stored ${String(stored)}, by its events ${String(derived)}`);
      }
      if (what.length) differences.push({ ref: `C-${c.number}`, project: c.project_id, what });
    }
  }
  return { checked: all.length, differences };
}
