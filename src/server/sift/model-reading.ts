import { z } from 'zod';
import type { ModelGist } from '../../core/gist/model/checking.ts';
import { costsTheFind, FAULTS, type Fault } from '../../core/sift/model/checking.ts';
import { partsOf, wordsIn } from '../../core/sift/model/question.ts';
import type { SiftInput } from '../../core/sift/reading.ts';
import { note } from '../people/audit.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { ServerTrouble } from '../store/guarded-fetch.ts';
import { log } from '../store/log.ts';
import { keepFinds, ownFinds, siftInput } from './finds.ts';
import { type AnswerShelf, callsAtOnce, gistWithModel, type ModelProgress, type ReadingAsked, readingHash, readWithModel } from './model-reader/reading.ts';
import { type ModelSetup, modelSetup, modelShown, STAND_IN, switchModelReader } from './model-reader/setup.ts';

/** What a page tells of the model reader beside a record: what would go out, to whom, and how its reading stands. */
export interface ModelReading {
  host: string;
  model: string;
  standIn: boolean;
  masked: boolean;
  /** whether this project has its records read by it */
  on: boolean;
  /** whether this record's words never go out */
  private: boolean;
  words: number;
  people: number;
  open: number;
  notes: number;
  reading: {
    state: 'waiting' | 'reading' | 'done' | 'failed' | 'cancelled';
    parts: number;
    done: number;
    /** characters of the answer that is coming in */
    coming: number;
    found: number;
    both: number;
    /** what was not believed, in words: how many, and why */
    dropped: string[];
    why: string | null;
    milliseconds: number;
  } | null;
}

interface Running {
  cancel: AbortController;
  coming: number;
}
const running = new Map<number, Running>();
/** by record, what has not settled yet: its finds, and what is told of it after these */
const underWay = new Map<number, Promise<unknown>>();

async function placeOf(ws: Workspace, record: number) {
  const row = await ws.db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').innerJoin('projects as p', 'p.id', 'm.project_id').select(['m.project_id as project', 'm.id as meeting', 'r.private', 'r.gone_at', 'p.model_reader']).where('r.id', '=', record).executeTakeFirst();
  mustSee(ws, row?.project, 'record');
  return row!;
}

/** Jottings of whoever asks that are about the meeting. */
async function notesOf(ws: Workspace, meeting: number): Promise<string[]> {
  const rows = await ws.db.selectFrom('jottings').select('text').where('about_kind', '=', 'meeting').where('about_id', '=', String(meeting)).where('by_person', '=', ws.asker.person).where('removed_at', 'is', null).orderBy('id').execute();
  return rows.map((r) => r.text);
}

/** How the model reader stands with a record; null while none is set up, or where the record's words are gone. */
export async function modelReadingOf(ws: Workspace, record: number): Promise<ModelReading | null> {
  const at = await placeOf(ws, record);
  const shown = await modelShown(ws.db);
  if (!shown || at.gone_at) return null;
  const input = await siftInput(ws, at.meeting, record);
  const last = await ws.db.selectFrom('model_readings').selectAll().where('record_id', '=', record).executeTakeFirst();
  const now = running.get(record);
  // one that was under way when Ottik ended is neither under way nor done
  const brokenOff = last && !now && (last.state === 'waiting' || last.state === 'reading');
  return {
    host: shown.host,
    model: shown.model,
    standIn: shown.standIn,
    masked: shown.masked,
    on: at.model_reader === 1,
    private: at.private === 1,
    words: wordsIn(input),
    people: input.people.length,
    open: input.open.length,
    notes: (await notesOf(ws, at.meeting)).length,
    reading: last
      ? {
          state: brokenOff ? 'failed' : last.state,
          parts: last.parts,
          done: last.done,
          coming: now?.coming ?? 0,
          found: last.found,
          both: last.both,
          dropped: faultsInWords(CODECS.faults.read(last.faults)),
          why: brokenOff ? 'Ottik was stopped meanwhile. What was answered is kept.' : last.why,
          milliseconds: last.milliseconds,
        }
      : null,
  };
}

/** What was not believed, each kind once with its number. */
export function faultsInWords(faults: Readonly<Record<string, number>>): string[] {
  return (Object.entries(faults) as [Fault, number][]).filter(([f]) => f in FAULTS).map(([f, n]) => (costsTheFind(f) ? `${n} dropped: ${n === 1 ? 'it' : 'each'} ${FAULTS[f]}` : `${n} put right: ${n === 1 ? 'it' : 'each'} ${FAULTS[f]}`));
}

export const ModelActSchema = z.discriminatedUnion('do', [
  /** reads this record, and from now on every one of the project */
  z.object({ do: z.literal('switch on') }),
  z.object({ do: z.literal('switch off') }),
  z.object({ do: z.literal('read by model') }),
  z.object({ do: z.literal('cancel') }),
  z.object({ do: z.literal('private'), private: z.boolean() }),
]);

/** Switches the model reader on or off for a project, has it read a record, or stops it. */
export async function modelAct(ws: Workspace, record: number, act: z.infer<typeof ModelActSchema>): Promise<ModelReading | null> {
  const at = await placeOf(ws, record);
  switch (act.do) {
    case 'switch on':
    case 'switch off':
      await switchModelReader(ws, at.project, act.do === 'switch on');
      if (act.do === 'switch on') await beginReading(ws, record, true);
      else running.get(record)?.cancel.abort();
      break;
    case 'read by model':
      if (!at.model_reader) throw new Refusal('conflict', 'The model reader is off in this project.', 'Switch it on first.');
      await beginReading(ws, record);
      break;
    case 'cancel':
      running.get(record)?.cancel.abort();
      break;
    case 'private':
      if (act.private) running.get(record)?.cancel.abort();
      await ws.db
        .updateTable('records')
        .set({ private: act.private ? 1 : 0 })
        .where('id', '=', record)
        .execute();
  }
  return modelReadingOf(ws, record);
}

/**
 * Reads a record in a project that has it read. What was answered before costs nothing, and is joined anew: Sift's own finds
 * are others once the close reader is through.
 */
export async function readByItself(ws: Workspace, record: number): Promise<void> {
  await underWay.get(record);
  const at = await placeOf(ws, record);
  if (at.model_reader !== 1 || at.private === 1 || at.gone_at) return;
  const last = await ws.db.selectFrom('model_readings').select('state').where('record_id', '=', record).executeTakeFirst();
  if (last && (last.state === 'cancelled' || last.state === 'failed')) return;
  if (await modelShown(ws.db)) await beginReading(ws, record);
}

/** @param unlessRead not where it was read as it is now */
async function beginReading(ws: Workspace, record: number, unlessRead = false): Promise<void> {
  if (running.has(record)) return;
  const now: Running = { cancel: new AbortController(), coming: 0 };
  running.set(record, now);
  try {
    const at = await placeOf(ws, record);
    const setup = await modelSetup(ws.db);
    if (!setup) throw new Refusal('conflict', 'No model server is set up.', 'Enter its address on the page of the readers.');
    if (at.private === 1) throw new Refusal('conflict', 'This record is private: its words do not leave this machine.');
    if (at.gone_at) throw new Refusal('conflict', 'The words of this record are gone.');
    const [input, notes] = [await siftInput(ws, at.meeting, record), await notesOf(ws, at.meeting)];
    const asked = { ...setup, input, notes };
    const words = wordsIn(input);
    const hash = readingHash(asked);
    const last = unlessRead ? await ws.db.selectFrom('model_readings').select(['state', 'hash']).where('record_id', '=', record).executeTakeFirst() : null;
    if (last?.state === 'done' && last.hash === hash) {
      running.delete(record);
      return;
    }
    const row = { state: 'waiting' as const, hash, model: setup.model, parts: partsOf(input, setup.context).length, done: 0, words, found: 0, both: 0, faults: '{}', why: null, milliseconds: 0, at: new Date().toISOString(), by_person: ws.asker.person };
    await ws.db
      .insertInto('model_readings')
      .values({ record_id: record, ...row })
      .onConflict((c) => c.column('record_id').doUpdateSet(row))
      .execute();
    let told = false;
    const beforeSending = async () => {
      const still = await placeOf(ws, record);
      const kept = await modelSetup(ws.db);
      if (still.model_reader !== 1 || still.private === 1 || still.gone_at || kept?.address !== setup.address) throw new ServerTrouble('cancelled', 'Switched off meanwhile; nothing more was sent.');
      if (told) return;
      told = true;
      await note(ws.db, ws.asker.person, at.project, { did: 'sent', what: `a record to the model reader: ${words} words to ${setup.server.model} at ${new URL(setup.address).host}${setup.masked ? ', names replaced' : ''}`, about: String(at.meeting) }, new Date());
    };
    const reading = readOn(ws, at.meeting, record, setup, input, notes, now, beforeSending)
      .finally(() => running.delete(record))
      .then((asked) => asked && tellGist(ws, record, setup.model, asked))
      .catch((error: unknown) => log.error(error));
    underWay.set(record, reading);
    void reading.then(() => underWay.get(record) === reading && underWay.delete(record));
  } catch (error) {
    running.delete(record);
    throw error;
  }
}

async function readOn(ws: Workspace, meeting: number, record: number, setup: ModelSetup, input: SiftInput, notes: string[], now: Running, beforeSending: () => Promise<void>): Promise<ReadingAsked | null> {
  const began = Date.now();
  const keep = (state: 'reading' | 'done' | 'failed' | 'cancelled', p: ModelProgress | null, why: string | null = null) =>
    ws.db
      .updateTable('model_readings')
      .set({ state, why, milliseconds: Date.now() - began, ...(p ? { done: p.done, found: p.found, both: p.both, faults: CODECS.faults.write(p.faults) } : {}) })
      .where('record_id', '=', record)
      .execute();
  try {
    callsAtOnce(setup.parallel);
    const own = await ownFinds(ws, meeting, record);
    const onPart = async (p: ModelProgress) => {
      // what came after it was stopped is not laid over what stands
      if (now.cancel.signal.aborted) return;
      now.coming = 0;
      await keepFinds(ws.db, meeting, record, { finds: p.finds, reader: 'model' });
      await keep('reading', p);
    };
    await keep('reading', null);
    const asked = {
      ...setup,
      input,
      own,
      notes,
      shelf: shelfOf(ws.db, record),
      signal: now.cancel.signal,
      beforeSending,
      onPart,
      onText: (n: number) => {
        now.coming = n;
      },
    };
    const all = await readWithModel(asked);
    await keep('done', all);
    return asked;
  } catch (error) {
    if (now.cancel.signal.aborted) await keep('cancelled', null, null);
    else {
      if (!(error instanceof ServerTrouble)) log.error(error);
      await keep('failed', null, error instanceof ServerTrouble ? error.message : 'Something went wrong; the log says what.').catch((e: unknown) => log.error(e));
    }
    return null;
  }
}

/** Has what the record is about told too; it comes after what came out of it, and nothing is lost where it does not come. */
async function tellGist(ws: Workspace, record: number, model: string, asked: ReadingAsked): Promise<void> {
  try {
    const kept = { model, gist: CODECS.modelGist.write(await gistWithModel(asked)), at: new Date().toISOString() };
    await ws.db
      .insertInto('model_gists')
      .values({ record_id: record, ...kept })
      .onConflict((c) => c.column('record_id').doUpdateSet(kept))
      .execute();
  } catch (error) {
    if (!(error instanceof ServerTrouble)) throw error;
    log.info(`no summary by the model: ${error.message}`);
  }
}

/** Settles once nothing is being read. */
export const modelAtRest = async (): Promise<void> => void (await Promise.all(underWay.values()));

function shelfOf(db: Db, record: number): AnswerShelf {
  return {
    get: async (hash) => {
      const row = await db.selectFrom('model_answers').select(['answer', 'cut']).where('hash', '=', hash).executeTakeFirst();
      return row ? { value: JSON.parse(row.answer) as unknown, cut: row.cut === 1 } : null;
    },
    put: async (hash, { value, cut }) => {
      await db
        .insertInto('model_answers')
        .values({ record_id: record, hash, answer: JSON.stringify(value), cut: cut ? 1 : 0, at: new Date().toISOString() })
        .onConflict((c) => c.column('hash').doNothing())
        .execute();
    },
  };
}

/** What the model reader told of a record besides its finds, where it did. */
export async function modelGistOf(ws: Workspace, record: number): Promise<{ gist: ModelGist; model: string; standIn: boolean } | null> {
  await placeOf(ws, record);
  const kept = await ws.db.selectFrom('model_gists').select(['gist', 'model']).where('record_id', '=', record).executeTakeFirst();
  return kept ? { gist: CODECS.modelGist.read(kept.gist), model: kept.model, standIn: kept.model === STAND_IN } : null;
}

/** Readings of the model reader, the latest first, for the page of the readers. */
export async function lastModelReadings(ws: Workspace, most = 12) {
  const rows = await ws.db
    .selectFrom('model_readings as x')
    .innerJoin('records as r', 'r.id', 'x.record_id')
    .innerJoin('meetings as m', 'm.id', 'r.meeting_id')
    .select(['x.record_id as record', 'm.id as meeting', 'm.title', 'm.date', 'x.state', 'x.model', 'x.words', 'x.found', 'x.both', 'x.faults', 'x.why', 'x.milliseconds', 'x.at'])
    .where('m.project_id', 'in', [...ws.asker.projects, ''])
    .orderBy('x.at', 'desc')
    .limit(most)
    .execute();
  return rows.map(({ faults, ...r }) => ({ ...r, standIn: r.model === STAND_IN, dropped: faultsInWords(CODECS.faults.read(faults)) }));
}
