import { addList, ListSchema, readList } from '../../../server/people/details.ts';
import { currentProject } from '../../../server/people/session.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** Reads a pasted list of people, or adds those in it. */
export const POST = endpoint(ListSchema, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  return body.do === 'read' ? readList(asker, db, current, body.text) : addList(asker, db, current, body.text);
});
