import { ForgetSchema, forgetLearned } from '../../server/sift/learned.ts';
import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(ForgetSchema, async ({ asker, db, body }) => {
  await forgetLearned(asker, db, body.project);
  return { ok: true };
});
