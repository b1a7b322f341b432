import { talkPage } from '../../../server/pages/measures.ts';
import { answer } from '../../../server/web/requests.ts';

/** Who spoke how long and what of, across the last meetings of a series. */
export const GET = answer(async ({ ws, context }) => talkPage(ws, context.url.searchParams.get('series') ?? ''));
