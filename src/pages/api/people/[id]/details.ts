import { changeDetails, DetailsSchema } from '../../../../server/people/details.ts';

import { endpoint } from '../../../../server/web/requests.ts';

/** Changes what an entry says of a person. */
export const POST = endpoint(DetailsSchema, async ({ ws, body, context }) => changeDetails(ws, ws.project, String(context.params.id), body));
