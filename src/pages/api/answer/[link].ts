import { z } from 'zod';
import { LETTER_WISHES } from '../../../core/letters/rules.ts';
import { answerPage, TellSchema, tell, wishLetters } from '../../../server/letters/answer-page.ts';
import { today } from '../../../server/store/clock.ts';
import { openEndpoint } from '../../../server/web/requests.ts';

const Body = z.union([TellSchema, z.object({ do: z.literal('letters'), which: z.enum(LETTER_WISHES) })]);

/** What somebody without an account tells by the link in their letter. */
export const POST = openEndpoint(Body, async ({ db, body, context }) => {
  const link = context.params.link ?? '';
  if (body.do !== 'letters') return tell(db, link, body, today());
  await wishLetters(db, link, body.which, today());
  return answerPage(db, link, today());
});
