import { endpoint } from '../../server/http.ts';
import { KeepDaysSchema, setKeepDays } from '../../server/records.ts';

export const POST = endpoint(KeepDaysSchema, ({ asker, db, body }) => setKeepDays(asker, db, body));
