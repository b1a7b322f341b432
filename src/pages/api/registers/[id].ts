import { endpoint } from '../../../server/http.ts';
import { changeRegister, RegisterChangeSchema } from '../../../server/registers.ts';

export const POST = endpoint(RegisterChangeSchema, ({ asker, db, body, id }) => changeRegister(asker, db, id, body));
