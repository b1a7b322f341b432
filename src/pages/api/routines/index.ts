import { routinesPage } from '../../../server/pages/routines.ts';
import { changeRoutine, RoutineChangeSchema } from '../../../server/routines/routines.ts';
import { askable } from '../../../server/routines/runs.ts';
import { answer, endpoint } from '../../../server/web/requests.ts';

/** Routines somebody can ask for; with `meeting`, as they would run on it. */
export const GET = answer(async ({ ws, context }) => askable(ws, Number(context.url.searchParams.get('meeting')) || null));

/** Keeps, switches or removes a routine. */
export const POST = endpoint(
  RoutineChangeSchema,
  async ({ ws, body }) => {
    const { id } = await changeRoutine(ws, body, new Date());
    return { id, ...(await routinesPage(ws)) };
  },
  'manage',
);
