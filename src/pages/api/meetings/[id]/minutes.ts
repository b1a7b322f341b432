import { changeMinutes, MinutesSchema } from '../../../../server/meetings/minutes/minutes.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Writes the draft, issues it as the next version, or keeps its parts as the series' template. */
export const POST = endpoint(MinutesSchema, ({ ws, body, id }) => changeMinutes(ws, id, body));
