import { today } from '../../server/clock.ts';
import { CloseOutSchema, closeTheDay } from '../../server/close-out.ts';
import { currentProject, endpoint } from '../../server/http.ts';

export const POST = endpoint(CloseOutSchema, async ({ asker, db, body, context }) => closeTheDay(asker, db, (await currentProject(context, asker, db)).current, body, today()));
