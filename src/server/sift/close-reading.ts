import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { log } from '../store/log.ts';
import { findsIn, type KeptFind, keepOwnFinds, siftInput } from './finds.ts';
import { type ModelReading, modelReadingOf, readByItself } from './model-reading.ts';
import { siftClosely } from './run.ts';

/** How far the close reader is with a record. */
export interface ReadingState {
  state: 'waiting' | 'reading' | 'done' | 'quick only';
  /** stretches read, of all */
  done: number;
  all: number;
  /** why it is the quick reader alone */
  why: string | null;
}

const states = new Map<number, ReadingState>();
let queue: Promise<void> = Promise.resolve();

/** Has a record that was put right read again when it is next looked at. */
export function forgetReading(record: number): void {
  states.delete(record);
}

/** Puts a record in the queue of the close reader; one that is in it, or was read, is not read twice. */
export function readClosely(ws: Workspace, meeting: number, record: number): ReadingState {
  const known = states.get(record);
  if (known) return known;
  const state: ReadingState = { state: 'waiting', done: 0, all: 0, why: null };
  states.set(record, state);
  queue = queue
    .then(() => refine(ws, meeting, record, state))
    .then(() => readByItself(ws, record))
    .catch((error: unknown) => {
      log.error(error);
      state.state = 'quick only';
      state.why = 'reading failed; the log says why';
    });
  return state;
}

async function refine(ws: Workspace, meeting: number, record: number, state: ReadingState): Promise<void> {
  state.state = 'reading';
  const result = await siftClosely(await siftInput(ws, meeting, record), (done, all) => {
    state.done = done;
    state.all = all;
  });
  if ('quickOnly' in result) {
    state.state = 'quick only';
    state.why = result.quickOnly;
    return;
  }
  await keepOwnFinds(ws.db, meeting, record, result.finds);
  state.state = 'done';
}

/** What the Sift screen asks for while readers are at work; the finds come with the close reader's last answer. */
export async function readingOf(ws: Workspace, record: number): Promise<ReadingState & { finds: KeptFind[] | null; model: ModelReading | null }> {
  const row = await ws.db.selectFrom('records').innerJoin('meetings', 'meetings.id', 'records.meeting_id').select(['meetings.project_id as project', 'meetings.id as meeting']).where('records.id', '=', record).executeTakeFirst();
  mustSee(ws, row?.project, 'record');
  const finds = await findsIn(ws, row!.meeting, record);
  const unread = finds.some((f) => f.verdict === 'open' && f.reader === 'quick');
  const state = states.get(record) ?? (unread ? readClosely(ws, row!.meeting, record) : { state: 'done' as const, done: 0, all: 0, why: null });
  return { ...state, finds: state.state === 'done' ? finds : null, model: await modelReadingOf(ws, record) };
}
