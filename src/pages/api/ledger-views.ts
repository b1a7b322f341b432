import { z } from 'zod';
import { dropView, saveView, ViewSchema } from '../../server/ledger/views.ts';

import { endpoint } from '../../server/web/requests.ts';

const Body = z.union([ViewSchema, z.object({ drop: z.number().int() })]);

export const POST = endpoint(
  Body,
  async ({ ws, body }) => {
    return { views: 'drop' in body ? await dropView(ws, ws.project, body.drop) : await saveView(ws, ws.project, body) };
  },
  'read',
);
