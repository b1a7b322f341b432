import { changeKeeping, KeepingSchema } from '../../../../server/records/retention.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(KeepingSchema, ({ ws, body, id }) => changeKeeping(ws, id, body));
