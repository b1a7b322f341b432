import type { APIRoute } from 'astro';
import { ledgerStamp } from '../../server/ledger/live.ts';
import { workspace } from '../../server/people/session.ts';
import { changesAsTheyCome } from '../../server/store/live.ts';
import { refusalReply, STREAM } from '../../server/web/requests.ts';

/** Tells a page that shows commitments when something happened to any of them. */
export const GET: APIRoute = async (context) => {
  try {
    const { db } = await workspace(context);
    return new Response(
      changesAsTheyCome(() => ledgerStamp(db), context.request.signal),
      { headers: STREAM },
    );
  } catch (error) {
    return refusalReply(error);
  }
};
