import { routinesHere } from '../../../server/pages/routines.ts';
import { runsOf } from '../../../server/routines/runs.ts';
import { answer } from '../../../server/web/requests.ts';

/** The log of the project, from before a run on where that is given; with `meeting`, what its pages say of routines. */
export const GET = answer(async ({ ws, context }) => {
  const asked = context.url.searchParams;
  const meeting = Number(asked.get('meeting')) || null;
  if (meeting !== null) return routinesHere(ws, meeting);
  const before = Number(asked.get('before')) || undefined;
  return runsOf(ws, before === undefined ? {} : { before });
});
