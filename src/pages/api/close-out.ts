import { CloseOutSchema, closeTheDay } from '../../server/day/close-out.ts';

import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(CloseOutSchema, async ({ ws, body }) => closeTheDay(ws, ws.project, body));
