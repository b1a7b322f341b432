import { z } from 'zod';
import { theCarriers } from '../../../server/letters/carriers.ts';
import { runAsked } from '../../../server/routines/runs.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** Runs a routine because somebody asks for it. */
export const POST = endpoint(z.object({ do: z.literal('run'), meeting: z.number().int().nullable() }), async ({ ws, body, id }) => runAsked(ws, id, body.meeting, await theCarriers(ws.db), new Date()));
