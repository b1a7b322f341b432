import { z } from 'zod';
import { endpoint } from '../../../../server/http.ts';
import { roundUpsFor } from '../../../../server/letters/round-up.ts';

/** Drafts the round-ups of a meeting where there are none yet. */
export const POST = endpoint(z.object({ do: z.literal('draft') }), async ({ asker, db, id }) => ({ letters: (await roundUpsFor(asker, db, id)).map((l) => l.id) }));
