import { mergePeople, PersonChangeSchema, partPeople, putBack, removePerson } from '../../../../server/people/merging.ts';
import { currentProject } from '../../../../server/people/session.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Merges an entry with another person's, takes it off the project, or takes either back. */
export const POST = endpoint(PersonChangeSchema, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  const id = String(context.params.id);
  switch (body.do) {
    case 'merge':
      return mergePeople(asker, db, id, body.into);
    case 'part':
      await partPeople(asker, db, body.merge);
      return { person: id };
    case 'remove':
      await removePerson(asker, db, current, id);
      return { person: id };
    default:
      await putBack(asker, db, current, id);
      return { person: id };
  }
});
