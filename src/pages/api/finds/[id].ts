import { z } from 'zod';
import { passFind, reopenFind, TakeSchema, takeFind } from '../../../server/finds.ts';
import { endpoint } from '../../../server/http.ts';
import { ReshapeSchema, reshapeFind } from '../../../server/reshape.ts';

const Body = z.discriminatedUnion('do', [TakeSchema.extend({ do: z.literal('take') }), z.object({ do: z.literal('pass') }), z.object({ do: z.literal('reopen') }), ...ReshapeSchema.options]);

export const POST = endpoint(Body, ({ asker, db, body, id }) => {
  if (body.do === 'take') return takeFind(asker, db, id, body);
  if (body.do === 'pass') return passFind(asker, db, id);
  if (body.do === 'reopen') return reopenFind(asker, db, id);
  return reshapeFind(asker, db, id, body);
});
