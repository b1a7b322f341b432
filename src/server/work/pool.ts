import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Piscina } from 'piscina';
import { RecordError } from '../../core/record/model.ts';
import type { Outcome, Tasks } from './tasks.ts';

/** How long a task may take, in milliseconds, and how much its thread may hold, in MB. A day's record takes a few seconds and 200 MB. */
const TIME: Record<keyof Tasks, number> = { record: 30_000, sift: 120_000, named: 20_000, gist: 60_000, table: 20_000, importing: 60_000, mail: 10_000, answer: 10_000, copy: 1_800_000 };
const MEMORY = 1024;

/** Mail has a thread of its own: whoever sits at a page does not wait for what strangers send. */
const THREADS = { desk: 2, post: 1, house: 1 };
type Room = keyof typeof THREADS;
const ROOM: Record<keyof Tasks, Room> = { record: 'desk', sift: 'desk', named: 'desk', gist: 'desk', table: 'desk', importing: 'desk', mail: 'post', answer: 'post', copy: 'house' };

interface Threads {
  pool: Piscina;
  /** those who wait for a thread; the time of a task counts from when it has one */
  waiting: (() => void)[];
  free: number;
}
const rooms = new Map<Room, Promise<Threads>>();

/** The worker as it was built, or its source where Ottik runs from source. */
function workerFile(): { filename: string; execArgv: string[] } {
  const source = join(dirname(fileURLToPath(import.meta.url)), 'worker.ts');
  if (existsSync(source)) return { filename: source, execArgv: ['--import', 'tsx'] };
  return { filename: join(process.cwd(), 'dist/server/work.mjs'), execArgv: [] };
}

function threadsOf(room: Room): Promise<Threads> {
  const known = rooms.get(room);
  if (known) return known;
  const made = import('piscina').then(({ Piscina }) => {
    const pool = new Piscina({ ...workerFile(), minThreads: 1, maxThreads: THREADS[room], idleTimeout: 60_000, resourceLimits: { maxOldGenerationSizeMb: MEMORY } });
    // a thread that ends of itself is told of by the task it had
    pool.on('error', () => undefined);
    return { pool, waiting: [], free: THREADS[room] };
  });
  rooms.set(room, made);
  return made;
}

/** Whether tasks are carried out in this thread: for tests and one-off commands, which read nothing of strangers. */
const here = () => process.env.OTTIK_WORK === 'here';

/**
 * Carries out a task in a thread of its own, within limits of time and memory.
 * @throws RecordError where what was read is refused, or needs more time or memory than it may have
 */
export async function work<K extends keyof Tasks>(task: K, asked: Parameters<Tasks[K]>[0], limits: { time?: number } = {}): Promise<Awaited<ReturnType<Tasks[K]>>> {
  if (here()) {
    const { TASKS } = await import('./tasks.ts');
    return (await TASKS[task](asked as never)) as Awaited<ReturnType<Tasks[K]>>;
  }
  const threads = await threadsOf(ROOM[task]);
  if (threads.free > 0) threads.free--;
  else await new Promise<void>((go) => threads.waiting.push(go));
  const time = limits.time ?? TIME[task];
  try {
    const outcome: Outcome<Awaited<ReturnType<Tasks[K]>>> = await threads.pool.run({ task, asked }, { signal: AbortSignal.timeout(time) });
    if ('ok' in outcome) return outcome.ok;
    if ('refused' in outcome) throw new RecordError(outcome.refused.message, outcome.refused.advice, outcome.refused.line);
    throw new Error(outcome.failed);
  } catch (error) {
    const e = error as { name?: string; code?: string };
    if (e.name === 'AbortError' || e.name === 'TimeoutError') throw new RecordError(`Reading it took longer than ${Math.round(time / 1000)} seconds and was stopped.`, 'Bring it in in parts, or as plain text.');
    if (e.code === 'ERR_WORKER_OUT_OF_MEMORY') throw new RecordError(`Reading it takes more than ${MEMORY} MB of memory and was stopped.`, 'Bring it in in parts, or as plain text.');
    throw error;
  } finally {
    const next = threads.waiting.shift();
    if (next) next();
    else threads.free++;
  }
}

/** Ends the threads, so that a program that is done can end. */
export async function endWork(): Promise<void> {
  const all = [...rooms.values()];
  rooms.clear();
  await Promise.all(all.map(async (t) => (await t).pool.destroy()));
}
