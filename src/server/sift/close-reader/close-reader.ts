import { existsSync } from 'node:fs';
import { cpus } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import { Collected } from '../../../core/sift/close/collect.ts';
import { likelyPlaces, unsettled } from '../../../core/sift/close/likely.ts';
import { aboutStretches, marksOf, piecesOf, type Stretch, settleStretches, turnStretches } from '../../../core/sift/close/stretches.ts';
import type { SiftModels } from '../../../core/sift/models.ts';
import { type CloseReading, readUnits, type SiftInput } from '../../../core/sift/reading.ts';
import { type CloseModel, loadModel } from './model.ts';

/** Says how far a reading is, in stretches. */
export type Progress = (done: number, all: number) => void;

export interface CloseReader {
  read(input: SiftInput, quick: SiftModels, progress?: Progress): Promise<CloseReading>;
  close(): Promise<void>;
}

interface Job {
  got(at: number, markers: Float32Array): void;
  done(): void;
  failed(error: Error): void;
}

/** Folder of this module in the source tree, also where the server was built into another place. */
function home(): string {
  const beside = dirname(fileURLToPath(import.meta.url));
  const found = [beside, join(process.cwd(), 'src/server/sift/close-reader')].find((d) => existsSync(join(d, 'worker.mjs')));
  if (!found) throw new Error('its files are not where they were put');
  return found;
}

/**
 * Starts the close reader in a thread of its own.
 * @throws Error when its files are missing or damaged, or the runtime cannot be started
 */
export async function startCloseReader(folder?: string): Promise<CloseReader> {
  const at = home();
  const model = await loadModel(folder ?? join(at, 'model'));
  const worker = new Worker(join(at, 'worker.mjs'), { execArgv: [] });
  worker.unref();
  const jobs = new Map<number, Job>();
  await new Promise<void>((ready, failed) => {
    worker.on('message', (m: { ready?: true; failed?: string; job?: number; at?: number; markers?: Float32Array; done?: true }) => {
      const job = m.job === undefined ? null : jobs.get(m.job);
      if (m.ready) ready();
      else if (m.failed !== undefined) job ? job.failed(new Error(m.failed)) : failed(new Error(m.failed));
      else if (m.markers) job?.got(m.at!, m.markers);
      else if (m.done) job?.done();
    });
    const stop = (error: Error) => {
      failed(error);
      for (const j of jobs.values()) j.failed(error);
    };
    worker.on('error', stop);
    worker.on('exit', () => stop(new Error('its thread has ended')));
    worker.postMessage({ model: model.graph, threads: Math.max(1, Math.min(2, cpus().length)) }, [model.graph.buffer as ArrayBuffer]);
  });
  let last = 0;
  return {
    read: (input, quick, progress) => readClosely(model, input, quick, (stretches, got) => post(worker, jobs, ++last, stretches, got), progress),
    close: async () => void (await worker.terminate()),
  };
}

function post(worker: Worker, jobs: Map<number, Job>, job: number, stretches: readonly Stretch[], got: Job['got']): Promise<void> {
  return new Promise((resolve, reject) => {
    const end = (then: () => void) => {
      jobs.delete(job);
      if (jobs.size === 0) worker.unref();
      then();
    };
    jobs.set(job, { got, done: () => end(resolve), failed: (error) => end(() => reject(error)) });
    worker.ref();
    worker.postMessage({ job, stretches: stretches.map((s) => ({ ids: s.ids, parts: s.parts, marks: marksOf(s) })) });
  });
}

async function readClosely(model: CloseModel, input: SiftInput, quick: SiftModels, run: (stretches: Stretch[], got: Job['got']) => Promise<void>, progress?: Progress): Promise<CloseReading> {
  const reading = readUnits(input);
  const units = piecesOf(reading, model.pieces);
  const likely = likelyPlaces(reading, quick);
  const stretches = [...turnStretches(units, model.pieces), ...input.open.flatMap((o) => aboutStretches(units, model.pieces, { id: o.id, text: o.text, who: o.owner.map((p) => reading.roster.firstName(p)).join(' and ') }, likely.get(o.id) ?? []))];
  const collected = new Collected(units.length, model.shape);
  let [done, all] = [0, stretches.length];
  const readAll = async (some: Stretch[]) => {
    if (some.length === 0) return;
    await run(some, (at, markers) => {
      collected.add(some[at]!, markers);
      progress?.(++done, all);
    });
  };
  await readAll(stretches);
  const settling = settleStretches(reading, units, model.pieces, unsettled(collected.nature));
  all += settling.length;
  await readAll(settling);
  return collected;
}
