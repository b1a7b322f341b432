import { z } from 'zod';
import { countsAsLoose } from '../../core/ledger/predicates.ts';
import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { SUPERSEDED } from '../store/schema.ts';

/** What stands between a meeting and its being closed. */
export interface Closing {
  /** finds nobody has settled */
  left: number;
  /** its commitments that lack an owner or a date, but for those put off */
  loose: LedgerRow[];
  closedAt: string | null;
}

export async function closingOf(ws: Workspace, meeting: number): Promise<Closing> {
  const m = await ws.db.selectFrom('meetings').select(['project_id', 'closed_at']).where('id', '=', meeting).executeTakeFirst();
  mustSee(ws, m?.project_id, 'meeting');
  const { n } = await ws.db
    .selectFrom('finds')
    .select(({ fn }) => fn.countAll<number>().as('n'))
    .where('meeting_id', '=', meeting)
    .where('verdict', '=', 'open')
    .where('reader', '!=', SUPERSEDED)
    .where('twin_of', 'is', null)
    .executeTakeFirstOrThrow();
  const made = await ws.db.selectFrom('commitments').select('id').where('meeting_id', '=', meeting).execute();
  const rows = made.length ? await ledgerRows(ws, { ids: made.map((c) => c.id), lives: true }) : [];
  return { left: n, loose: rows.filter((r) => countsAsLoose(r, ws.today)), closedAt: m!.closed_at };
}

export const CloseSchema = z.object({ do: z.enum(['close', 'open again']) });

/** Closes a meeting when nothing of it is left to settle, or opens it again. */
export async function closeMeeting(ws: Workspace, meeting: number, change: z.infer<typeof CloseSchema>): Promise<Closing> {
  const now = await closingOf(ws, meeting);
  if (change.do === 'close') {
    if (now.left > 0) throw new Refusal('conflict', `${now.left} ${now.left === 1 ? 'find is' : 'finds are'} left to settle.`, 'Take or pass them first.');
    if (now.loose.length > 0) throw new Refusal('conflict', `${now.loose.map((r) => r.ref).join(', ')} ${now.loose.length === 1 ? 'lacks' : 'lack'} an owner or a date.`, 'Give them one, or say that they need no date.');
  }
  await ws.db
    .updateTable('meetings')
    .set({ closed_at: change.do === 'close' ? new Date().toISOString() : null })
    .where('id', '=', meeting)
    .execute();
  return closingOf(ws, meeting);
}
