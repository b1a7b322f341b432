import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Finds } from '../core/sift/find.ts';
import type { SiftModels } from '../core/sift/models.ts';
import type { SiftInput } from '../core/sift/reading.ts';
import { sift } from '../core/sift/sift.ts';
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

let close: Promise<Close> | null = null;

/** The close reader and the weights that go with it, started at first use; a failed start is not tried again. */
function closeReader(): Promise<Close> {
  close ??= (async () => {
    if (process.env.OTTIK_CLOSE_READER === 'off') throw new Error('it is switched off');
    const file = join(process.cwd(), 'src/core/sift/weights/close.json');
    if (!existsSync(file)) throw new Error('its weights are missing');
    const models = JSON.parse(readFileSync(file, 'utf8')) as SiftModels;
    return { reader: await startCloseReader(), models };
  })();
  return close;
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
  await close?.then((c) => c.reader.close()).catch(() => undefined);
  close = null;
}
