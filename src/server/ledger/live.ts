import type { Workspace } from '../people/workspace.ts';
import type { Db } from '../store/database.ts';
import { type LedgerRow, ledgerRows } from './commitments.ts';

/** The number of the last thing that happened to any commitment: it grows with every change. */
export async function ledgerStamp(db: Db): Promise<string> {
  const { last } = await db
    .selectFrom('events')
    .select(({ fn }) => fn.max('id').as('last'))
    .executeTakeFirstOrThrow();
  return String(last ?? 0);
}

/** What happened to the lines of a Ledger after a stamp: the lines as they stand now, and those that are taken back. */
export async function ledgerSince(ws: Workspace, project: string | null, since: number): Promise<{ rows: LedgerRow[]; gone: number[]; stamp: number }> {
  const stamp = Number(await ledgerStamp(ws.db));
  const changed = await ws.db.selectFrom('events').select('commitment_id').distinct().where('id', '>', since).execute();
  const ids = changed.map((c) => c.commitment_id);
  const rows = ids.length ? await ledgerRows(ws, { ...(project === null ? {} : { project }), state: 'all', ids }) : [];
  return { rows, gone: ids.filter((id) => !rows.some((r) => r.id === id)), stamp };
}
