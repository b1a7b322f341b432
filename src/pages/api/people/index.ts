import { addList, ListSchema, readList } from '../../../server/people/details.ts';

import { endpoint } from '../../../server/web/requests.ts';

/** Reads a pasted list of people, or adds those in it. */
export const POST = endpoint(ListSchema, async ({ ws, body }) => {
  return body.do === 'read' ? readList(ws, ws.project, body.text) : addList(ws, ws.project, body.text);
});
