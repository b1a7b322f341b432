import { today } from '../../../server/clock.ts';
import { endpoint } from '../../../server/http.ts';
import { changeJotting, JottingChangeSchema } from '../../../server/jottings.ts';

export const POST = endpoint(JottingChangeSchema, ({ asker, db, body, id }) => changeJotting(asker, db, id, body, today()));
