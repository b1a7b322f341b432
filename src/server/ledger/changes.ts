import { z } from 'zod';
import { shortDay } from '../../core/language/days.ts';
import { type EventKind, IsoDateSchema } from '../../core/ledger/events.ts';
import { type CommitmentState, isEnded, wouldCircle } from '../../core/ledger/state.ts';
import { resolveOwners } from '../people/owners.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { AT_ONCE } from '../store/transactions.ts';
import { eventsByCommitment, type LedgerRow, ledgerRows, makeCommitment, recordEvent, undoEvent } from './commitments.ts';

const reason = z.string().trim().max(500).optional();

/** What a person can do with a commitment by hand. */
export const ChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('move'), due: IsoDateSchema.nullable(), reason }),
  z.object({ do: z.literal('hand over'), owner: z.array(z.string().max(140)).max(12), reason }),
  z.object({ do: z.literal('reword'), text: z.string().trim().min(1, 'needs words').max(2000) }),
  z.object({ do: z.literal('done') }),
  z.object({ do: z.literal('drop'), reason }),
  z.object({
    do: z.literal('block'),
    reason,
    /** reference of the commitment it waits for */
    on: z
      .string()
      .regex(/^C-\d{1,9}$/i, 'is not a reference like C-12')
      .optional(),
  }),
  z.object({ do: z.literal('still on it') }),
  z.object({ do: z.literal('reopen') }),
  /** out of sight until a day, or (null) into the backlog */
  z.object({ do: z.literal('put off'), until: IsoDateSchema.nullable() }),
  z.object({ do: z.literal('take up') }),
  /** it needs no date, and is not loose for want of one */
  z.object({ do: z.literal('no date') }),
]);
export type Change = z.infer<typeof ChangeSchema>;

/** A change with the last event its maker had seen, so that nobody overwrites what they have not read. */
export const SeenChangeSchema = z.intersection(ChangeSchema, z.object({ seen: z.number().int().optional(), /** the meeting it was said in */ meeting: z.number().int().optional() }));

export const BulkSchema = z.object({ ids: z.array(z.number().int()).min(1, 'needs at least one commitment').max(5000), change: ChangeSchema });

/** Changes that need no open commitment. */
const ALSO_ENDED: ReadonlySet<Change['do']> = new Set(['reopen', 'reword']);

/** Carries out a change and gives the line as it stands now, with the event to take back. */
export async function changeCommitment(ws: Workspace, id: number, change: Change & { seen?: number | undefined; meeting?: number | undefined }): Promise<{ row: LedgerRow; event: number }> {
  const c = await ws.db.selectFrom('commitments').select('project_id').where('id', '=', id).executeTakeFirst();
  mustSee(ws, c?.project_id, 'commitment');
  const event = await ws.transaction(async (ws) => {
    if (change.seen !== undefined) await refuseUnseen(ws.db, id, change.seen, change);
    if (change.meeting !== undefined && !(await ws.db.selectFrom('meetings').select('id').where('id', '=', change.meeting).where('project_id', '=', c!.project_id).executeTakeFirst())) throw new Refusal('not-found', 'There is no such meeting.');
    return applyChange(ws, id, change, change.meeting ?? null);
  });
  return { row: await rowOf(ws, c!.project_id, id), event };
}

/** Carries out one change on many commitments, all or none; those it does not fit are left out and told. */
export async function changeMany(ws: Workspace, { ids, change }: z.infer<typeof BulkSchema>): Promise<{ rows: LedgerRow[]; events: number[]; left: string[] }> {
  const events: number[] = [];
  const left: string[] = [];
  const done: number[] = [];
  await ws.transaction(async (ws) => {
    for (const id of new Set(ids)) {
      try {
        events.push(await applyChange(ws, id, change));
        done.push(id);
      } catch (error) {
        if (!(error instanceof Refusal) || error.code !== 'conflict') throw error;
        left.push(error.message);
      }
    }
  });
  return { rows: done.length ? await ledgerRows(ws, { state: 'all', ids: done }) : [], events, left };
}

async function applyChange(ws: Workspace, id: number, change: Change, meeting: number | null = null): Promise<number> {
  const c = await ws.db.selectFrom('commitments').select(['project_id', 'state', 'number', 'put_off', 'due']).where('id', '=', id).executeTakeFirst();
  mustSee(ws, c?.project_id, 'commitment');
  const { project_id: project, state, number, put_off, due } = c!;
  const ended = isEnded(state as CommitmentState);
  if (ended && !ALSO_ENDED.has(change.do)) throw new Refusal('conflict', `C-${number} is ${state}.`, 'Reopen it first.');
  if (!ended && change.do === 'reopen') throw new Refusal('conflict', `C-${number} is open already.`);
  if (change.do === 'no date' && due !== null) throw new Refusal('conflict', `C-${number} has a date.`, 'Take the date away first.');
  if (change.do === 'take up' && put_off === null) throw new Refusal('conflict', `C-${number} is not put off.`);
  const base = { on: ws.today, meeting, evidence: [] };
  const why = 'reason' in change && change.reason ? { reason: change.reason } : {};
  switch (change.do) {
    case 'move':
      return recordEvent(ws, id, { ...base, kind: 'moved', data: { due: change.due, ...why } });
    case 'hand over':
      return recordEvent(ws, id, { ...base, kind: 'handed over', data: { owner: await resolveOwners(ws, project, change.owner), ...why } });
    case 'reword':
      return recordEvent(ws, id, { ...base, kind: 'reworded', data: { text: change.text } });
    case 'block':
      return recordEvent(ws, id, { ...base, kind: 'blocked', data: { ...why, ...(change.on ? { waitsFor: await waitsFor(ws.db, project, id, number, change.on) } : {}) } });
    case 'put off':
      if (change.until !== null && change.until <= ws.today) throw new Refusal('bad-input', 'That day is not in the future.', 'Choose a later day, or move it to the backlog.');
      return recordEvent(ws, id, { ...base, kind: 'put off', data: { until: change.until } });
    default:
      return recordEvent(ws, id, { ...base, kind: PLAIN[change.do], data: why });
  }
}

const PLAIN = { done: 'done', drop: 'dropped', 'still on it': 'restated', reopen: 'reopened', 'take up': 'taken up', 'no date': 'no date' } as const satisfies Record<string, EventKind>;

/** The commitment a reference names, which must not itself wait for this one. */
async function waitsFor(tx: Db, project: string, id: number, number: number, ref: string): Promise<number> {
  const on = await tx
    .selectFrom('commitments')
    .select(['id', 'state'])
    .where('project_id', '=', project)
    .where('number', '=', Number(ref.slice(2)))
    .executeTakeFirst();
  if (!on) throw new Refusal('not-found', `There is no ${ref.toUpperCase()} in this project.`);
  const all = await tx.selectFrom('commitments').select(['id', 'waits_for']).where('project_id', '=', project).where('waits_for', 'is not', null).execute();
  if (on.id === id || wouldCircle(id, on.id, new Map(all.map((a) => [a.id, a.waits_for!])))) throw new Refusal('conflict', `C-${number} would wait for itself.`, `${ref.toUpperCase()} waits for it already, directly or through others.`);
  return on.id;
}

const TOLD: Partial<Record<EventKind, string>> = { moved: 'moved it', 'handed over': 'handed it over', done: 'called it done', dropped: 'dropped it', blocked: 'said that it waits', reworded: 'reworded it', reopened: 'reopened it' };

/** Refuses a change made by somebody who has not seen the newest one, and tells both. */
async function refuseUnseen(tx: Db, id: number, seen: number, change: Change): Promise<void> {
  const newer = (await eventsByCommitment(tx, [id])).get(id)?.filter((e) => e.id > seen && TOLD[e.kind]) ?? [];
  const last = newer.at(-1);
  if (!last) return;
  const who = (await tx.selectFrom('people').select('name').where('id', '=', last.by).executeTakeFirst())?.name ?? last.by;
  const theirs = `${TOLD[last.kind]}${last.data.due ? ` to ${shortDay(last.data.due)}` : ''}${last.data.text && last.kind === 'reworded' ? ` to “${last.data.text}”` : ''}`;
  const yours = change.do === 'move' ? `move it to ${change.due ? shortDay(change.due) : 'no date'}` : change.do === 'reword' ? `reword it to “${change.text}”` : change.do;
  throw new Refusal('conflict', `${who} ${theirs} while you were editing.`, `Yours was to ${yours}; repeat it to confirm.`);
}

/** What came from a find or an answer is taken back there, so that both tell the same. */
async function mustBeOwn(db: Db, event: number): Promise<void> {
  const found = await db.selectFrom('find_changes').innerJoin('finds', 'finds.id', 'find_changes.find_id').select('finds.meeting_id').where('find_changes.event_id', '=', event).where('finds.verdict', '=', 'taken').executeTakeFirst();
  if (found) throw new Refusal('conflict', 'This came from a find.', `Take it back at the find itself: /meetings/${found.meeting_id}/sift.`);
  const answer = await db.selectFrom('answers').select('id').where('event_id', '=', event).where('verdict', '=', 'taken').executeTakeFirst();
  if (answer) throw new Refusal('conflict', 'This came from an answer.', 'Take it back at the answer, in Post.');
}

export async function undoChange(ws: Workspace, event: number): Promise<{ row: LedgerRow }> {
  await mustBeOwn(ws.db, event);
  const { commitment } = await undoEvent(ws, event, ws.today);
  const c = await ws.db.selectFrom('commitments').select('project_id').where('id', '=', commitment).executeTakeFirstOrThrow();
  return { row: await rowOf(ws, c.project_id, commitment) };
}

/** Takes many changes back, all or none. */
export async function undoMany(ws: Workspace, events: readonly number[]): Promise<{ rows: LedgerRow[] }> {
  const ids: number[] = [];
  await ws.transaction(async (ws) => {
    for (const e of events) {
      await mustBeOwn(ws.db, e);
      ids.push((await undoEvent(ws, e, ws.today)).commitment);
    }
  });
  return { rows: await ledgerRows(ws, { state: 'all', ids }) };
}

export const NewCommitmentSchema = z.object({ text: z.string().trim().min(2, 'needs words').max(2000), owner: z.array(z.string().max(140)).max(12), due: IsoDateSchema.nullable(), series: z.string().max(140).nullable().optional() });

/** A commitment entered by hand, with no meeting behind it. */
export async function enterCommitment(ws: Workspace, project: string, made: z.infer<typeof NewCommitmentSchema>): Promise<{ row: LedgerRow; event: number }> {
  mustSee(ws, project, 'project');
  const out = await ws.transaction(async (ws) => {
    const data = { text: made.text, owner: await resolveOwners(ws, project, made.owner), due: made.due };
    return (await enteredAtOnce(ws, project, data)) ?? makeCommitment(ws, project, { meeting: null, series: made.series ?? null }, { on: ws.today, meeting: null, data, evidence: [] });
  });
  return { row: await rowOf(ws, project, out.id), event: out.event };
}

/** A commitment that the same person has entered in the same words at this moment: it was sent twice. */
async function enteredAtOnce(ws: Workspace, project: string, data: { text: string; owner: string[]; due: string | null }): Promise<{ id: number; event: number } | null> {
  const last = await ws.db.selectFrom('events as e').innerJoin('commitments as c', 'c.id', 'e.commitment_id').select(['e.id', 'e.kind', 'e.at', 'e.data', 'c.id as commitment']).where('c.project_id', '=', project).where('e.by_person', '=', ws.asker.person).orderBy('e.id', 'desc').limit(1).executeTakeFirst();
  if (last?.kind !== 'made' || Math.abs(Date.now() - Date.parse(last.at)) >= AT_ONCE) return null;
  const was = CODECS.eventData.read(last.data);
  return was.text === data.text && (was.due ?? null) === data.due && JSON.stringify(was.owner ?? []) === JSON.stringify(data.owner) ? { id: last.commitment, event: last.id } : null;
}

/** One line as it stands now. */
export async function rowOf(ws: Workspace, project: string, id: number): Promise<LedgerRow> {
  return (await ledgerRows(ws, { project, state: 'all', ids: [id] }))[0]!;
}
