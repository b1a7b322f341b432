import { RecordError } from '../../core/record/model.ts';
import { Refusal } from '../refusal.ts';
import { work } from '../work/pool.ts';
import type { RecordFile } from '../work/record-files.ts';

/** Reads the bytes of a record. @throws Refusal that says what is wrong with it, and on which line */
export async function readBytes(bytes: Uint8Array, fileName: string | null, layout: string | null): Promise<RecordFile> {
  try {
    return await work('record', { bytes, fileName, format: null, as: layout });
  } catch (error) {
    if (error instanceof RecordError) throw new Refusal('bad-input', `${fileName ?? 'The pasted text'}: ${error.message}`, error.advice, error.line);
    throw error;
  }
}
