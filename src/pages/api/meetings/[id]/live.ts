import type { APIRoute } from 'astro';
import { workspace } from '../../../../server/people/session.ts';
import { mustSee } from '../../../../server/people/workspace.ts';
import { stampOf } from '../../../../server/sift/live.ts';
import { changesAsTheyCome } from '../../../../server/store/live.ts';
import { refusalReply, STREAM } from '../../../../server/web/requests.ts';

/** Tells a page that shows a meeting's finds when somebody changed them. */
export const GET: APIRoute = async (context) => {
  try {
    const ws = await workspace(context);
    const id = Number(context.params.id);
    const meeting = await ws.db
      .selectFrom('meetings')
      .select('project_id')
      .where('id', '=', Number.isInteger(id) ? id : -1)
      .executeTakeFirst();
    mustSee(ws, meeting?.project_id, 'meeting');
    return new Response(
      changesAsTheyCome(() => stampOf(ws.db, id), context.request.signal),
      { headers: STREAM },
    );
  } catch (error) {
    return refusalReply(error);
  }
};
