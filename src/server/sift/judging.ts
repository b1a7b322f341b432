import { z } from 'zod';
import { type EventKind, IsoDateSchema, type Place } from '../../core/ledger/events.ts';
import { isOpen } from '../../core/ledger/state.ts';
import type { Find } from '../../core/sift/find.ts';
import { makeCommitment, recordEvent, undoEvent } from '../ledger/commitments.ts';
import { whole } from '../people/out-of-sight.ts';
import { resolveOwners } from '../people/owners.ts';
import { forgetUnused } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { DOUBTED, SUPERSEDED } from '../store/schema.ts';
import { recordWords } from '../store/segments.ts';
import { type KeptFind, keptFind, lastChange, stamp } from './finds.ts';

/** A find that a person takes, passes or reshapes stands, whatever a later reader thought of it. */
export async function bringBack(tx: Db, id: number): Promise<void> {
  await tx.updateTable('finds').set({ reader: 'quick' }).where('id', '=', id).where('reader', 'in', [SUPERSEDED, DOUBTED]).execute();
}

/** The last thing that had been done with a find when it was looked at; without it nothing is compared. */
export const SeenSchema = z.number().int().min(0).optional();

/** Refuses a change of a find that somebody else has changed since it was looked at. */
export async function mustBeAsSeen(tx: Db, id: number, seen: number | undefined): Promise<void> {
  if (seen === undefined) return;
  const last = await tx.selectFrom('find_changes as c').leftJoin('people', 'people.id', 'c.by_person').select(['c.id', 'c.verdict', 'people.name']).where('c.find_id', '=', id).orderBy('c.id', 'desc').limit(1).executeTakeFirst();
  if ((last?.id ?? 0) === seen) return;
  const what = last?.verdict === 'taken' || last?.verdict === 'passed' ? last.verdict : last?.verdict === 'open' ? 'brought back' : 'changed';
  throw new Refusal('conflict', `${last?.name ?? 'Somebody'} has ${what} this meanwhile.`, 'It is shown now as it stands; look once more.');
}

/** What the person changed before taking a find. */
export const TakeSchema = z.object({
  text: z.string().trim().min(1, 'needs words').max(2000).optional(),
  /** ids of people, or new names with `new:` before them */
  owner: z.array(z.string().max(140)).max(12).optional(),
  due: IsoDateSchema.nullable().optional(),
  kind: z.enum(['done', 'moved', 'reassigned', 'dropped', 'blocked', 'progress']).optional(),
  seen: SeenSchema,
});
export type Take = z.infer<typeof TakeSchema>;

const EVENT_OF = { done: 'done', moved: 'moved', reassigned: 'handed over', dropped: 'dropped', blocked: 'blocked', progress: 'restated' } as const satisfies Record<string, EventKind>;

export interface FindRow {
  id: number;
  meeting_id: number;
  record_id: number;
  data: string;
  verdict: string;
  project: string;
  series: string | null;
  date: string;
}

export async function findRow(ws: Workspace, id: number): Promise<FindRow> {
  const row = await ws.db
    .selectFrom('finds')
    .innerJoin('meetings', 'meetings.id', 'finds.meeting_id')
    .select(['finds.id', 'finds.meeting_id', 'finds.record_id', 'finds.data', 'finds.verdict', 'meetings.project_id as project', 'meetings.series_id as series', 'meetings.date as date'])
    .where('finds.id', '=', id)
    .executeTakeFirst();
  mustSee(ws, row?.project, 'find');
  return row as FindRow;
}

/** Takes a find: it becomes a commitment, a decision, a question, or an event of a commitment that was open. */
export async function takeFind(ws: Workspace, id: number, take: Take): Promise<KeptFind> {
  return ws.transaction(async (ws) => {
    const row = await findRow(ws, id);
    await mustBeAsSeen(ws.db, id, take.seen);
    if (row.verdict === 'taken') throw new Refusal('conflict', 'This find was taken already.', 'Undo it first to change it.');
    await bringBack(ws.db, id);
    const find = CODECS.find.read(row.data);
    const evidence: Place[] = [...find.evidence.map((e) => ({ record: row.record_id, ...e })), ...(await placesOfTwins(ws.db, id))];
    const owner = await resolveOwners(ws, row.project, take.owner ?? find.owner);
    const due = take.due !== undefined ? take.due : find.due;
    const text = take.text ?? find.text;
    let event: number | null = null;
    let statement: number | null = null;
    if (find.update) {
      event = await takeUpdate(ws, row, find, { ...take, owner, due }, evidence);
    } else if (find.kind === 'action') {
      const made = await makeCommitment(ws, row.project, { meeting: row.meeting_id, series: row.series }, { on: row.date, meeting: row.meeting_id, data: { text, owner, due, ...(find.duePhrase ? { phrase: find.duePhrase } : {}) }, evidence });
      event = made.event;
    } else {
      statement = await state(ws, row, find.kind as 'decision' | 'question', text, evidence);
    }
    await ws.db
      .updateTable('finds')
      .set({ verdict: 'taken', data: CODECS.find.write({ ...find, text, owner, due, ...(find.update ? { update: { ...find.update, kind: take.kind ?? find.update.kind, due: (take.kind ?? find.update.kind) === 'moved' ? due : null } } : {}) }) })
      .where('id', '=', id)
      .execute();
    await ws.db.insertInto('find_changes').values({ find_id: id, verdict: 'taken', at: new Date().toISOString(), by_person: ws.asker.person, event_id: event, statement_id: statement, before: row.data }).execute();
    await stamp(ws.db, row.meeting_id);
    return keptFind(ws, row.meeting_id, id);
  });
}

/** Places in the other records of the meeting that say the same. */
async function placesOfTwins(tx: Db, id: number): Promise<Place[]> {
  const twins = await tx.selectFrom('finds').select(['record_id', 'data']).where('twin_of', '=', id).where('reader', '!=', SUPERSEDED).execute();
  return twins.flatMap((t) => CODECS.find.read(t.data).evidence.map((e) => ({ record: t.record_id, ...e, role: e.role === 'states' ? ('repeats' as const) : e.role })));
}

async function takeUpdate(ws: Workspace, row: FindRow, find: Find, take: { kind?: string | undefined; owner: string[]; due: string | null }, evidence: Place[]): Promise<number> {
  const commitment = Number(find.update!.open);
  const now = await ws.db.selectFrom('commitments').select(['state', 'number', 'due']).where('id', '=', commitment).executeTakeFirstOrThrow();
  if (!isOpen(now.state as 'open')) throw new Refusal('conflict', `C-${now.number} is ${now.state} already.`, 'Pass this find, or reopen the commitment from its trail.');
  const kind = (take.kind ?? find.update!.kind) as keyof typeof EVENT_OF;
  if (kind === 'moved' && !take.due) throw new Refusal('bad-input', 'A commitment is moved to a date, and none is given.', 'Type the new date, or take it as “still on it”.');
  const data = kind === 'moved' ? { due: take.due, ...(find.update!.owner ? { owner: take.owner } : {}), ...(find.duePhrase ? { phrase: find.duePhrase } : {}) } : kind === 'reassigned' ? { owner: take.owner, ...(take.due && take.due !== now.due ? { due: take.due } : {}) } : {};
  return recordEvent(ws, commitment, { kind: EVENT_OF[kind], on: row.date, meeting: row.meeting_id, data, evidence });
}

async function state(ws: Workspace, row: FindRow, kind: 'decision' | 'question', text: string, evidence: Place[]): Promise<number> {
  const { n } = await whole(ws.db)
    .selectFrom('statements')
    .select(({ fn }) => fn.max('number').as('n'))
    .where('project_id', '=', row.project)
    .where('kind', '=', kind)
    .executeTakeFirstOrThrow();
  const at = new Date().toISOString();
  const { id } = await ws.db
    .insertInto('statements')
    .values({ project_id: row.project, kind, number: (n ?? 0) + 1, text, meeting_id: row.meeting_id, evidence: CODECS.places.write(evidence), at, by_person: ws.asker.person })
    .returning('id')
    .executeTakeFirstOrThrow();
  await ws.db.insertInto('statement_events').values({ statement_id: id, kind: 'taken', at, by_person: ws.asker.person }).execute();
  return id;
}

export async function passFind(ws: Workspace, id: number, seen?: number): Promise<KeptFind> {
  return ws.transaction(async (ws) => {
    const row = await findRow(ws, id);
    await mustBeAsSeen(ws.db, id, seen);
    if (row.verdict === 'taken') throw new Refusal('conflict', 'This find was taken already.', 'Undo it first.');
    await bringBack(ws.db, id);
    await ws.db.updateTable('finds').set({ verdict: 'passed' }).where('id', '=', id).execute();
    await ws.db.insertInto('find_changes').values({ find_id: id, verdict: 'passed', at: new Date().toISOString(), by_person: ws.asker.person, event_id: null, statement_id: null }).execute();
    await stamp(ws.db, row.meeting_id);
    return keptFind(ws, row.meeting_id, id);
  });
}

/** Takes back a take or a pass; what had become of the find is withdrawn with it. */
export async function reopenFind(ws: Workspace, id: number): Promise<KeptFind> {
  return ws.transaction(async (ws) => {
    const row = await findRow(ws, id);
    if (row.verdict === 'open') throw new Refusal('conflict', 'There is nothing to take back on this find.');
    const change = await lastChange(ws.db, id);
    if (change?.event_id) await undoEvent(ws, change.event_id, row.date);
    if (change?.statement_id) await ws.db.insertInto('statement_events').values({ statement_id: change.statement_id, kind: 'withdrawn', at: new Date().toISOString(), by_person: ws.asker.person }).execute();
    const find = CODECS.find.read(row.data);
    // a person who was made with the take goes with it; taken again, they are made again
    const gone = change?.event_id ? await forgetUnused(ws.db, row.project, find.owner, change.event_id) : new Map<string, string>();
    const data = gone.size ? { data: CODECS.find.write({ ...find, owner: find.owner.map((o) => (gone.has(o) ? `new:${gone.get(o)}` : o)) }) } : {};
    await ws.db
      .updateTable('finds')
      .set({ verdict: 'open', ...data })
      .where('id', '=', id)
      .execute();
    await ws.db.insertInto('find_changes').values({ find_id: id, verdict: 'open', at: new Date().toISOString(), by_person: ws.asker.person, event_id: null, statement_id: null }).execute();
    await stamp(ws.db, row.meeting_id);
    return keptFind(ws, row.meeting_id, id);
  });
}

export const MarkSchema = z.object({ record: z.number().int(), segment: z.number().int().min(0), from: z.number().int().min(0), to: z.number().int().min(1), kind: z.enum(['action', 'decision', 'question']), text: z.string().trim().min(2).max(500) });

/** A find marked in the record by hand, for what Sift missed. */
export async function markFind(ws: Workspace, meeting: number, mark: z.infer<typeof MarkSchema>): Promise<KeptFind> {
  const row = await ws.db.selectFrom('records').innerJoin('meetings', 'meetings.id', 'records.meeting_id').select(['meetings.project_id as project']).where('records.id', '=', mark.record).where('meetings.id', '=', meeting).executeTakeFirst();
  mustSee(ws, row?.project, 'record');
  const record = await recordWords(ws.db, mark.record);
  const segment = record.segments[mark.segment];
  if (!segment || mark.to > segment.text.length || mark.from >= mark.to) throw new Refusal('bad-input', 'That place is not in the record.');
  const find: Find = {
    key: `hand:${mark.kind}:${mark.segment}:${mark.from}:${mark.to}`,
    kind: mark.kind,
    text: mark.text,
    about: [],
    owner: [],
    ownerHow: null,
    due: null,
    duePhrase: null,
    update: null,
    evidence: [{ segment: mark.segment, from: mark.from, to: mark.to, role: 'states' }],
    clues: [],
    confidence: 1,
    reason: `Marked by ${ws.asker.name}.`,
  };
  return ws.transaction(async (ws) => {
    const { n } = await ws.db
      .selectFrom('finds')
      .select(({ fn }) => fn.max('position').as('n'))
      .where('meeting_id', '=', meeting)
      .executeTakeFirstOrThrow();
    const made = await ws.db
      .insertInto('finds')
      .values({ meeting_id: meeting, record_id: mark.record, key: find.key, kind: find.kind, data: CODECS.find.write(find), position: (n ?? 0) + 1, reader: 'hand' })
      .onConflict((c) => c.columns(['record_id', 'key']).doNothing())
      .returning('id')
      .executeTakeFirst();
    if (!made) throw new Refusal('conflict', 'That place is marked already.');
    await stamp(ws.db, meeting);
    return keptFind(ws, meeting, made.id);
  });
}
