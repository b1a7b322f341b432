import { ForgetSchema, forgetLearned } from '../../server/sift/learned.ts';
import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(
  ForgetSchema,
  async ({ ws, body }) => {
    await forgetLearned(ws, body.project);
    return { ok: true };
  },
  'manage',
);
