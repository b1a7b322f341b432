import { z } from 'zod';
import { passAnswer, reopenAnswer, TakeAnswerSchema, takeAnswer } from '../../../server/letters/replies.ts';
import { today } from '../../../server/store/clock.ts';
import { endpoint } from '../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [TakeAnswerSchema.extend({ do: z.literal('take') }), z.object({ do: z.literal('pass') }), z.object({ do: z.literal('reopen') })]);

export const POST = endpoint(Body, ({ asker, db, body, id }) => (body.do === 'take' ? takeAnswer(asker, db, id, body, today()) : body.do === 'pass' ? passAnswer(asker, db, id) : reopenAnswer(asker, db, id, today())));
