import type { APIRoute } from 'astro';
import { roomStamp } from '../../../../server/meetings/live/room.ts';
import { meetingRow } from '../../../../server/meetings/meetings.ts';
import { workspace } from '../../../../server/people/session.ts';
import { changesAsTheyCome } from '../../../../server/store/live.ts';
import { refusalReply, STREAM } from '../../../../server/web/requests.ts';

/** Tells the pages of a meeting that is held when anybody in it has done something. */
export const GET: APIRoute = async (context) => {
  try {
    const ws = await workspace(context);
    const { id } = await meetingRow(ws, Number(context.params.id) || -1);
    return new Response(
      changesAsTheyCome(() => roomStamp(ws.db, id), context.request.signal),
      { headers: STREAM },
    );
  } catch (error) {
    return refusalReply(error);
  }
};
