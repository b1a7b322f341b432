import { theCarriers } from '../../../server/letters/carriers.ts';
import { changeRun, RunChangeSchema } from '../../../server/routines/runs.ts';
import { endpoint } from '../../../server/web/requests.ts';

/** What somebody does with a run: accepts it, lets it go on, has it run again, stops it, or puts back what it took. */
export const POST = endpoint(RunChangeSchema, async ({ ws, body, id }) => changeRun(ws, id, body.do, await theCarriers(ws.db), new Date()));
