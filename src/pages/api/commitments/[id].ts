import { ChangeSchema, changeCommitment } from '../../../server/changes.ts';
import { today } from '../../../server/clock.ts';
import { endpoint } from '../../../server/http.ts';

export const POST = endpoint(ChangeSchema, ({ asker, db, body, id }) => changeCommitment(asker, db, id, body, today()));
