import type { KeptFind } from '../../server/sift/finds.ts';

/** Of finds that are surer than this, at least four in five are right on series nobody has learned from (`npm run bench`). */
const FULL_FROM = 0.7;

/** Nobody has touched it, and its reader is not sure enough for it to stand in full. */
export const isDoubtful = (f: KeptFind): boolean => f.verdict === 'open' && f.reader !== 'hand' && f.seen === 0 && f.confidence < FULL_FROM;

/** From this confidence on a find counts as sure, and can be taken with the others of its kind at once. */
export const SURE_FROM = 0.8;

/** A find that can be taken without a look: sure, and with everything a commitment needs. */
export function canBeTakenUnseen(f: KeptFind, sureFrom = SURE_FROM): boolean {
  return f.verdict === 'open' && f.reader !== 'doubted' && f.confidence >= sureFrom && f.doubtful?.length === 0 && (f.kind !== 'action' || (f.owner.length > 0 && f.due !== null));
}

/** The next find that waits: what is sure first, what is doubtful once nothing else is left. */
export const nextOpen = (ordered: readonly KeptFind[]): KeptFind | undefined => ordered.find((f) => f.verdict === 'open' && !isDoubtful(f)) ?? ordered.find((f) => f.verdict === 'open');
