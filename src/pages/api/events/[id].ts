import { z } from 'zod';
import { undoChange } from '../../../server/changes.ts';
import { today } from '../../../server/clock.ts';
import { endpoint } from '../../../server/http.ts';

export const POST = endpoint(z.object({ do: z.literal('undo') }), ({ asker, db, id }) => undoChange(asker, db, id, today()));
