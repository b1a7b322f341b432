import { clockAt } from '../../core/dates/moments.ts';
import { shortDay } from '../../core/language/days.ts';
import { REACHES_OUT, type Routine, type Step } from '../../core/routines/routine.ts';
import { causeKey, routineDeed, triedAgain } from '../../core/routines/run.ts';
import { stepInWords } from '../../core/routines/sentences.ts';
import { nextTime, readTimes } from '../../core/routines/times.ts';
import { MailError } from '../letters/mailer.ts';
import type { Carriers } from '../letters/queue.ts';
import { note } from '../people/audit.ts';
import { inSight, whole } from '../people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { dayAt } from '../store/clock.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { ServerTrouble } from '../store/guarded-fetch.ts';
import { log } from '../store/log.ts';
import { type Cause, causesOf } from './causes.ts';
import type { Done } from './doing.ts';
import { doStep, IN_ONE } from './steps/index.ts';

/** The workspace a routine acts in: its person's, with what they may see, on the day it is where they are. */
export async function actingFor(db: Db, person: string, project: string, now: Date): Promise<Workspace> {
  const ws = await inSight(await workspaceOf(db, person));
  if (!ws.asker.projects.has(project)) throw new Refusal('forbidden', `${ws.asker.name} no longer works in this project.`, 'Whoever runs the project keeps the routine anew.');
  if (ws.asker.archived.has(project)) throw new Refusal('conflict', 'This project is archived: nothing in it changes.');
  if (ws.asker.roles.get(project) === 'guest') throw new Refusal('forbidden', `${ws.asker.name} may look at this project, and not change it.`);
  return ws.with({ project, today: dayAt(now, ws.asker.zone), needs: 'work' });
}

/** What happened is noticed, and what is under way goes on. */
export async function beat(db: Db, carriers: Carriers, now: Date): Promise<void> {
  await notice(db, now);
  await goOn(db, carriers, now);
}

/** Starts routines, or offers them, for what has happened since it was last looked. */
export async function notice(db: Db, now: Date): Promise<number> {
  let n = 0;
  const rows = await db.selectFrom('routines').selectAll().where('state', '=', 'on').where('removed_at', 'is', null).orderBy('id').execute();
  for (const row of rows) {
    try {
      const routine = CODECS.routine.read(row.routine);
      const ws = await actingFor(db, row.person_id, row.project_id, now);
      if (routine.when.on === 'time') n += (await byTheClock(ws, row, routine, now)) ? 1 : 0;
      else {
        const { causes, looked } = await causesOf(ws, routine, { since: row.since, record: row.after_record, version: row.after_version, reply: row.after_reply }, now);
        // the runs and how far it was looked, together: a stop between them would lose or repeat one
        n += await ws.transaction(async (ws) => {
          let begun = 0;
          for (const cause of causes) if (await begin(ws.db, { id: row.id, routine }, cause, now, null)) begun++;
          await ws.db.updateTable('routines').set({ after_record: looked.record, after_version: looked.version, after_reply: looked.reply }).where('id', '=', row.id).execute();
          return begun;
        });
      }
    } catch (error) {
      if (!(error instanceof Refusal)) {
        log.error(error);
        continue;
      }
      await db.updateTable('routines').set({ state: 'paused', paused_why: error.message }).where('id', '=', row.id).execute();
    }
  }
  return n;
}

/** Starts what is due by the clock. Of what was missed while Ottik stood still, the last one is made up for. */
async function byTheClock(ws: Workspace, row: { id: number; next_at: string | null }, routine: Routine, now: Date): Promise<boolean> {
  if (routine.when.on !== 'time' || row.next_at === null || row.next_at > now.toISOString()) return false;
  const times = readTimes(routine.when.text, routine.when.from);
  if ('wrong' in times) throw new Refusal('bad-input', times.wrong, times.advice);
  const done = await timesRun(ws.db, row.id, routine.when.from);
  const { zone } = ws.asker;
  let due = new Date(row.next_at);
  for (let after = nextTime(times, due, zone, done); after !== null && after <= now; after = nextTime(times, due, zone, done)) due = after;
  const { day, time } = clockAt(due, zone);
  const late = now.getTime() - due.getTime() > 5 * 60_000;
  const cause: Cause = { key: causeKey('time', due.toISOString()), about: `${shortDay(day, ws.today)} ${time}${late ? ', made up for later' : ''}`, meeting: null, commitment: null, reply: null };
  return ws.transaction(async (ws) => {
    const begun = await begin(ws.db, { id: row.id, routine }, cause, now, null);
    const next = nextTime(times, now, zone, done + 1);
    await ws.db
      .updateTable('routines')
      .set({ next_at: next?.toISOString() ?? null, ...(next ? {} : { state: 'off' as const }) })
      .where('id', '=', row.id)
      .execute();
    return begun !== null;
  });
}

/** How often the clock has started a routine since a day. */
export async function timesRun(db: Db, routine: number, from: string): Promise<number> {
  const { n } = await db
    .selectFrom('routine_runs')
    .select(({ fn }) => fn.countAll<number>().as('n'))
    .where('routine_id', '=', routine)
    .where('cause', '>=', causeKey('time', from))
    .where('cause', '<', 'time;')
    .executeTakeFirstOrThrow();
  return n;
}

/**
 * Begins a run, or offers it, unless the same cause has begun one before.
 * @returns its number; null where it has
 */
export async function begin(tx: Db, { id, routine }: { id: number; routine: Routine }, cause: Cause, now: Date, by: string | null): Promise<number | null> {
  const made = await tx
    .insertInto('routine_runs')
    .values({ routine_id: id, cause: cause.key, about: cause.about, meeting_id: cause.meeting, commitment_id: cause.commitment, reply_id: cause.reply, routine: CODECS.routine.write(routine), state: by === null && routine.how === 'offered' ? 'offered' : 'running', began_at: now.toISOString(), by_person: by })
    .onConflict((c) => c.columns(['routine_id', 'cause']).doNothing())
    .returning('id')
    .executeTakeFirst();
  return made?.id ?? null;
}

/** Takes every run under way as far as it goes. */
export async function goOn(db: Db, carriers: Carriers, now: Date): Promise<void> {
  const runs = await db
    .selectFrom('routine_runs')
    .select('id')
    .where('state', 'in', ['running', 'waiting'])
    .where('word', '=', 0)
    .where((eb) => eb.or([eb('next_try', 'is', null), eb('next_try', '<=', now.toISOString())]))
    .orderBy('id')
    .execute();
  for (const { id } of runs) await advance(db, carriers, id, now).catch((error: unknown) => log.error(error));
}

/** Runs that are being taken further in this process: a beat and a key may ask for it at once. */
const under = new Set<number>();

/** Takes one run as far as it goes: to its end, to what it waits for, or to what failed. */
export async function advance(db: Db, carriers: Carriers, id: number, now: Date): Promise<void> {
  if (under.has(id)) return;
  under.add(id);
  try {
    while (await oneStep(db, carriers, id, now));
  } finally {
    under.delete(id);
  }
}

/** @returns whether there is more to do now */
async function oneStep(db: Db, carriers: Carriers, id: number, now: Date): Promise<boolean> {
  const run = await db.selectFrom('routine_runs as r').innerJoin('routines as o', 'o.id', 'r.routine_id').selectAll('r').select(['o.person_id', 'o.project_id']).where('r.id', '=', id).executeTakeFirst();
  if (!run || (run.state !== 'running' && run.state !== 'waiting')) return false;
  const routine = CODECS.routine.read(run.routine);
  const step = routine.steps[run.step];
  if (!step) {
    await ended(db, id, 'done', now);
    await db.updateTable('routines').set({ failed: 0 }).where('id', '=', run.routine_id).execute();
    return false;
  }
  const tryId = await tryOf(db, id, run.step, now);
  const began = performance.now();
  const over = () => new Date(now.getTime() + performance.now() - began);
  try {
    const acting = await actingFor(db, run.person_id, run.project_id, now);
    const told = CODECS.lines.read(run.told);
    const doing = {
      now,
      routine,
      meeting: run.meeting_id,
      commitment: run.commitment_id,
      reply: run.reply_id,
      carriers,
      key: `${id}.${run.step}`,
      dry: false,
      told,
      tell: async (whom: string) => {
        told.push(whom);
        await db
          .updateTable('routine_runs')
          .set({ told: CODECS.lines.write(told) })
          .where('id', '=', id)
          .execute();
      },
    };
    if (IN_ONE.has(step.do)) return await acting.transaction(async (ws) => noted(ws, routine, step, id, settle(ws.db, id, tryId, await doStep(step, { ...doing, ws }), over()), now));
    return await noted(acting.with({ db }), routine, step, id, settle(db, id, tryId, await doStep(step, { ...doing, ws: acting }), over()), now);
  } catch (error) {
    await failed(db, { id, routine: run.routine_id, tries: run.tries, pauses: routine.pauses, words: stepInWords(step) }, tryId, error, now, over());
    return false;
  }
}

/** The try of a step that waits, or a new one. */
async function tryOf(db: Db, run: number, position: number, now: Date): Promise<number> {
  const waiting = await db.selectFrom('routine_steps').select('id').where('run_id', '=', run).where('position', '=', position).where('state', '=', 'waiting').executeTakeFirst();
  if (waiting) return waiting.id;
  const { id } = await db.insertInto('routine_steps').values({ run_id: run, position, state: 'running', began_at: now.toISOString() }).returning('id').executeTakeFirstOrThrow();
  return id;
}

/** Notes what came of a step. @returns whether the next one can begin */
async function settle(tx: Db, run: number, tryId: number, done: Done, over: Date): Promise<boolean> {
  if ('waits' in done) {
    await tx.updateTable('routine_steps').set({ state: 'waiting', said: done.waits }).where('id', '=', tryId).execute();
    // somebody may have stopped it while the step was under way
    await tx
      .updateTable('routine_runs')
      .set({ state: 'waiting', word: done.word ? 1 : 0, next_try: null })
      .where('id', '=', run)
      .where('state', '!=', 'stopped')
      .execute();
    return false;
  }
  await tx
    .updateTable('routine_steps')
    .set({ state: 'done', ended_at: over.toISOString(), said: done.said, details: CODECS.lines.write(done.details ?? []), took: CODECS.numbers.write(done.took ?? []) })
    .where('id', '=', tryId)
    .execute();
  await passOn(tx, run);
  return true;
}

/** A step that is done stands in the audit. */
async function noted(ws: Workspace, routine: Routine, step: Step, run: number, settled: Promise<boolean>, now: Date): Promise<boolean> {
  const done = await settled;
  const deed = done ? routineDeed(routine, step, run) : null;
  if (deed) await note(whole(ws.db), ws.asker.person, ws.project, deed, now);
  return done;
}

/** A run goes on to its next step; one that was stopped meanwhile stands there. */
export async function passOn(tx: Db, run: number): Promise<void> {
  await tx
    .updateTable('routine_runs')
    .set((eb) => ({
      state: eb
        .case()
        .when('state', '=', 'stopped')
        .then('stopped' as const)
        .else('running' as const)
        .end(),
      step: eb('step', '+', 1),
      tries: 0,
      next_try: null,
      word: 0,
      told: '[]',
    }))
    .where('id', '=', run)
    .execute();
}

export async function ended(tx: Db, run: number, state: 'done' | 'stopped' | 'left', now: Date): Promise<void> {
  await tx.updateTable('routine_runs').set({ state, ended_at: now.toISOString(), word: 0, next_try: null }).where('id', '=', run).execute();
}

/** What failed for the time being is tried again; what failed for good ends the run, and after so many in a row its routine pauses. */
async function failed(db: Db, run: { id: number; routine: number; tries: number; pauses: number; words: string }, tryId: number, error: unknown, now: Date, over: Date): Promise<void> {
  const known = error instanceof Refusal || error instanceof MailError || error instanceof ServerTrouble;
  if (!known) log.error(error);
  const why = error instanceof Refusal ? [error.message, error.advice].filter(Boolean).join(' ') : known ? (error as Error).message : 'Something went wrong in Ottik; its log says what.';
  const passing = (error instanceof MailError && error.temporary) || (error instanceof ServerTrouble && PASSING.has(error.what));
  const again = passing ? triedAgain(run.tries + 1, now) : null;
  await db.transaction().execute(async (tx) => {
    await tx.updateTable('routine_steps').set({ state: 'failed', ended_at: over.toISOString(), said: why }).where('id', '=', tryId).execute();
    await tx
      .updateTable('routine_runs')
      .set({ state: again ? 'waiting' : 'failed', tries: run.tries + 1, next_try: again?.toISOString() ?? null, ...(again ? {} : { ended_at: now.toISOString() }) })
      .where('id', '=', run.id)
      .where('state', '!=', 'stopped')
      .execute();
    if (!again) await countFailure(tx as unknown as Db, run, why);
  });
}

const PASSING: ReadonlySet<ServerTrouble['what']> = new Set(['unreachable', 'silent', 'busy', 'no answer']);

async function countFailure(tx: Db, run: { routine: number; pauses: number; words: string }, why: string): Promise<void> {
  const row = await tx
    .updateTable('routines')
    .set((eb) => ({ failed: eb('failed', '+', 1) }))
    .where('id', '=', run.routine)
    .returning(['failed', 'state'])
    .executeTakeFirstOrThrow();
  if (row.failed < run.pauses || row.state !== 'on') return;
  const runs = row.failed === 1 ? 'A run' : `${row.failed} runs in a row`;
  await tx
    .updateTable('routines')
    .set({ state: 'paused', paused_why: `${runs} failed, the last one at “${run.words}”: ${why}` })
    .where('id', '=', run.routine)
    .execute();
}

/**
 * After a stop of Ottik: a step that was under way and stays in the house is done again from its beginning, since nothing of
 * it was kept. One that reaches out may have gone out: it counts as failed, says so, and goes again only when somebody wants it.
 */
export async function resumeRuns(db: Db, now: Date): Promise<void> {
  const broken = await db.selectFrom('routine_steps as s').innerJoin('routine_runs as r', 'r.id', 's.run_id').select(['s.id', 's.position', 'r.id as run', 'r.routine']).where('s.state', '=', 'running').execute();
  for (const s of broken) {
    const step = CODECS.routine.read(s.routine).steps[s.position];
    if (step && REACHES_OUT.has(step.do)) {
      await db.updateTable('routine_steps').set({ state: 'failed', ended_at: now.toISOString(), said: 'Ottik stopped in the middle of this step. It may have gone out: look there before you run it again.' }).where('id', '=', s.id).execute();
      await db.updateTable('routine_runs').set({ state: 'failed', ended_at: now.toISOString() }).where('id', '=', s.run).execute();
    } else await db.deleteFrom('routine_steps').where('id', '=', s.id).execute();
  }
}
