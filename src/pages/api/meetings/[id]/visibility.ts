import { changeVisibility, VisibilitySchema } from '../../../../server/meetings/visibility.ts';
import { endpoint } from '../../../../server/web/requests.ts';

/** Says who sees a meeting, or looks who would gain or lose sight of it. */
export const POST = endpoint(VisibilitySchema, ({ ws, body, id }) => changeVisibility(ws, id, body.visibility, { keep: body.only !== 'look' }));
