import { z } from 'zod';
import { RoutineSchema } from '../../../core/routines/routine.ts';
import { dryRun } from '../../../server/routines/dry-run.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** What a routine would have done for a meeting; nothing of it is kept or sent. */
export const POST = endpoint(z.object({ do: z.literal('try'), routine: RoutineSchema, meeting: z.number().int().nullable() }), ({ ws, body }) => dryRun(ws, body.routine, body.meeting, new Date()));
