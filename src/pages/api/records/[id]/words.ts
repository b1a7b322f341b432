import { recordShown } from '../../../../server/pages/sift.ts';
import { answer } from '../../../../server/web/requests.ts';

/** The words of a record that is too long to come with its page. */
export const GET = answer(({ ws, id }) => recordShown(ws, id));
