import type { Finds } from '../../core/sift/find.ts';
import type { SiftModels } from '../../core/sift/models.ts';
import type { CloseReading, SiftInput } from '../../core/sift/reading.ts';
import { sift } from '../../core/sift/sift.ts';
import close from '../../core/sift/weights/close.json' with { type: 'json' };
import quick from '../../core/sift/weights/quick.json' with { type: 'json' };

export const QUICK = quick as unknown as SiftModels;

/** Sifts in this thread: with the quick reader, or with what the close reader has read. */
export const siftHere = (input: SiftInput, read: CloseReading | null): Finds => (read ? sift(input, close as unknown as SiftModels, read) : sift(input, QUICK));
