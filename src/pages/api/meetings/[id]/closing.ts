import { CloseSchema, closeMeeting, closingOf } from '../../../../server/meetings/closing.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

export const GET = answer(({ ws, id }) => closingOf(ws, id));

export const POST = endpoint(CloseSchema, ({ ws, body, id }) => closeMeeting(ws, id, body));
