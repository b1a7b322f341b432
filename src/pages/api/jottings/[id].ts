import { changeJotting, JottingChangeSchema } from '../../../server/day/jottings.ts';
import { endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(JottingChangeSchema, ({ ws, body, id }) => changeJotting(ws, id, body), 'read');
