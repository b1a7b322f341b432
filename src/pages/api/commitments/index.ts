import { z } from 'zod';
import { BulkSchema, changeMany, enterCommitment, NewCommitmentSchema, undoMany } from '../../../server/changes.ts';
import { today } from '../../../server/clock.ts';
import { currentProject, endpoint } from '../../../server/http.ts';

const Body = z.union([BulkSchema, z.object({ undo: z.array(z.number().int()).min(1).max(5000) }), NewCommitmentSchema]);

/** Many commitments at once, or a new one entered by hand. */
export const POST = endpoint(Body, async ({ asker, db, body, context }) => {
  if ('ids' in body) return changeMany(asker, db, body, today());
  if ('undo' in body) return undoMany(asker, db, body.undo, today());
  return enterCommitment(asker, db, (await currentProject(context, asker, db)).current, body, today());
});
