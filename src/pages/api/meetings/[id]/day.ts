import { changeMeeting, MeetingChangeSchema } from '../../../../server/meetings/series.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Moves one meeting, cancels it, or holds it after all. */
export const POST = endpoint(MeetingChangeSchema, ({ ws, body, id }) => changeMeeting(ws, id, body));
