import { z } from 'zod';
import { dropView, saveView, ViewSchema } from '../../server/ledger/views.ts';
import { currentProject } from '../../server/people/session.ts';
import { endpoint } from '../../server/web/requests.ts';

const Body = z.union([ViewSchema, z.object({ drop: z.number().int() })]);

export const POST = endpoint(Body, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  return { views: 'drop' in body ? await dropView(asker, db, current, body.drop) : await saveView(asker, db, current, body) };
});
