import { today } from '../../../../server/clock.ts';
import { endpoint } from '../../../../server/http.ts';
import { changeKeeping, KeepingSchema } from '../../../../server/keeping.ts';

export const POST = endpoint(KeepingSchema, ({ asker, db, body, id }) => changeKeeping(asker, db, id, body, today()));
