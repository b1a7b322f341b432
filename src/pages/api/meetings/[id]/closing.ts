import { CloseSchema, closeMeeting, closingOf } from '../../../../server/meetings/closing.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

export const GET = answer(({ asker, db, id }) => closingOf(asker, db, id));

export const POST = endpoint(CloseSchema, ({ asker, db, body, id }) => closeMeeting(asker, db, id, body));
