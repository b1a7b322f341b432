import { z } from 'zod';
import { passFind, reopenFind, SeenSchema, TakeSchema, takeFind } from '../../../server/sift/judging.ts';
import { judgeFind, ReshapeSchema, reshapeFind } from '../../../server/sift/reshaping.ts';
import { endpoint } from '../../../server/web/requests.ts';

const Change = z.discriminatedUnion('do', [TakeSchema.extend({ do: z.literal('take') }), z.object({ do: z.literal('pass') }), z.object({ do: z.literal('reopen') }), z.object({ do: z.literal('judge'), right: z.boolean().nullable() }), ...ReshapeSchema.options]);
const Body = z.intersection(Change, z.object({ seen: SeenSchema }));

export const POST = endpoint(Body, ({ ws, body, id }) => {
  if (body.do === 'take') return takeFind(ws, id, body);
  if (body.do === 'pass') return passFind(ws, id, body.seen);
  if (body.do === 'reopen') return reopenFind(ws, id);
  if (body.do === 'judge') return judgeFind(ws, id, body.right);
  return reshapeFind(ws, id, body, body.seen);
});
