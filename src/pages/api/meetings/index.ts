import { PlanningSchema, plan } from '../../../server/meetings/planning.ts';
import { currentProject } from '../../../server/people/session.ts';
import { today } from '../../../server/store/clock.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** Begins a series, plans a meeting, or takes either back. */
export const POST = endpoint(PlanningSchema, async ({ asker, db, body, context }) => plan(asker, db, (await currentProject(context, asker, db)).current, body, today()));
