import { z } from 'zod';
import { undoChange } from '../../../server/ledger/changes.ts';
import { endpoint } from '../../../server/web/requests.ts';

export const POST = endpoint(z.object({ do: z.literal('undo') }), ({ ws, id }) => undoChange(ws, id));
