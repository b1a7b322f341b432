import { changeRegister, RegisterChangeSchema } from '../../../server/ledger/registers.ts';
import { endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(RegisterChangeSchema, ({ asker, db, body, id }) => changeRegister(asker, db, id, body));
