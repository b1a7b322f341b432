import { z } from 'zod';
import { passAnswer, reopenAnswer, TakeAnswerSchema, takeAnswer } from '../../../server/letters/replies.ts';
import { endpoint } from '../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [TakeAnswerSchema.extend({ do: z.literal('take') }), z.object({ do: z.literal('pass') }), z.object({ do: z.literal('reopen') })]);

export const POST = endpoint(Body, ({ ws, body, id }) => (body.do === 'take' ? takeAnswer(ws, id, body) : body.do === 'pass' ? passAnswer(ws, id) : reopenAnswer(ws, id)));
