import type { Finds } from '../core/sift/find.ts';
import type { SiftModels } from '../core/sift/models.ts';
import type { SiftInput } from '../core/sift/reading.ts';
import { sift } from '../core/sift/sift.ts';
import close from '../core/sift/weights/close.json' with { type: 'json' };
import quick from '../core/sift/weights/quick.json' with { type: 'json' };
import { type CloseReader, type Progress, startCloseReader } from './close-reader/close-reader.ts';

const QUICK = quick as unknown as SiftModels;

/** Sifts with the quick reader: at once, for the first finds. */
export async function siftRecord(input: SiftInput): Promise<Finds> {
  return sift(input, QUICK);
}

interface Close {
  reader: CloseReader;
  models: SiftModels;
}

let started: Promise<Close> | null = null;

/** The close reader and the weights that go with it, started at first use; a failed start is not tried again. */
function closeReader(): Promise<Close> {
  started ??= (async () => {
    if (process.env.OTTIK_CLOSE_READER === 'off') throw new Error('it is switched off');
    return { reader: await startCloseReader(), models: close as unknown as SiftModels };
  })();
  return started;
}

/**
 * Sifts with the close reader, which takes its time.
 * @returns finds, or why it can only be the quick reader's
 */
export async function siftClosely(input: SiftInput, progress?: Progress): Promise<{ finds: Finds } | { quickOnly: string }> {
  try {
    const { reader, models } = await closeReader();
    return { finds: sift(input, models, await reader.read(input, QUICK, progress)) };
  } catch (error) {
    return { quickOnly: error instanceof Error ? error.message : String(error) };
  }
}

/** Ends the close reader's thread, so that a program that has read all it wanted can end. */
export async function closeReading(): Promise<void> {
  await started?.then((c) => c.reader.close()).catch(() => undefined);
  started = null;
}
