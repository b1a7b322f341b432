import type { Finds } from '../../core/sift/find.ts';
import type { SiftInput } from '../../core/sift/reading.ts';
import { work } from '../work/pool.ts';
import { QUICK } from '../work/sifting.ts';
import { type CloseReader, type Progress, startCloseReader } from './close-reader/close-reader.ts';

/** Sifts with the quick reader: at once, for the first finds. */
export const siftRecord = (input: SiftInput): Promise<Finds> => work('sift', { input, close: null });

let started: Promise<CloseReader> | null = null;

/** The close reader, started at first use; a failed start is not tried again. Being switched off is no start, and can change. */
async function closeReader(): Promise<CloseReader> {
  if (process.env.OTTIK_CLOSE_READER === 'off') throw new Error('it is switched off');
  started ??= startCloseReader();
  return started;
}

/**
 * Sifts with the close reader, which takes its time.
 * @returns finds, or why it can only be the quick reader's
 */
export async function siftClosely(input: SiftInput, progress?: Progress): Promise<{ finds: Finds } | { quickOnly: string }> {
  const began = Date.now();
  try {
    const close = await (await closeReader()).read(input, QUICK, progress);
    const finds = await work('sift', { input, close });
    last = { at: new Date().toISOString(), milliseconds: Date.now() - began, fault: null };
    return { finds };
  } catch (error) {
    const fault = error instanceof Error ? error.message : String(error);
    if (closeReaderState().on) last = { at: new Date().toISOString(), milliseconds: Date.now() - began, fault };
    return { quickOnly: fault };
  }
}

/** How the close reader's last reading went, since Ottik was started. */
let last: { at: string; milliseconds: number; fault: string | null } | null = null;

/** Whether the close reader is on, and how it went when it was last used. */
export const closeReaderState = () => ({ on: process.env.OTTIK_CLOSE_READER !== 'off', last });

/** Ends the close reader's thread, so that a program that has read all it wanted can end. */
export async function closeReading(): Promise<void> {
  await started?.then((reader) => reader.close()).catch(() => undefined);
  started = null;
}
