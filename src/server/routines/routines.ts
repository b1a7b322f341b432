import { z } from 'zod';
import { clockAt } from '../../core/dates/moments.ts';
import { faultsOf, type Routine, RoutineSchema } from '../../core/routines/routine.ts';
import { nextTime, readTimes } from '../../core/routines/times.ts';
import { whole } from '../people/out-of-sight.ts';
import { ownerOf } from '../people/owner.ts';
import { mustBeOfProject } from '../people/people.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import { timesRun } from './engine.ts';

/** A routine as its page shows it. */
export interface KeptRoutine {
  id: number;
  routine: Routine;
  state: 'on' | 'off' | 'paused';
  /** who it acts for */
  person: string;
  personName: string;
  /** when the clock starts it next, by the clock of whoever looks */
  next: { day: string; time: string } | null;
  pausedWhy: string | null;
  /** failures in a row */
  failed: number;
  revision: number;
}

/** Routines of the project that is being looked at. */
export async function routinesOf(ws: Workspace): Promise<KeptRoutine[]> {
  mustSee(ws, ws.project, 'project');
  const rows = await ws.db.selectFrom('routines as o').innerJoin('people as p', 'p.id', 'o.person_id').selectAll('o').select('p.name').where('o.project_id', '=', ws.project).where('o.removed_at', 'is', null).orderBy('o.id').execute();
  return rows.map((r) => ({
    id: r.id,
    routine: CODECS.routine.read(r.routine),
    state: r.state,
    person: r.person_id,
    personName: r.name,
    next: r.state === 'on' && r.next_at !== null ? clockAt(new Date(r.next_at), ws.asker.zone) : null,
    pausedWhy: r.state === 'paused' ? r.paused_why : null,
    failed: r.failed,
    revision: r.revision,
  }));
}

export const RoutineChangeSchema = z.discriminatedUnion('do', [
  /** `id` null for a new one; `revision` of what was changed */
  z.object({ do: z.literal('keep'), id: z.number().int().nullable(), revision: z.number().int().min(0), routine: RoutineSchema, on: z.boolean().optional() }),
  z.object({ do: z.literal('switch'), id: z.number().int(), on: z.boolean() }),
  z.object({ do: z.literal('remove'), id: z.number().int() }),
  z.object({ do: z.literal('put back'), id: z.number().int() }),
]);
export type RoutineChange = z.infer<typeof RoutineChangeSchema>;

const rowOf = async (ws: Workspace, id: number) => {
  const row = await ws.db.selectFrom('routines').selectAll().where('id', '=', id).executeTakeFirst();
  mustSee(ws, row?.project_id, 'routine');
  return row!;
};

/** Keeps, switches or removes a routine. Whoever keeps one is whom it acts for from then on. */
export async function changeRoutine(ws: Workspace, change: RoutineChange, now: Date): Promise<{ id: number }> {
  mustSee(ws, ws.project, 'project');
  return ws.transaction(async (ws) => {
    switch (change.do) {
      case 'keep':
        return keep(ws, change, now);
      case 'switch':
        return turn(ws, change.id, change.on, now);
      default:
        await rowOf(ws, change.id);
        await ws.db
          .updateTable('routines')
          .set({ removed_at: change.do === 'remove' ? now.toISOString() : null, state: 'off' })
          .where('id', '=', change.id)
          .execute();
        // what is not wanted any more does not go on behind its back
        if (change.do === 'remove') await ws.db.updateTable('routine_runs').set({ state: 'stopped', ended_at: now.toISOString(), word: 0, next_try: null }).where('routine_id', '=', change.id).where('state', 'in', ['offered', 'running', 'waiting']).execute();
        return { id: change.id };
    }
  });
}

async function keep(ws: Workspace, change: Extract<RoutineChange, { do: 'keep' }>, now: Date): Promise<{ id: number }> {
  const { routine } = change;
  await mustWork(ws, routine, change.id);
  const kept = CODECS.routine.write(routine);
  if (change.id === null) {
    const { id } = await ws.db.insertInto('routines').values({ project_id: ws.project, person_id: ws.asker.person, routine: kept, since: now.toISOString() }).returning('id').executeTakeFirstOrThrow();
    if (change.on) await turn(ws, id, true, now);
    return { id };
  }
  const row = await rowOf(ws, change.id);
  if (row.revision !== change.revision) throw new Refusal('conflict', 'Somebody else changed this routine meanwhile.', 'Load the page again; your words are still here to be copied.');
  await ws.db
    .updateTable('routines')
    .set((eb) => ({ routine: kept, person_id: ws.asker.person, revision: eb('revision', '+', 1) }))
    .where('id', '=', row.id)
    .execute();
  // what starts it now may have happened long ago, and does not start it
  const before = CODECS.routine.read(row.routine);
  const other = JSON.stringify([before.when, before.series, before.kind]) !== JSON.stringify([routine.when, routine.series, routine.kind]);
  if (row.state === 'on' && other) await turn(ws, row.id, true, now);
  return { id: row.id };
}

/** Refuses a routine that cannot work, or that has the name of another. */
async function mustWork(ws: Workspace, routine: Routine, id: number | null): Promise<void> {
  const [fault] = faultsOf(routine);
  if (fault) throw new Refusal('bad-input', `${fault.step === null ? '' : `Step ${fault.step + 1}: `}${fault.message}`, fault.advice);
  const called = routine.name.toLowerCase();
  const others = await routinesOf(ws);
  if (others.some((o) => o.id !== id && o.routine.name.toLowerCase() === called)) throw new Refusal('conflict', `There is a routine “${routine.name}” already.`, 'Choose another name.');
  if (routine.series !== null && !(await ws.db.selectFrom('series').select('id').where('id', '=', routine.series).where('project_id', '=', ws.project).executeTakeFirst())) throw new Refusal('not-found', 'There is no such series in this project.');
  for (const step of routine.steps) {
    if (step.do === 'ask') await mustBeOfProject(ws.db, ws.project, step.to);
    if (step.do === 'hook' && !step.url.startsWith('https://') && (await ownerOf(ws.db)) !== ws.asker.person) throw new Refusal('bad-input', 'An address that begins with http:// is read by whoever stands between.', 'Use https://, or ask whoever set up this Ottik.');
  }
}

/** Switches a routine on from this moment, or off; what is under way goes on. */
async function turn(ws: Workspace, id: number, on: boolean, now: Date): Promise<{ id: number }> {
  const row = await rowOf(ws, id);
  if (!on) {
    await ws.db.updateTable('routines').set({ state: 'off', paused_why: null }).where('id', '=', id).execute();
    return { id };
  }
  const { when } = CODECS.routine.read(row.routine);
  let next: Date | null = null;
  if (when.on === 'time') {
    const times = readTimes(when.text, when.from);
    if ('wrong' in times) throw new Refusal('bad-input', times.wrong, times.advice);
    next = nextTime(times, now, ws.asker.zone, await timesRun(ws.db, id, when.from));
    if (next === null) throw new Refusal('conflict', 'Its last time has passed.', 'Change when it starts.');
  }
  const last = async (table: 'records' | 'minutes_versions' | 'replies') =>
    (
      await whole(ws.db)
        .selectFrom(table)
        .select(({ fn }) => fn.max('id').as('n'))
        .executeTakeFirstOrThrow()
    ).n ?? 0;
  await ws.db
    .updateTable('routines')
    .set({ state: 'on', since: now.toISOString(), after_record: await last('records'), after_version: await last('minutes_versions'), after_reply: await last('replies'), next_at: next?.toISOString() ?? null, failed: 0, paused_why: null, person_id: ws.asker.person })
    .where('id', '=', id)
    .execute();
  return { id };
}
