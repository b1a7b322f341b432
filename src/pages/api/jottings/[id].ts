import { changeJotting, JottingChangeSchema } from '../../../server/day/jottings.ts';
import { today } from '../../../server/store/clock.ts';
import { endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(JottingChangeSchema, ({ asker, db, body, id }) => changeJotting(asker, db, id, body, today()));
