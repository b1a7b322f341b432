import { z } from 'zod';
import { roundUpsFor } from '../../../../server/letters/round-up.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Drafts the round-ups of a meeting where there are none yet. */
export const POST = endpoint(z.object({ do: z.literal('draft') }), async ({ ws, id }) => ({ letters: (await roundUpsFor(ws, id)).map((l) => l.id) }));
