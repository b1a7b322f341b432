import type { APIRoute } from 'astro';
import Papa from 'papaparse';
import { currentProject, refusalReply, session } from '../server/http.ts';
import { ledgerRows } from '../server/ledger.ts';

/** The Ledger as CSV (RFC 4180). Cells that a spreadsheet would take for a formula are quoted as text. */
export const GET: APIRoute = async (context) => {
  try {
    const { db, asker } = await session();
    const { current } = await currentProject(context, asker, db);
    const rows = await ledgerRows(asker, db, { project: current, state: 'all' });
    const csv = Papa.unparse(
      rows.map((r) => ({ ref: r.ref, what: r.text, owner: r.owner.map((o) => o.name).join('; '), due: r.due ?? '', state: r.state, made: r.madeOn, ended: r.endedOn ?? '', carried: r.carried, moved: r.moved, from: r.from })),
      { escapeFormulae: true, newline: '\r\n' },
    );
    return new Response(`\uFEFF${csv}\r\n`, { headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="ledger.csv"' } });
  } catch (error) {
    return refusalReply(error);
  }
};
