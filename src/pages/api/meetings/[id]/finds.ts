import { findsIn } from '../../../../server/sift/finds.ts';
import { MarkSchema, markFind } from '../../../../server/sift/judging.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

/** The finds beside one record, as they stand now. */
export const GET = answer(({ asker, db, id, context }) => findsIn(asker, db, id, Number(context.url.searchParams.get('record'))));

/** A find marked by hand. */
export const POST = endpoint(MarkSchema, ({ asker, db, body, id }) => markFind(asker, db, id, body));
