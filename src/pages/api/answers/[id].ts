import { z } from 'zod';
import { today } from '../../../server/clock.ts';
import { endpoint } from '../../../server/http.ts';
import { passAnswer, reopenAnswer, TakeAnswerSchema, takeAnswer } from '../../../server/letters/replies.ts';

const Body = z.discriminatedUnion('do', [TakeAnswerSchema.extend({ do: z.literal('take') }), z.object({ do: z.literal('pass') }), z.object({ do: z.literal('reopen') })]);

export const POST = endpoint(Body, ({ asker, db, body, id }) => (body.do === 'take' ? takeAnswer(asker, db, id, body, today()) : body.do === 'pass' ? passAnswer(asker, db, id) : reopenAnswer(asker, db, id, today())));
