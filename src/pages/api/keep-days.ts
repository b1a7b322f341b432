import { KeepDaysSchema, setKeepDays } from '../../server/records/bringing-in.ts';
import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(KeepDaysSchema, ({ ws, body }) => setKeepDays(ws, body), 'manage');
