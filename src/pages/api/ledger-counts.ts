import { today } from '../../server/clock.ts';
import { answer, currentProject } from '../../server/http.ts';
import { ledgerFigures } from '../../server/pages/ledger.ts';

/** The figures in the title of the Ledger, as they stand now. */
export const GET = answer(async ({ asker, db, context }) => {
  const { current } = await currentProject(context, asker, db);
  return ledgerFigures(asker, db, current, today(), context.url.searchParams.get('projects') === 'all');
});
