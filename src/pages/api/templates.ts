import { z } from 'zod';
import { LANGUAGES, LENGTHS, LETTER_KINDS, TONES } from '../../core/letters/kinds.ts';
import { previewTemplate } from '../../server/letters/template-preview.ts';
import { dropTemplate, keepTemplate, TemplateSchema, templateOf } from '../../server/letters/templates.ts';
import { currentProject } from '../../server/people/session.ts';
import { today } from '../../server/store/clock.ts';
import { endpoint } from '../../server/web/requests.ts';

const Which = { kind: z.enum(LETTER_KINDS), language: z.enum(LANGUAGES), series: z.string().max(140) };
const Body = z.discriminatedUnion('do', [
  TemplateSchema.extend({ do: z.literal('keep') }),
  z.object({ do: z.literal('drop'), ...Which }),
  z.object({ do: z.literal('read'), ...Which }),
  z.object({ do: z.literal('preview'), ...Which, tone: z.enum(TONES), length: z.enum(LENGTHS), subject: z.string().max(1000), body: z.string().max(20_000), short: z.string().max(2000) }),
]);

export const POST = endpoint(Body, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  if (body.do === 'preview') return previewTemplate(asker, db, current, body, today());
  if (body.do === 'keep') await keepTemplate(asker, db, current, body);
  if (body.do === 'drop') await dropTemplate(asker, db, current, body);
  return templateOf(db, current, body.series || null, body.kind, body.language);
});
