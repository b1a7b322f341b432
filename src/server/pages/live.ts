import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import { type AgendaShown, agendaOf } from '../meetings/agenda.ts';
import { type Room, roomOf, roomPeople } from '../meetings/live/room.ts';
import type { Choice } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';

export interface LiveShown {
  room: Room;
  agenda: AgendaShown;
  /** commitments that are walked through, the most doubtful first */
  walk: LedgerRow[];
  people: Choice[];
  me: string;
  today: string;
  next: string | null;
  mayChange: boolean;
}

/** A meeting while it is held. */
export async function livePage(ws: Workspace, id: number): Promise<LiveShown> {
  const room = await roomOf(ws, id);
  const agenda = await agendaOf(ws, id);
  // what was settled in it already is shown with what came of it
  const ids = [...new Set([...agenda.review.flatMap((g) => g.rows.map((r) => r.id)), ...Object.keys(room.walked).map(Number)])];
  const rows = new Map((ids.length ? await ledgerRows(ws, { ids, state: 'all', lives: true }) : []).map((r) => [r.id, r]));
  const { next } = await ws.db.selectFrom('meetings').select('next').where('id', '=', id).executeTakeFirstOrThrow();
  return { room, agenda, walk: ids.flatMap((i) => rows.get(i) ?? []), people: await roomPeople(ws, room.meeting.project), me: ws.asker.person, today: ws.today, next, mayChange: ws.asker.roles.get(room.meeting.project) !== 'guest' && !ws.asker.archived.has(room.meeting.project) };
}
