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
  try {
    const close = await (await closeReader()).read(input, QUICK, progress);
    return { finds: await work('sift', { input, close }) };
  } catch (error) {
    return { quickOnly: error instanceof Error ? error.message : String(error) };
  }
}

/** Whether the close reader works, and why not. */
export const closeReaderState = (): { on: boolean } => ({ on: process.env.OTTIK_CLOSE_READER !== 'off' });

/** Ends the close reader's thread, so that a program that has read all it wanted can end. */
export async function closeReading(): Promise<void> {
  await started?.then((reader) => reader.close()).catch(() => undefined);
  started = null;
}
