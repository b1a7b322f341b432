import { z } from 'zod';
import { BulkSchema, changeMany, enterCommitment, NewCommitmentSchema, undoMany } from '../../../server/ledger/changes.ts';
import { DifferSchema, duplicatesOf, MergeSchema, mergeCommitments, SendSchema, SplitSchema, sayTheyDiffer, sendToProject, splitCommitment } from '../../../server/ledger/merging.ts';

import { answer, endpoint } from '../../../server/web/requests.ts';

const Body = z.union([BulkSchema, MergeSchema, SplitSchema, DifferSchema, SendSchema, z.object({ undo: z.array(z.number().int()).min(1).max(5000) }), NewCommitmentSchema]);

/** Open commitments that may be the same. */
export const GET = answer(async ({ ws }) => ({ pairs: await duplicatesOf(ws, ws.project) }));

/** Many commitments at once, merged, split, or a new one entered by hand. */
export const POST = endpoint(Body, async ({ ws, body }) => {
  if ('ids' in body) return changeMany(ws, body);
  if ('merge' in body) return mergeCommitments(ws, body);
  if ('split' in body) return splitCommitment(ws, body);
  if ('send' in body) return sendToProject(ws, body);
  if ('differ' in body) {
    await sayTheyDiffer(ws, body);
    return { ok: true };
  }
  if ('undo' in body) return undoMany(ws, body.undo);
  return enterCommitment(ws, ws.project, body);
});
