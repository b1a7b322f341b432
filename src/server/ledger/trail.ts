import { type LedgerEvent, type Place, standingEvents } from '../../core/ledger/events.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee, visible } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { eventsByCommitment, type LedgerRow, ledgerRows } from './commitments.ts';

export interface TrailEvent extends LedgerEvent {
  /** whose doing it was: who answered, where it comes from an answer */
  byName: string;
  /** who took it from the answer */
  takenBy: string | null;
  meetingTitle: string | null;
  meetingNumber: number | null;
  undone: boolean;
  /** reference of the commitment it happened to, where that was merged into this one */
  of: string | null;
  /** the words of each place of evidence, with who says them and when in the record */
  said: { record: number; segment: number; text: string; voice: string | null; start: number | null; role: Place['role']; from: number; to: number }[];
}

export interface Trail {
  row: LedgerRow;
  events: TrailEvent[];
  sittings: { id: number; date: string; number: number | null; held: boolean }[];
}

/** One commitment's whole history. `words` gives the segments of a kept record. */
export async function trailOf(ws: Workspace, project: string, number: number, words: (record: number) => Promise<readonly { text: string; voice: string | null; start: number | null }[]>): Promise<Trail> {
  mustSee(ws, project, 'commitment');
  const found = await ws.db.selectFrom('commitments').select(['id', 'series_id']).where('project_id', '=', project).where('number', '=', number).executeTakeFirst();
  const row = found ? (await ledgerRows(ws, { project, state: 'all', ids: [found.id] }))[0] : undefined;
  if (!found || !row) throw new Refusal('not-found', `There is no C-${number} in this project.`, 'It may have been taken back; its meeting shows it.');
  const [events, people, meetings] = await Promise.all([
    eventsByCommitment(ws.db, [found.id]).then((all) => all.get(found.id) ?? []),
    ws.db.selectFrom('people').select(['id', 'name']).execute(),
    ws.db.selectFrom('meetings').select(['id', 'title', 'number', 'date', 'series_id', 'sifted_at']).where('project_id', '=', project).where('cancelled_at', 'is', null).orderBy('date').execute(),
  ]);
  const names = new Map(people.map((p) => [p.id, p.name]));
  const titles = new Map(meetings.map((m) => [m.id, m]));
  const merged = await mergedInto(ws, events);
  const stands = new Set([events, ...merged.map((m) => m.events)].flatMap((own) => standingEvents(own).map((e) => e.id)));
  const answered = await repliers(ws.db, events);
  const trail: TrailEvent[] = [];
  for (const { e, of } of inOrder(events, merged)) {
    if (e.kind === 'undone') continue;
    const said: TrailEvent['said'] = [];
    for (const p of e.evidence) {
      const s = (await words(p.record))[p.segment];
      if (s) said.push({ record: p.record, segment: p.segment, text: s.text.slice(p.from, p.to) || s.text, voice: s.voice, start: s.start, role: p.role, from: p.from, to: p.to });
    }
    const m = e.meeting === null ? undefined : titles.get(e.meeting);
    const taker = names.get(e.by) ?? e.by;
    const replier = e.data.reply === undefined ? undefined : answered.get(e.data.reply);
    trail.push({ ...e, byName: replier ?? taker, takenBy: replier === undefined ? null : taker, meetingTitle: m?.title ?? null, meetingNumber: m?.number ?? null, undone: !stands.has(e.id), of, said });
  }
  return { row, events: trail, sittings: meetings.filter((m) => m.series_id !== null && m.series_id === found.series_id).map((m) => ({ id: m.id, date: m.date, number: m.number, held: m.sifted_at !== null })) };
}

/** Who wrote the answers that events come from: by name, or by the address they wrote from. */
async function repliers(db: Db, events: readonly LedgerEvent[]): Promise<Map<number, string>> {
  const ids = events.flatMap((e) => (e.data.reply === undefined ? [] : [e.data.reply]));
  if (ids.length === 0) return new Map();
  const rows = await db.selectFrom('replies as r').leftJoin('people as p', 'p.id', 'r.person_id').select(['r.id', 'p.name', 'r.from_address']).where('r.id', 'in', ids).execute();
  return new Map(rows.map((r) => [r.id, r.name ?? r.from_address]));
}

/** The histories of the commitments that were merged into one, by its events; of those the asker may see. */
async function mergedInto(ws: Workspace, events: readonly LedgerEvent[]): Promise<{ ref: string; events: LedgerEvent[] }[]> {
  const took = standingEvents(events).flatMap((e) => (e.kind === 'merged' && e.data.took !== undefined ? [e.data.took] : []));
  if (took.length === 0) return [];
  const numbers = await ws.db.selectFrom('commitments').select(['id', 'number']).where('id', 'in', took).where('project_id', 'in', visible(ws)).execute();
  const own = await eventsByCommitment(ws.db, took);
  return numbers.map((n) => ({ ref: `C-${n.number}`, events: own.get(n.id) ?? [] }));
}

function inOrder(own: readonly LedgerEvent[], merged: readonly { ref: string; events: readonly LedgerEvent[] }[]): { e: LedgerEvent; of: string | null }[] {
  const all = [...own.map((e) => ({ e, of: null as string | null })), ...merged.flatMap((m) => m.events.filter((e) => e.kind !== 'merged').map((e) => ({ e, of: m.ref as string | null })))];
  return merged.length === 0 ? all : all.sort((a, b) => (a.e.on < b.e.on ? -1 : a.e.on > b.e.on ? 1 : a.e.id - b.e.id));
}
