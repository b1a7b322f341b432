import { ledgerFigures } from '../../server/pages/ledger.ts';
import { currentProject } from '../../server/people/session.ts';
import { today } from '../../server/store/clock.ts';
import { answer } from '../../server/web/requests.ts';

/** The figures in the title of the Ledger, as they stand now. */
export const GET = answer(async ({ asker, db, context }) => {
  const { current } = await currentProject(context, asker, db);
  return ledgerFigures(asker, db, current, today(), context.url.searchParams.get('projects') === 'all');
});
