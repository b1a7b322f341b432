import { z } from 'zod';
import { ledgerLives, ledgerRows } from '../../server/ledger/commitments.ts';
import { ledgerSince } from '../../server/ledger/live.ts';
import { currentProject } from '../../server/people/session.ts';
import { answer, endpoint } from '../../server/web/requests.ts';

/** Every line of the project's Ledger, or of all projects, without the small threads; with `since`, the lines something happened to after that stamp. */
export const GET = answer(async ({ asker, db, context }) => {
  const { searchParams: asked } = context.url;
  const project = asked.get('projects') === 'all' ? null : (await currentProject(context, asker, db)).current;
  const since = z.coerce
    .number()
    .int()
    .min(0)
    .safeParse(asked.get('since') ?? undefined);
  if (since.success) return ledgerSince(asker, db, project, since.data);
  return { rows: await ledgerRows(asker, db, { ...(project === null ? {} : { project }), state: 'all', lives: false }) };
});

/** The small threads of some lines. */
export const POST = endpoint(z.object({ lives: z.array(z.number().int()).max(2000) }), async ({ asker, db, body }) => ({ lives: await ledgerLives(asker, db, body.lives) }));
