import { type Asker, askerFor } from '../people/asker.ts';
import type { Db } from '../store/database.ts';
import { signed, verified } from '../store/signing.ts';
import { type LedgerRow, ledgerRows } from './commitments.ts';

/** The path of somebody's own calendar. */
export async function calendarPath(db: Db, asker: Asker): Promise<string> {
  return `/calendar/${await signed(db, 'calendar', asker.person)}.ics`;
}

export const calendarOwner = (db: Db, link: string): Promise<string | null> => verified(db, 'calendar', link);

/** What somebody holds in every project they see. */
export async function ownRows(db: Db, person: string): Promise<LedgerRow[]> {
  const asker = await askerFor(db, person).catch(() => null);
  return asker ? ledgerRows(asker, db, { owner: person, state: 'open', lives: false }) : [];
}
