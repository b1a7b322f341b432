import { z } from 'zod';
import { passFind, reopenFind, TakeSchema, takeFind } from '../../../server/finds.ts';
import { endpoint } from '../../../server/http.ts';

const Body = z.discriminatedUnion('do', [TakeSchema.extend({ do: z.literal('take') }), z.object({ do: z.literal('pass') }), z.object({ do: z.literal('reopen') })]);

export const POST = endpoint(Body, ({ asker, db, body, id }) => (body.do === 'take' ? takeFind(asker, db, id, body) : body.do === 'pass' ? passFind(asker, db, id) : reopenFind(asker, db, id)));
