import { z } from 'zod';
import { ledgerLives, ledgerRows } from '../../server/ledger/commitments.ts';
import { ledgerSince } from '../../server/ledger/live.ts';

import { answer, endpoint } from '../../server/web/requests.ts';

/** Every line of the project's Ledger, or of all projects, without the small threads; with `since`, the lines something happened to after that stamp. */
export const GET = answer(async ({ ws, context }) => {
  const { searchParams: asked } = context.url;
  const project = asked.get('projects') === 'all' ? null : ws.project;
  const since = z.coerce
    .number()
    .int()
    .min(0)
    .safeParse(asked.get('since') ?? undefined);
  if (since.success) return ledgerSince(ws, project, since.data);
  return { rows: await ledgerRows(ws, { ...(project === null ? {} : { project }), state: 'all', lives: false }) };
});

/** The small threads of some lines. */
export const POST = endpoint(z.object({ lives: z.array(z.number().int()).max(2000) }), async ({ ws, body }) => ({ lives: await ledgerLives(ws, body.lives) }), 'read');
