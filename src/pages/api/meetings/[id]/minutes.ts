import { today } from '../../../../server/clock.ts';
import { endpoint } from '../../../../server/http.ts';
import { changeMinutes, MinutesSchema } from '../../../../server/minutes/minutes.ts';

/** Writes the draft, issues it as the next version, or keeps its parts as the series' template. */
export const POST = endpoint(MinutesSchema, ({ asker, db, body, id }) => changeMinutes(asker, db, id, body, today()));
