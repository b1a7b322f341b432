import { JotSchema, jot, jottingsOf } from '../../../server/day/jottings.ts';
import { currentProject } from '../../../server/people/session.ts';
import { today } from '../../../server/store/clock.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(JotSchema, async ({ asker, db, body, context }) => jot(asker, db, (await currentProject(context, asker, db)).current, body, today()));

/** Jottings by words: `?q=`. */
export const GET = answer(async ({ asker, db, context }) => ({ jottings: await jottingsOf(asker, db, (await currentProject(context, asker, db)).current, { words: (context.url.searchParams.get('q') ?? '').slice(0, 200) }) }));
