import { changeDetails, DetailsSchema } from '../../../../server/people/details.ts';
import { currentProject } from '../../../../server/people/session.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Changes what an entry says of a person. */
export const POST = endpoint(DetailsSchema, async ({ asker, db, body, context }) => changeDetails(asker, db, (await currentProject(context, asker, db)).current, String(context.params.id), body));
