import { changeCommitment, rowOf, SeenChangeSchema } from '../../../server/ledger/changes.ts';
import { currentProject } from '../../../server/people/session.ts';
import { Refusal } from '../../../server/refusal.ts';
import { today } from '../../../server/store/clock.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(SeenChangeSchema, ({ asker, db, body, id }) => changeCommitment(asker, db, id, body, today()));

/** One line of the Ledger as it stands now. */
export const GET = answer(async ({ asker, db, id, context }) => {
  const row = await rowOf(asker, db, (await currentProject(context, asker, db)).current, id);
  if (!row) throw new Refusal('not-found', 'There is no such commitment.');
  return { row };
});
