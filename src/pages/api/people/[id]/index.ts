import { mergePeople, PersonChangeSchema, partPeople, putBack, removePerson } from '../../../../server/people/merging.ts';

import { endpoint } from '../../../../server/web/requests.ts';

/** Merges an entry with another person's, takes it off the project, or takes either back. */
export const POST = endpoint(
  PersonChangeSchema,
  async ({ ws, body, context }) => {
    const id = String(context.params.id);
    switch (body.do) {
      case 'merge':
        return mergePeople(ws, id, body.into);
      case 'part':
        await partPeople(ws, body.merge);
        return { person: id };
      case 'remove':
        await removePerson(ws, ws.project, id);
        return { person: id };
      default:
        await putBack(ws, ws.project, id);
        return { person: id };
    }
  },
  'manage',
);
