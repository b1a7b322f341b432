import { z } from 'zod';
import { LetterRulesSchema, ReaderWishesSchema } from '../../core/letters/rules.ts';
import { keepChannel, keepRules, keepWishes } from '../../server/letters/rules.ts';
import { currentProject } from '../../server/people/session.ts';
import { endpoint } from '../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [z.object({ do: z.literal('rules'), rules: LetterRulesSchema }), z.object({ do: z.literal('wishes'), person: z.string().max(140), wishes: ReaderWishesSchema }), z.object({ do: z.literal('channel'), url: z.string().trim().max(500) })]);

export const POST = endpoint(Body, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  if (body.do === 'rules') return keepRules(asker, db, current, body.rules);
  if (body.do === 'channel') return keepChannel(asker, db, current, body.url);
  await keepWishes(asker, db, current, body.person, body.wishes);
  return { kept: body.person };
});
