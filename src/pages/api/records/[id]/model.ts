import { ModelActSchema, modelAct, modelReadingOf } from '../../../../server/sift/model-reading.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

/** How the model reader stands with a record. */
export const GET = answer(({ ws, id }) => modelReadingOf(ws, id));

export const POST = endpoint(ModelActSchema, ({ ws, body, id }) => modelAct(ws, id, body));
