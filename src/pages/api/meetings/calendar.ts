import { CalendarInSchema, readCalendarIn, takeCalendarIn } from '../../../server/meetings/calendar-in.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** Reads a calendar file or an invitation, or takes its meetings. */
export const POST = endpoint(CalendarInSchema, ({ ws, body }): Promise<unknown> => (body.do === 'read' ? readCalendarIn(ws, ws.project, body.text) : takeCalendarIn(ws, ws.project, body.text)));
