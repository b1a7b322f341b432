import { CloseOutSchema, closeTheDay } from '../../server/day/close-out.ts';
import { currentProject } from '../../server/people/session.ts';
import { today } from '../../server/store/clock.ts';
import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(CloseOutSchema, async ({ asker, db, body, context }) => closeTheDay(asker, db, (await currentProject(context, asker, db)).current, body, today()));
