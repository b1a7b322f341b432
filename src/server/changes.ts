import { z } from 'zod';
import { IsoDateSchema } from '../core/ledger/events.ts';
import { type Asker, mustSee } from './asker.ts';
import type { Db } from './database.ts';
import { resolveOwners } from './finds.ts';
import { inTransaction, type LedgerRow, ledgerRows, recordEvent, undoEvent } from './ledger.ts';
import { Refusal } from './refusal.ts';

/** What a person can do with a commitment by hand. */
export const ChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('move'), due: IsoDateSchema.nullable(), reason: z.string().trim().max(500).optional() }),
  z.object({ do: z.literal('hand over'), owner: z.array(z.string().max(140)).max(12) }),
  z.object({ do: z.literal('reword'), text: z.string().trim().min(1, 'needs words').max(2000) }),
  z.object({ do: z.literal('done') }),
  z.object({ do: z.literal('drop') }),
  z.object({ do: z.literal('block'), reason: z.string().trim().max(500).optional() }),
  z.object({ do: z.literal('still on it') }),
  z.object({ do: z.literal('reopen') }),
]);
export type Change = z.infer<typeof ChangeSchema>;

/** Carries out a change and gives the line as it stands now, with the event to take back. */
export async function changeCommitment(asker: Asker, db: Db, id: number, change: Change, today: string): Promise<{ row: LedgerRow; event: number }> {
  const c = await db.selectFrom('commitments').select(['project_id', 'state', 'number', 'due']).where('id', '=', id).executeTakeFirst();
  mustSee(asker, c?.project_id, 'commitment');
  const ended = c!.state === 'done' || c!.state === 'dropped';
  if (ended && change.do !== 'reopen' && change.do !== 'reword') throw new Refusal('conflict', `C-${c!.number} is ${c!.state}.`, 'Reopen it first.');
  if (!ended && change.do === 'reopen') throw new Refusal('conflict', `C-${c!.number} is open already.`);
  const event = await inTransaction(db, async (tx) => {
    const base = { on: today, meeting: null, evidence: [] };
    switch (change.do) {
      case 'move':
        return recordEvent(asker, tx, id, { ...base, kind: 'moved', data: { due: change.due, ...(change.reason ? { reason: change.reason } : {}) } });
      case 'hand over':
        return recordEvent(asker, tx, id, { ...base, kind: 'handed over', data: { owner: await resolveOwners(asker, tx, c!.project_id, change.owner) } });
      case 'reword':
        return recordEvent(asker, tx, id, { ...base, kind: 'reworded', data: { text: change.text } });
      case 'block':
        return recordEvent(asker, tx, id, { ...base, kind: 'blocked', data: change.reason ? { reason: change.reason } : {} });
      case 'still on it':
        return recordEvent(asker, tx, id, { ...base, kind: 'restated', data: {} });
      case 'reopen':
        return recordEvent(asker, tx, id, { ...base, kind: 'reopened', data: {} });
      default:
        return recordEvent(asker, tx, id, { ...base, kind: change.do === 'drop' ? 'dropped' : 'done', data: {} });
    }
  });
  return { row: await rowOf(asker, db, c!.project_id, id), event };
}

export async function undoChange(asker: Asker, db: Db, event: number, today: string): Promise<{ row: LedgerRow }> {
  const found = await db.selectFrom('find_changes').innerJoin('finds', 'finds.id', 'find_changes.find_id').select('finds.meeting_id').where('find_changes.event_id', '=', event).where('finds.verdict', '=', 'taken').executeTakeFirst();
  if (found) throw new Refusal('conflict', 'This came from a find.', `Take it back at the find itself: /meetings/${found.meeting_id}/sift.`);
  const { commitment } = await undoEvent(asker, db, event, today);
  const c = await db.selectFrom('commitments').select('project_id').where('id', '=', commitment).executeTakeFirstOrThrow();
  return { row: await rowOf(asker, db, c.project_id, commitment) };
}

async function rowOf(asker: Asker, db: Db, project: string, id: number): Promise<LedgerRow> {
  return (await ledgerRows(asker, db, { project, state: 'all' })).find((r) => r.id === id)!;
}
