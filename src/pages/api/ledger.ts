import { z } from 'zod';
import { answer, currentProject, endpoint } from '../../server/http.ts';
import { ledgerLives, ledgerRows } from '../../server/ledger.ts';

/** Every line of the project's Ledger, or of all projects, without the small threads. */
export const GET = answer(async ({ asker, db, context }) => ({ rows: await ledgerRows(asker, db, { ...(context.url.searchParams.get('projects') === 'all' ? {} : { project: (await currentProject(context, asker, db)).current }), state: 'all', lives: false }) }));

/** The small threads of some lines. */
export const POST = endpoint(z.object({ lives: z.array(z.number().int()).max(2000) }), async ({ asker, db, body }) => ({ lives: await ledgerLives(asker, db, body.lives) }));
