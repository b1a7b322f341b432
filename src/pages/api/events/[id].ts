import { z } from 'zod';
import { undoChange } from '../../../server/ledger/changes.ts';
import { today } from '../../../server/store/clock.ts';
import { endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(z.object({ do: z.literal('undo') }), ({ asker, db, id }) => undoChange(asker, db, id, today()));
