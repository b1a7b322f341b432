import { z } from 'zod';
import { renewLinks } from '../../../../server/letters/links.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Makes somebody's personal links anew: one's own, or as whoever runs the project anybody's. */
export const POST = endpoint(z.object({ do: z.literal('renew') }), ({ ws, context }) => renewLinks(ws, ws.project, String(context.params.id)), 'read');
