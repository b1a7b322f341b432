import { changeCommitment, rowOf, SeenChangeSchema } from '../../../server/ledger/changes.ts';

import { Refusal } from '../../../server/refusal.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(SeenChangeSchema, ({ ws, body, id }) => changeCommitment(ws, id, body));

/** One line of the Ledger as it stands now. */
export const GET = answer(async ({ ws, id }) => {
  const row = await rowOf(ws, ws.project, id);
  if (!row) throw new Refusal('not-found', 'There is no such commitment.');
  return { row };
});
