import { PlanningSchema, plan } from '../../../server/meetings/planning.ts';

import { endpoint } from '../../../server/web/requests.ts';

/** Begins a series, plans a meeting, or takes either back. */
export const POST = endpoint(PlanningSchema, async ({ ws, body }) => plan(ws, ws.project, body));
