import { sql } from 'kysely';
import { z } from 'zod';
import { carriedOver } from '../../core/ledger/due.ts';
import { EVENT_KINDS, type EventData, EventDataSchema, type EventKind, type LedgerEvent, type Place, standingEvents } from '../../core/ledger/events.ts';
import { type CommitmentState, ENDED, type Standing, standingOf } from '../../core/ledger/state.ts';
import type { Asker } from '../people/asker.ts';
import { whole } from '../people/out-of-sight.ts';
import { mustBeOfProject, samePeople } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee, visible } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { predicates } from './predicates.ts';

/** One line of the Ledger. */
export interface LedgerRow {
  id: number;
  ref: string;
  project: string;
  text: string;
  owner: { id: string; name: string }[];
  due: string | null;
  state: CommitmentState;
  madeOn: string;
  endedOn: string | null;
  moved: number;
  handedOver: number;
  carried: number;
  /** the last day anybody said or answered anything of it */
  lastOn: string;
  /** the last day a letter went out about it */
  writtenOn: string | null;
  /** it was asked for a confirmation that has not come */
  awaiting: boolean;
  /** out of sight until a day, or `backlog` */
  putOff: string | null;
  /** reference of what it waits for */
  waitsFor: string | null;
  /** somebody said that it needs no date */
  undated: boolean;
  series: string | null;
  /** the whole name of its series */
  seriesTitle?: string | null;
  from: string;
  meeting: number | null;
  /** the last thing that happened to it, so that two people's changes can be told apart; 0 where it was not asked for */
  last: number;
  /** what the small thread in the row is drawn from */
  life: { on: string; kind: EventKind }[];
}

export interface NewEvent {
  kind: EventKind;
  on: string;
  meeting: number | null;
  data: EventData;
  evidence: Place[];
}

const toEvent =
  (who: (id: string) => string) =>
  (r: { id: number; kind: string; on_day: string; at: string; by_person: string; meeting_id: number | null; data: string; evidence: string }): LedgerEvent => {
    const data = CODECS.eventData.read(r.data);
    return {
      id: r.id,
      kind: z.enum(EVENT_KINDS).parse(r.kind),
      on: r.on_day,
      at: r.at,
      by: who(r.by_person),
      meeting: r.meeting_id,
      data: data.owner ? { ...data, owner: [...new Set(data.owner.map(who))] } : data,
      evidence: CODECS.places.read(r.evidence),
    };
  };

async function eventsOf(db: Db, commitment: number): Promise<LedgerEvent[]> {
  const rows = await db.selectFrom('events').selectAll().where('commitment_id', '=', commitment).orderBy('id').execute();
  return rows.map(toEvent(await samePeople(db)));
}

/** Commitments made in a meeting and not taken back, as they stand now, in the order of their references. */
export async function madeIn(db: Db, meeting: number): Promise<{ id: number; ref: string; text: string; due: string | null; owner: string[] }[]> {
  const made = await db.selectFrom('commitments').select(['id', 'number', 'text', 'due']).where('meeting_id', '=', meeting).where('state', '!=', 'withdrawn').orderBy('number').execute();
  if (made.length === 0) return [];
  const owners = await db
    .selectFrom('commitment_owners')
    .selectAll()
    .where(
      'commitment_id',
      'in',
      made.map((c) => c.id),
    )
    .execute();
  return made.map((c) => ({ id: c.id, ref: `C-${c.number}`, text: c.text, due: c.due, owner: owners.filter((o) => o.commitment_id === c.id).map((o) => o.person_id) }));
}

/** Everything that happened to some commitments, by commitment, in the order it was written down. */
export async function eventsByCommitment(db: Db, commitments: readonly number[]): Promise<Map<number, LedgerEvent[]>> {
  const out = new Map<number, LedgerEvent[]>();
  const event = toEvent(await samePeople(db));
  for (let k = 0; k < commitments.length; k += 500) {
    const rows = await db
      .selectFrom('events')
      .selectAll()
      .where('commitment_id', 'in', commitments.slice(k, k + 500))
      .orderBy('id')
      .execute();
    for (const r of rows) out.set(r.commitment_id, [...(out.get(r.commitment_id) ?? []), event(r)]);
  }
  return out;
}

/** Writes an event and the state derived from it, in the transaction that is passed in. Gives the event's id. */
async function append(tx: Db, asker: Asker, commitment: number, event: NewEvent): Promise<number> {
  const data = EventDataSchema.parse(event.data);
  if (data.owner?.length) await mustBeOfProject(tx, (await tx.selectFrom('commitments').select('project_id').where('id', '=', commitment).executeTakeFirstOrThrow()).project_id, data.owner);
  const { id } = await tx
    .insertInto('events')
    .values({ commitment_id: commitment, kind: event.kind, on_day: event.on, at: new Date().toISOString(), by_person: asker.person, meeting_id: event.meeting, data: CODECS.eventData.write(data), evidence: CODECS.places.write(event.evidence) })
    .returning('id')
    .executeTakeFirstOrThrow();
  await store(tx, commitment, standingOf(await eventsOf(tx, commitment)));
  return id;
}

async function store(tx: Db, commitment: number, s: Standing): Promise<void> {
  await tx
    .updateTable('commitments')
    .set({ text: s.text, due: s.due, state: s.state, made_on: s.madeOn, ended_on: s.endedOn, moved: s.moved, handed_over: s.handedOver, last_on: s.lastOn, handed_on: s.handedOn, written_on: s.writtenOn, awaiting: s.awaiting ? 1 : 0, put_off: s.putOff, waits_for: s.waitsFor, undated: s.undated ? 1 : 0 })
    .where('id', '=', commitment)
    .execute();
  await tx.deleteFrom('commitment_owners').where('commitment_id', '=', commitment).execute();
  if (s.owner.length)
    await tx
      .insertInto('commitment_owners')
      .values([...new Set(s.owner)].map((person_id) => ({ commitment_id: commitment, person_id })))
      .execute();
}

/** Makes a commitment with the next number of its project. */
export async function makeCommitment(ws: Workspace, project: string, from: { meeting: number | null; series: string | null }, event: Omit<NewEvent, 'kind'>): Promise<{ id: number; ref: string; event: number }> {
  mustSee(ws, project, 'project');
  return ws.transaction(async (ws) => {
    const { last } = await whole(ws.db)
      .selectFrom('commitments')
      .select(({ fn }) => fn.max('number').as('last'))
      .where('project_id', '=', project)
      .executeTakeFirstOrThrow();
    const number = (last ?? 0) + 1;
    const text = event.data.text ?? '';
    if (!text.trim()) throw new Refusal('bad-input', 'A commitment needs words that say what is to be done.');
    const { id } = await ws.db.insertInto('commitments').values({ project_id: project, number, meeting_id: from.meeting, series_id: from.series, text, due: null, state: 'open', made_on: event.on, ended_on: null, moved: 0, handed_over: 0, last_on: event.on }).returning('id').executeTakeFirstOrThrow();
    const eventId = await append(ws.db, ws.asker, id, { ...event, kind: 'made' });
    return { id, ref: `C-${number}`, event: eventId };
  });
}

/** Adds to a commitment's history. */
export async function recordEvent(ws: Workspace, commitment: number, event: NewEvent): Promise<number> {
  const row = await ws.db.selectFrom('commitments').select('project_id').where('id', '=', commitment).executeTakeFirst();
  mustSee(ws, row?.project_id, 'commitment');
  return ws.transaction((ws) => append(ws.db, ws.asker, commitment, event));
}

/** Takes an event back by adding one that says so. An event that no longer counts cannot be taken back again. */
export async function undoEvent(ws: Workspace, event: number, on: string): Promise<{ commitment: number; ref: string }> {
  const row = await ws.db.selectFrom('events').innerJoin('commitments', 'commitments.id', 'events.commitment_id').select(['events.commitment_id as commitment', 'commitments.project_id as project', 'commitments.number as number']).where('events.id', '=', event).executeTakeFirst();
  mustSee(ws, row?.project, 'event');
  return ws.transaction(async (ws) => {
    const events = await eventsOf(ws.db, row!.commitment);
    if (!standingEvents(events).some((e) => e.id === event)) throw new Refusal('conflict', 'That was taken back already.');
    await append(ws.db, ws.asker, row!.commitment, { kind: 'undone', on, meeting: null, data: { undoes: event }, evidence: [] });
    return { commitment: row!.commitment, ref: `C-${row!.number}` };
  });
}

export interface LedgerFilter {
  project?: string | undefined;
  state?: 'open' | 'ended' | 'all' | undefined;
  owner?: string | undefined;
  series?: string | undefined;
  /** due on this day or before */
  dueBy?: string | undefined;
  /** ended on this day or later */
  endedFrom?: string | undefined;
  /** these and no others */
  ids?: readonly number[] | undefined;
  /** whether the small threads are wanted, which takes reading every event */
  lives?: boolean | undefined;
  limit?: number | undefined;
}

/** The commitments a filter asks for, before anything is chosen from them. */
function filtered(ws: Workspace, filter: LedgerFilter) {
  let query = ws.db
    .selectFrom('commitments as c')
    .where('c.project_id', 'in', filter.project ? [...visible(ws).filter((p) => p === filter.project), ''] : visible(ws))
    .where('c.state', '!=', 'withdrawn');
  if (filter.state === 'open' || filter.state === undefined) query = query.where('c.state', 'in', ['open', 'blocked']);
  if (filter.state === 'ended') query = query.where('c.state', 'in', ENDED);
  if (filter.ids) query = query.where(sql<boolean>`c.id IN (SELECT value FROM json_each(${JSON.stringify(filter.ids)}))`);
  if (filter.series) query = query.where('c.series_id', '=', filter.series);
  if (filter.dueBy) query = query.where('c.due', '<=', filter.dueBy);
  if (filter.endedFrom) query = query.where('c.ended_on', '>=', filter.endedFrom);
  if (filter.owner === 'nobody') query = query.where(({ not, exists, selectFrom }) => not(exists(selectFrom('commitment_owners as o').select('o.person_id').whereRef('o.commitment_id', '=', 'c.id'))));
  else if (filter.owner) query = query.where('c.id', 'in', ws.db.selectFrom('commitment_owners as o').select('o.commitment_id').where('o.person_id', '=', filter.owner));
  return query;
}

/** Lines of the Ledger, late and soon first. */
export async function ledgerRows(ws: Workspace, filter: LedgerFilter = {}): Promise<LedgerRow[]> {
  let query = filtered(ws, filter)
    .leftJoin('series as s', 's.id', 'c.series_id')
    .leftJoin('meetings as m', 'm.id', 'c.meeting_id')
    .leftJoin('commitments as w', 'w.id', 'c.waits_for')
    .select([
      'c.id',
      'c.number',
      'c.project_id',
      'c.text',
      'c.due',
      'c.state',
      'c.made_on',
      'c.ended_on',
      'c.moved',
      'c.handed_over',
      'c.last_on',
      'c.written_on',
      'c.awaiting',
      'c.put_off',
      'c.undated',
      'w.number as waits_for',
      'c.series_id',
      'c.meeting_id',
      's.short as short',
      's.title as series_title',
      'm.title as meeting_title',
    ])
    .orderBy(sql`c.due IS NULL`)
    .orderBy('c.due')
    .orderBy('c.number');
  if (filter.limit) query = query.limit(filter.limit);
  const rows = await query.execute();
  if (rows.length === 0) return [];
  const ids = JSON.stringify(rows.map((r) => r.id));
  const these = sql<boolean>`commitment_id IN (SELECT value FROM json_each(${ids}))`;
  const owners = await ws.db.selectFrom('commitment_owners as o').innerJoin('people as p', 'p.id', 'o.person_id').select(['o.commitment_id', 'p.id', 'p.name']).where(these).orderBy('p.name').execute();
  const lives = filter.lives === false ? null : await livesOf(ws.db, ids);
  const sittings = await ws.db.selectFrom('meetings').select(['series_id', 'date']).where('project_id', 'in', visible(ws)).where('series_id', 'is not', null).where('sifted_at', 'is not', null).orderBy('date').execute();
  const ownersBy = group(owners, (o) => o.commitment_id);
  const sittingsBy = new Map([...group(sittings, (s) => s.series_id ?? '')].map(([k, list]) => [k, list.map((s) => s.date)]));
  return rows.map((r) => ({
    id: r.id,
    ref: `C-${r.number}`,
    project: r.project_id,
    text: r.text,
    owner: (ownersBy.get(r.id) ?? []).map((o) => ({ id: o.id, name: o.name })),
    due: r.due,
    state: r.state as CommitmentState,
    madeOn: r.made_on,
    endedOn: r.ended_on,
    moved: r.moved,
    handedOver: r.handed_over,
    lastOn: r.last_on,
    writtenOn: r.written_on,
    awaiting: r.awaiting === 1,
    putOff: r.put_off,
    waitsFor: r.waits_for === null ? null : `C-${r.waits_for}`,
    undated: r.undated === 1,
    series: r.series_id,
    seriesTitle: r.series_title,
    from: r.short ?? r.meeting_title ?? 'by hand',
    meeting: r.meeting_id,
    carried: carriedOver(r.made_on, r.ended_on, sittingsBy.get(r.series_id ?? '') ?? []),
    last: lives?.get(r.id)?.last ?? 0,
    life: lives?.get(r.id)?.life ?? [],
  }));
}

/** What the small threads of some commitments are drawn from. */
async function livesOf(db: Db, ids: string): Promise<Map<number, { last: number; life: LedgerRow['life'] }>> {
  const events = await db.selectFrom('events').select(['id', 'commitment_id', 'kind', 'on_day', 'data']).where(sql<boolean>`commitment_id IN (SELECT value FROM json_each(${ids}))`).orderBy('id').execute();
  return new Map(
    [...group(events, (e) => e.commitment_id)].map(([id, own]) => {
      const back = new Set(own.filter((e) => e.kind === 'undone').map((e) => CODECS.eventData.read(e.data).undoes));
      return [id, { last: own.at(-1)!.id, life: own.filter((e) => e.kind !== 'undone' && !back.has(e.id)).map((e) => ({ on: e.on_day, kind: e.kind as EventKind })) }];
    }),
  );
}

/** The small threads of some lines, asked for when they come into sight. */
export async function ledgerLives(ws: Workspace, ids: readonly number[]): Promise<{ id: number; life: LedgerRow['life']; last: number }[]> {
  const seen = await filtered(ws, { state: 'all', ids }).select('c.id').execute();
  const lives = await livesOf(ws.db, JSON.stringify(seen.map((s) => s.id)));
  return [...lives].map(([id, own]) => ({ id, ...own }));
}

export interface LedgerCounts {
  open: number;
  late: number;
  loose: number;
  done: number;
  dropped: number;
  merged: number;
  doneThisWeek: number;
  putOff: number;
  backlog: number;
  all: number;
}

/** Exact counts of a project's Ledger, however long it is. */
export async function ledgerCounts(ws: Workspace, project: string, weekFrom: string): Promise<LedgerCounts> {
  mustSee(ws, project, 'project');
  const { standing, putOff, backlog, open, late, loose } = predicates(ws.today);
  const sum = (what: ReturnType<typeof sql>) => sql<number>`COALESCE(SUM(CASE WHEN ${what} THEN 1 ELSE 0 END), 0)`;
  return ws.db
    .selectFrom('commitments as c')
    .select([
      sum(open).as('open'),
      sum(late).as('late'),
      sum(loose).as('loose'),
      sum(sql`c.state = 'done'`).as('done'),
      sum(sql`c.state = 'dropped'`).as('dropped'),
      sum(sql`c.state = 'merged'`).as('merged'),
      sum(sql`c.state = 'done' AND c.ended_on >= ${weekFrom}`).as('doneThisWeek'),
      sum(sql`${standing} AND ${putOff} AND NOT ${backlog}`).as('putOff'),
      sum(backlog).as('backlog'),
      sql<number>`COUNT(*)`.as('all'),
    ])
    .where('c.project_id', '=', project)
    .where('c.state', '!=', 'withdrawn')
    .executeTakeFirstOrThrow();
}

/** How many commitments of a project count as open that were made before a day. */
export async function openBefore(ws: Workspace, project: string, day: string): Promise<number> {
  const { n } = await filtered(ws, { project }).where('c.made_on', '<', day).where(predicates(ws.today).open).select(sql<number>`COUNT(*)`.as('n')).executeTakeFirstOrThrow();
  return n;
}

function group<T, K>(rows: readonly T[], key: (row: T) => K): Map<K, T[]> {
  const out = new Map<K, T[]>();
  for (const r of rows) {
    const k = key(r);
    const list = out.get(k);
    if (list) list.push(r);
    else out.set(k, [r]);
  }
  return out;
}
