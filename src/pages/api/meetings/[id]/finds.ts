import { MarkSchema, markFind } from '../../../../server/finds.ts';
import { endpoint } from '../../../../server/http.ts';

/** A find marked by hand. */
export const POST = endpoint(MarkSchema, ({ asker, db, body, id }) => markFind(asker, db, id, body));
