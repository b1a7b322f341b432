import { KeepDaysSchema, setKeepDays } from '../../server/records/bringing-in.ts';
import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(KeepDaysSchema, ({ asker, db, body }) => setKeepDays(asker, db, body));
