import { endpoint } from '../../server/http.ts';
import { ForgetSchema, forgetLearned } from '../../server/learned.ts';

export const POST = endpoint(ForgetSchema, async ({ asker, db, body }) => {
  await forgetLearned(asker, db, body.project);
  return { ok: true };
});
