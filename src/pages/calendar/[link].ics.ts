import type { APIRoute } from 'astro';
import { calendarOwner, ownRows } from '../../server/ledger/calendar.ts';
import { ledgerFile } from '../../server/ledger/files.ts';
import { today } from '../../server/store/clock.ts';
import { database } from '../../server/store/database.ts';

/** Somebody's own commitments as a calendar to subscribe to. The address is the key: who has it sees them, and nothing else. */
export const GET: APIRoute = async ({ params }) => {
  const db = await database();
  const person = await calendarOwner(db, params.link ?? '');
  if (!person) return new Response('There is no such calendar.', { status: 404 });
  return new Response(ledgerFile(await ownRows(db, person), 'ics', today()), { headers: { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'no-store' } });
};
