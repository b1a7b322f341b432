import { changeKeeping, KeepingSchema } from '../../../../server/records/retention.ts';
import { today } from '../../../../server/store/clock.ts';
import { endpoint } from '../../../../server/web/requests.ts';

export const POST = endpoint(KeepingSchema, ({ asker, db, body, id }) => changeKeeping(asker, db, id, body, today()));
