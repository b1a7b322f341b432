import type { APIRoute } from 'astro';
import { mustSee } from '../../../../server/asker.ts';
import { refusalReply, session } from '../../../../server/http.ts';
import { changesAsTheyCome } from '../../../../server/live.ts';

/** Tells a page that shows a meeting's finds when somebody changed them. */
export const GET: APIRoute = async ({ params, request }) => {
  try {
    const { db, asker } = await session();
    const id = Number(params.id);
    const meeting = await db
      .selectFrom('meetings')
      .select('project_id')
      .where('id', '=', Number.isInteger(id) ? id : -1)
      .executeTakeFirst();
    mustSee(asker, meeting?.project_id, 'meeting');
    return new Response(changesAsTheyCome(db, id, request.signal), { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' } });
  } catch (error) {
    return refusalReply(error);
  }
};
