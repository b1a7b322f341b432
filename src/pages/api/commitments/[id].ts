import { changeCommitment, rowOf, SeenChangeSchema } from '../../../server/changes.ts';
import { today } from '../../../server/clock.ts';
import { answer, currentProject, endpoint } from '../../../server/http.ts';
import { Refusal } from '../../../server/refusal.ts';

export const POST = endpoint(SeenChangeSchema, ({ asker, db, body, id }) => changeCommitment(asker, db, id, body, today()));

/** One line of the Ledger as it stands now. */
export const GET = answer(async ({ asker, db, id, context }) => {
  const row = await rowOf(asker, db, (await currentProject(context, asker, db)).current, id);
  if (!row) throw new Refusal('not-found', 'There is no such commitment.');
  return { row };
});
