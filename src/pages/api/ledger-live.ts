import type { APIRoute } from 'astro';
import { refusalReply, STREAM, session } from '../../server/http.ts';
import { changesAsTheyCome, ledgerStamp } from '../../server/live.ts';

/** Tells a page that shows commitments when something happened to any of them. */
export const GET: APIRoute = async ({ request }) => {
  try {
    const { db } = await session();
    return new Response(
      changesAsTheyCome(() => ledgerStamp(db), request.signal),
      { headers: STREAM },
    );
  } catch (error) {
    return refusalReply(error);
  }
};
