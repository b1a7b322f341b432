import type { APIRoute } from 'astro';
import { mustSee } from '../../../../server/people/asker.ts';
import { session } from '../../../../server/people/session.ts';
import { stampOf } from '../../../../server/sift/live.ts';
import { changesAsTheyCome } from '../../../../server/store/live.ts';
import { refusalReply, STREAM } from '../../../../server/web/requests.ts';

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
    return new Response(
      changesAsTheyCome(() => stampOf(db, id), request.signal),
      { headers: STREAM },
    );
  } catch (error) {
    return refusalReply(error);
  }
};
