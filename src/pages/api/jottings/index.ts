import { JotSchema, jot, jottingsOf } from '../../../server/day/jottings.ts';

import { answer, endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(JotSchema, async ({ ws, body }) => jot(ws, ws.project, body), 'read');

/** Jottings by words: `?q=`. */
export const GET = answer(async ({ ws, context }) => ({ jottings: await jottingsOf(ws, ws.project, { words: (context.url.searchParams.get('q') ?? '').slice(0, 200) }) }));
