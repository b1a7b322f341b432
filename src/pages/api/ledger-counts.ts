import { ledgerFigures } from '../../server/pages/ledger.ts';

import { answer } from '../../server/web/requests.ts';

/** The figures in the title of the Ledger, as they stand now. */
export const GET = answer(async ({ ws, context }) => {
  return ledgerFigures(ws, ws.project, context.url.searchParams.get('projects') === 'all');
});
