import { answer } from '../../../../server/http.ts';
import { recordShown } from '../../../../server/pages/sift.ts';

/** The words of a record that is too long to come with its page. */
export const GET = answer(({ asker, db, id }) => recordShown(asker, db, id));
