import { CloseSchema, closeMeeting, closingOf } from '../../../../server/closing.ts';
import { answer, endpoint } from '../../../../server/http.ts';

export const GET = answer(({ asker, db, id }) => closingOf(asker, db, id));

export const POST = endpoint(CloseSchema, ({ asker, db, body, id }) => closeMeeting(asker, db, id, body));
