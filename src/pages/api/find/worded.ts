import { z } from 'zod';
import { worded } from '../../../server/find/worded.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** The answer to a question in the words of the model reader, as far as they hold up against its sources. */
export const POST = endpoint(z.object({ q: z.string().min(1, 'needs a question').max(300) }), ({ ws, body }) => worded(ws, body.q));
