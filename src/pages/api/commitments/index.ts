import { z } from 'zod';
import { BulkSchema, changeMany, enterCommitment, NewCommitmentSchema, undoMany } from '../../../server/ledger/changes.ts';
import { DifferSchema, duplicatesOf, MergeSchema, mergeCommitments, SendSchema, SplitSchema, sayTheyDiffer, sendToProject, splitCommitment } from '../../../server/ledger/merging.ts';
import { currentProject } from '../../../server/people/session.ts';
import { today } from '../../../server/store/clock.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

const Body = z.union([BulkSchema, MergeSchema, SplitSchema, DifferSchema, SendSchema, z.object({ undo: z.array(z.number().int()).min(1).max(5000) }), NewCommitmentSchema]);

/** Open commitments that may be the same. */
export const GET = answer(async ({ asker, db, context }) => ({ pairs: await duplicatesOf(asker, db, (await currentProject(context, asker, db)).current) }));

/** Many commitments at once, merged, split, or a new one entered by hand. */
export const POST = endpoint(Body, async ({ asker, db, body, context }) => {
  if ('ids' in body) return changeMany(asker, db, body, today());
  if ('merge' in body) return mergeCommitments(asker, db, body, today());
  if ('split' in body) return splitCommitment(asker, db, body, today());
  if ('send' in body) return sendToProject(asker, db, body, today());
  if ('differ' in body) {
    await sayTheyDiffer(asker, db, body);
    return { ok: true };
  }
  if ('undo' in body) return undoMany(asker, db, body.undo, today());
  return enterCommitment(asker, db, (await currentProject(context, asker, db)).current, body, today());
});
