import { inSight } from '../people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../people/workspace.ts';
import type { Db } from '../store/database.ts';
import { signed, verified } from '../store/signing.ts';
import { type LedgerRow, ledgerRows } from './commitments.ts';

/** What an address is signed for; another one each time somebody's links are made anew. */
async function purposeFor(db: Db, person: string): Promise<string> {
  const row = await db.selectFrom('people').select('links').where('id', '=', person).executeTakeFirst();
  return row?.links ? `calendar ${row.links}` : 'calendar';
}

/** The path of somebody's own calendar. */
export async function calendarPath(ws: Workspace): Promise<string> {
  return `/calendar/${await signed(ws.db, await purposeFor(ws.db, ws.asker.person), ws.asker.person)}.ics`;
}

/** Whose calendar an address leads to; null for one that was changed, made up, or made anew since. */
export const calendarOwner = async (db: Db, link: string): Promise<string | null> => verified(db, await purposeFor(db, link.slice(0, link.lastIndexOf('.'))), link);

/** What somebody holds in every project they see. */
export async function ownRows(db: Db, person: string): Promise<LedgerRow[]> {
  const ws = await workspaceOf(db, person).catch(() => null);
  return ws ? ledgerRows(await inSight(ws), { owner: person, state: 'open', lives: false }) : [];
}
