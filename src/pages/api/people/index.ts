import { addList, ListSchema, readList, takeListBack } from '../../../server/people/details.ts';

import { endpoint } from '../../../server/web/requests.ts';

/** Reads a pasted list of people, adds those in it, or takes that back. */
export const POST = endpoint(ListSchema, async ({ ws, body }) => {
  if (body.do === 'take back') return takeListBack(ws, ws.project, body);
  return body.do === 'read' ? readList(ws, ws.project, body.text) : addList(ws, ws.project, body.text);
});
