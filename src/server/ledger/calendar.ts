import { inSight } from '../people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../people/workspace.ts';
import type { Db } from '../store/database.ts';
import { signed, verified } from '../store/signing.ts';
import { type LedgerRow, ledgerRows } from './commitments.ts';

/** The path of somebody's own calendar. */
export async function calendarPath(ws: Workspace): Promise<string> {
  return `/calendar/${await signed(ws.db, 'calendar', ws.asker.person)}.ics`;
}

export const calendarOwner = (db: Db, link: string): Promise<string | null> => verified(db, 'calendar', link);

/** What somebody holds in every project they see. */
export async function ownRows(db: Db, person: string): Promise<LedgerRow[]> {
  const ws = await workspaceOf(db, person).catch(() => null);
  return ws ? ledgerRows(await inSight(ws), { owner: person, state: 'open', lives: false }) : [];
}
