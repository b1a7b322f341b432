import type { Finds } from '../core/sift/find.ts';
import type { SiftModels } from '../core/sift/models.ts';
import type { SiftInput } from '../core/sift/reading.ts';
import { sift } from '../core/sift/sift.ts';
import quick from '../core/sift/weights/quick.json' with { type: 'json' };

/** Sifts with the quick reader: milliseconds for an hour's record. */
export async function siftRecord(input: SiftInput): Promise<Finds> {
  return sift(input, quick as unknown as SiftModels);
}
