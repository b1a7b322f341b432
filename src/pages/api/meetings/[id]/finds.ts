import { findsIn } from '../../../../server/sift/finds.ts';
import { MarkSchema, markFind } from '../../../../server/sift/judging.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

/** The finds beside one record, as they stand now. */
export const GET = answer(({ ws, id, context }) => findsIn(ws, id, Number(context.url.searchParams.get('record'))));

/** A find marked by hand. */
export const POST = endpoint(MarkSchema, ({ ws, body, id }) => markFind(ws, id, body));
