import type { APIRoute } from 'astro';
import { answers, readQuery } from '../core/ledger/query.ts';
import { ledgerRows } from '../server/ledger/commitments.ts';
import { isLedgerFormat, LEDGER_FORMATS, ledgerFile } from '../server/ledger/files.ts';
import { workspace } from '../server/people/session.ts';
import { Refusal } from '../server/refusal.ts';
import { refusalReply } from '../server/web/requests.ts';

/** The Ledger as a file; `?q=` takes what the filter of the page takes. */
export const GET: APIRoute = async (context) => {
  try {
    const { format } = context.params;
    if (!isLedgerFormat(format)) throw new Refusal('not-found', 'The Ledger comes as csv, json, md and ics.');
    const ws = await workspace(context);
    const q = context.url.searchParams.get('q');
    const rows = (await ledgerRows(ws, { project: ws.project, state: 'all', lives: format === 'json' })).filter((r) => q === null || answers(r, readQuery(q), { today: ws.today, me: ws.asker.person }));
    return new Response(ledgerFile(rows, format, ws.today), { headers: { 'content-type': LEDGER_FORMATS[format], 'content-disposition': `attachment; filename="ledger.${format}"` } });
  } catch (error) {
    return refusalReply(error);
  }
};
