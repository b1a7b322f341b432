import { BeginSchema, begin } from '../../server/people/first-run.ts';
import { today } from '../../server/store/clock.ts';
import { openEndpoint } from '../../server/web/requests.ts';

/** The first run, which nobody can be known before. */
export const POST = openEndpoint(BeginSchema, ({ db, body }) => begin(db, body, today()));
