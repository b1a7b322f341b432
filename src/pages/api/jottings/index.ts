import { today } from '../../../server/clock.ts';
import { answer, currentProject, endpoint } from '../../../server/http.ts';
import { JotSchema, jot, jottingsOf } from '../../../server/jottings.ts';

export const POST = endpoint(JotSchema, async ({ asker, db, body, context }) => jot(asker, db, (await currentProject(context, asker, db)).current, body, today()));

/** Jottings by words: `?q=`. */
export const GET = answer(async ({ asker, db, context }) => ({ jottings: await jottingsOf(asker, db, (await currentProject(context, asker, db)).current, { words: (context.url.searchParams.get('q') ?? '').slice(0, 200) }) }));
