import { readingOf } from '../../../../server/sift/close-reading.ts';
import { answer } from '../../../../server/web/requests.ts';

/** How far the close reader is with a record, and its finds when it is through. */
export const GET = answer(({ ws, id }) => readingOf(ws, id));
