import { z } from 'zod';
import { LetterRulesSchema, ReaderWishesSchema } from '../../core/letters/rules.ts';
import { keepChannel, keepRules, keepWishes } from '../../server/letters/rules.ts';

import { endpoint } from '../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [z.object({ do: z.literal('rules'), rules: LetterRulesSchema }), z.object({ do: z.literal('wishes'), person: z.string().max(140), wishes: ReaderWishesSchema }), z.object({ do: z.literal('channel'), url: z.string().trim().max(500) })]);

export const POST = endpoint(
  Body,
  async ({ ws, body }) => {
    if (body.do === 'rules') return keepRules(ws, ws.project, body.rules);
    if (body.do === 'channel') return keepChannel(ws, ws.project, body.url);
    await keepWishes(ws, ws.project, body.person, body.wishes);
    return { kept: body.person };
  },
  'manage',
);
