import { z } from 'zod';
import { clockAt } from '../../core/dates/moments.ts';
import { shortDay } from '../../core/language/days.ts';
import { NAMES, needsMeeting, type Routine } from '../../core/routines/routine.ts';
import { causeKey, type RunState, type StepState } from '../../core/routines/run.ts';
import type { Carriers } from '../letters/queue.ts';
import { meetingRows } from '../meetings/meetings.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { reopenFind } from '../sift/judging.ts';
import { CODECS } from '../store/codecs.ts';
import { AT_ONCE } from '../store/transactions.ts';
import { fits } from './causes.ts';
import { advance, begin, ended, passOn } from './engine.ts';

/** A try of a step. */
export interface Tried {
  state: StepState;
  said: string;
  details: string[];
  /** time of day it began */
  time: string;
  /** milliseconds it took; null while it is not over */
  took: number | null;
  /** finds it took that can be put back */
  finds: number;
}

/** A run as the log shows it: each step with its tries. */
export interface LoggedRun {
  id: number;
  routine: number;
  name: string;
  about: string;
  meeting: number | null;
  state: RunState;
  /** when it began, by the clock of whoever looks */
  day: string;
  time: string;
  by: string | null;
  step: number;
  /** time of day at which the step that failed is tried again */
  nextTry: string | null;
  /** it waits for somebody to say go on */
  word: boolean;
  steps: { step: Routine['steps'][number]; tries: Tried[] }[];
}

/** Runs of the log on one page. */
const PAGE = 40;

/** Runs of the project, the latest first, or those of a meeting. */
export async function runsOf(ws: Workspace, where: { meeting?: number; routine?: number; before?: number; ids?: readonly number[] } = {}): Promise<LoggedRun[]> {
  mustSee(ws, ws.project, 'project');
  let query = ws.db.selectFrom('routine_runs as r').innerJoin('routines as o', 'o.id', 'r.routine_id').leftJoin('people as p', 'p.id', 'r.by_person').selectAll('r').select('p.name').where('o.project_id', '=', ws.project);
  if (where.meeting !== undefined) query = query.where('r.meeting_id', '=', where.meeting);
  if (where.routine !== undefined) query = query.where('r.routine_id', '=', where.routine);
  if (where.before !== undefined) query = query.where('r.id', '<', where.before);
  if (where.ids !== undefined) query = query.where('r.id', 'in', [...where.ids, -1]);
  const rows = await query.orderBy('r.id', 'desc').limit(PAGE).execute();
  const steps = rows.length
    ? await ws.db
        .selectFrom('routine_steps')
        .selectAll()
        .where(
          'run_id',
          'in',
          rows.map((r) => r.id),
        )
        .orderBy('id')
        .execute()
    : [];
  const { zone } = ws.asker;
  const timeOf = (at: string) => clockAt(new Date(at), zone).time;
  return rows.map((r) => {
    const routine = CODECS.routine.read(r.routine);
    return {
      id: r.id,
      routine: r.routine_id,
      name: routine.name,
      about: r.about,
      meeting: r.meeting_id,
      state: r.state,
      ...clockAt(new Date(r.began_at), zone),
      by: r.name,
      step: r.step,
      nextTry: r.next_try === null ? null : timeOf(r.next_try),
      word: r.word === 1,
      steps: routine.steps.map((step, n) => ({
        step,
        tries: steps
          .filter((s) => s.run_id === r.id && s.position === n)
          .map((s) => ({ state: s.state, said: s.said, details: CODECS.lines.read(s.details), time: timeOf(s.began_at), took: s.ended_at === null ? null : Math.max(0, Date.parse(s.ended_at) - Date.parse(s.began_at)), finds: CODECS.numbers.read(s.took).length })),
      })),
    };
  });
}

export const RunChangeSchema = z.object({ do: z.enum(['go on', 'again', 'past', 'stop', 'accept', 'leave', 'take back']) });
export type RunChange = z.infer<typeof RunChangeSchema>['do'];

/** What somebody does with a run. */
export async function changeRun(ws: Workspace, id: number, change: RunChange, carriers: Carriers, now: Date): Promise<{ run: LoggedRun; told: string }> {
  const row = await ws.db.selectFrom('routine_runs as r').innerJoin('routines as o', 'o.id', 'r.routine_id').selectAll('r').select('o.project_id').where('r.id', '=', id).executeTakeFirst();
  mustSee(ws, row?.project_id, 'run');
  const run = row!;
  const only = (states: readonly RunState[], words: string) => {
    if (!states.includes(run.state)) throw new Refusal('conflict', words, 'It is shown now as it stands.');
  };
  const set = (values: { state: RunState }) =>
    ws.db
      .updateTable('routine_runs')
      .set({ ...values, word: 0, tries: 0, next_try: null, ended_at: null })
      .where('id', '=', id)
      .execute();
  const named = CODECS.routine.read(run.routine).steps[run.step];
  let told = '';
  switch (change) {
    case 'accept':
      only(['offered'], 'This was begun or left already.');
      await set({ state: 'running' });
      break;
    case 'leave':
      only(['offered'], 'This was begun or left already.');
      await ended(ws.db, id, 'left', now);
      break;
    case 'go on':
      only(['waiting'], 'This run does not wait.');
      // what waits for somebody’s word has it; what waits for anything else is looked at again
      await ws.transaction(async (ws) => {
        if (run.word) await closeTry(ws, id, run.step, `${ws.asker.name} said go on`, now);
        else await ws.db.updateTable('routine_runs').set({ next_try: null }).where('id', '=', id).execute();
      });
      break;
    case 'again':
      only(['failed', 'stopped'], 'Only a run that failed or was stopped is run again.');
      await set({ state: 'running' });
      break;
    case 'past':
      only(['failed', 'waiting'], 'This run has nothing to leave out.');
      await ws.transaction((ws) => closeTry(ws, id, run.step, `left out by ${ws.asker.name}`, now));
      told = named ? `${NAMES[named.do]} was left out` : '';
      break;
    case 'stop':
      only(['running', 'waiting'], 'This run is over.');
      await ended(ws.db, id, 'stopped', now);
      break;
    default:
      told = await takeBack(ws, id);
  }
  if (change !== 'stop' && change !== 'leave' && change !== 'take back') await advance(ws.db, carriers, id, now);
  return { run: (await runsOf(ws.with({ project: run.project_id }), { ids: [id] }))[0]!, told };
}

/** The step a run is at counts as done, with why. */
async function closeTry(ws: Workspace, run: number, position: number, said: string, now: Date): Promise<void> {
  const at = now.toISOString();
  const waiting = await ws.db.updateTable('routine_steps').set({ state: 'done', said, ended_at: at }).where('run_id', '=', run).where('position', '=', position).where('state', '=', 'waiting').executeTakeFirst();
  if (Number(waiting.numUpdatedRows) === 0) await ws.db.insertInto('routine_steps').values({ run_id: run, position, state: 'done', began_at: at, ended_at: at, said }).execute();
  await ws.db.updateTable('routine_runs').set({ ended_at: null }).where('id', '=', run).execute();
  await passOn(ws.db, run);
}

/** Puts back the finds a run took, but for those somebody has had to do with since. */
async function takeBack(ws: Workspace, run: number): Promise<string> {
  return ws.transaction(async (ws) => {
    const rows = await ws.db.selectFrom('routine_steps').select(['id', 'took', 'details']).where('run_id', '=', run).where('state', '=', 'done').execute();
    let back = 0;
    const kept: string[] = [];
    for (const row of rows)
      for (const find of CODECS.numbers.read(row.took)) {
        try {
          await reopenFind(ws, find);
          back++;
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
          kept.push(error.message);
        }
      }
    if (back === 0) throw new Refusal('conflict', 'Nothing of this run can be put back.', kept[0] ?? null);
    for (const row of rows.filter((r) => r.took !== '[]'))
      await ws.db
        .updateTable('routine_steps')
        .set({ took: '[]', details: CODECS.lines.write([...CODECS.lines.read(row.details), `Put back by ${ws.asker.name}`]) })
        .where('id', '=', row.id)
        .execute();
    return `${back} ${back === 1 ? 'find is' : 'finds are'} open again${kept.length ? `; ${kept.length} stayed: ${kept[0]}` : ''}`;
  });
}

/** A routine somebody can ask for, and what it would run on. */
export interface Askable {
  id: number;
  name: string;
  /** the meeting it would run on; null where it needs none */
  meeting: { id: number; words: string } | null;
  needs: boolean;
}

/** Routines that start when somebody asks, with the meeting each would run on: the one that is looked at, or the last one held that it is for. */
export async function askable(ws: Workspace, looking: number | null): Promise<Askable[]> {
  const rows = await ws.db.selectFrom('routines').select(['id', 'routine']).where('project_id', '=', ws.project).where('removed_at', 'is', null).where('state', '=', 'on').orderBy('id').execute();
  const asked = rows.map((r) => ({ id: r.id, routine: CODECS.routine.read(r.routine) })).filter((r) => r.routine.when.on === 'asked');
  if (asked.length === 0) return [];
  const held = (await meetingRows(ws, { project: ws.project, to: ws.today })).filter((m) => !m.cancelled && (m.records > 0 || m.id === looking)).reverse();
  const out: Askable[] = [];
  for (const { id, routine } of asked) {
    const needs = routine.steps.some(needsMeeting);
    let meeting: Askable['meeting'] = null;
    for (const m of [...held.filter((m) => m.id === looking), ...held]) {
      if (!(await fits(ws, routine, { id: m.id, series_id: m.series }))) continue;
      meeting = { id: m.id, words: `${m.title}, ${shortDay(m.date, ws.today)}` };
      break;
    }
    out.push({ id, name: routine.name, meeting, needs });
  }
  return out;
}

/** Runs a routine because somebody asks for it; asked for twice at once it runs once. */
export async function runAsked(ws: Workspace, id: number, meeting: number | null, carriers: Carriers, now: Date): Promise<{ run: LoggedRun }> {
  const row = await ws.db.selectFrom('routines').selectAll().where('id', '=', id).where('removed_at', 'is', null).executeTakeFirst();
  mustSee(ws, row?.project_id, 'routine');
  const here = ws.with({ project: row!.project_id });
  const routine = CODECS.routine.read(row!.routine);
  if (routine.when.on !== 'asked') throw new Refusal('conflict', `“${routine.name}” does not start when somebody asks.`, 'Change when it starts, on the Routines page.');
  const m = meeting === null ? null : ((await meetingRows(here, { id: meeting }))[0] ?? null);
  if (meeting !== null && m?.project !== row!.project_id) throw new Refusal('not-found', 'There is no such meeting.');
  if (m === null && routine.steps.some(needsMeeting)) throw new Refusal('bad-input', `“${routine.name}” needs a meeting.`, 'Run it from the page of one.');
  const just = await ws.db
    .selectFrom('routine_runs')
    .select('id')
    .where('routine_id', '=', id)
    .where('began_at', '>', new Date(now.getTime() - AT_ONCE).toISOString())
    .where('by_person', '=', ws.asker.person)
    .where('meeting_id', m ? '=' : 'is', m ? m.id : null)
    .executeTakeFirst();
  const run = just?.id ?? (await begin(ws.db, { id, routine }, { key: causeKey('asked', m?.id ?? 0, now.toISOString()), about: m ? `asked for on ${m.title}, ${shortDay(m.date, ws.today)}` : 'asked for', meeting: m?.id ?? null, commitment: null, reply: null }, now, ws.asker.person));
  if (run === null) throw new Refusal('conflict', 'It runs already.');
  await advance(ws.db, carriers, run, now);
  return { run: (await runsOf(here, { ids: [run] }))[0]! };
}
