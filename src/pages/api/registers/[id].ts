import { changeRegister, RegisterChangeSchema } from '../../../server/ledger/registers.ts';
import { endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(RegisterChangeSchema, ({ ws, body, id }) => changeRegister(ws, id, body));
