import { z } from 'zod';
import { LANGUAGES, LENGTHS, LETTER_KINDS, TONES } from '../../core/letters/kinds.ts';
import { previewTemplate } from '../../server/letters/template-preview.ts';
import { dropTemplate, keepTemplate, TemplateSchema, templateOf } from '../../server/letters/templates.ts';

import { endpoint } from '../../server/web/requests.ts';

const Which = { kind: z.enum(LETTER_KINDS), language: z.enum(LANGUAGES), series: z.string().max(140) };
const Body = z.discriminatedUnion('do', [
  TemplateSchema.extend({ do: z.literal('keep') }),
  z.object({ do: z.literal('drop'), ...Which }),
  z.object({ do: z.literal('read'), ...Which }),
  z.object({ do: z.literal('preview'), ...Which, tone: z.enum(TONES), length: z.enum(LENGTHS), subject: z.string().max(1000), body: z.string().max(20_000), short: z.string().max(2000) }),
]);

export const POST = endpoint(
  Body,
  async ({ ws, body }) => {
    if (body.do === 'preview') return previewTemplate(ws, ws.project, body);
    if (body.do === 'keep') await keepTemplate(ws, ws.project, body);
    if (body.do === 'drop') await dropTemplate(ws, ws.project, body);
    return templateOf(ws.db, ws.project, body.series || null, body.kind, body.language);
  },
  'manage',
);
