import { z } from 'zod';
import { stepInto } from '../../server/people/step-into.ts';
import { endpoint } from '../../server/web/requests.ts';

/** In the demo: be another of its people. */
export const POST = endpoint(
  z.object({ person: z.string().max(140) }),
  async ({ ws, body, context }) => {
    const { name } = await stepInto(ws, body.person);
    context.cookies.set('person', body.person, { path: '/', httpOnly: true, sameSite: 'lax' });
    return { name };
  },
  'read',
);
