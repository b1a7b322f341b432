import { z } from 'zod';
import { endRoom } from '../../../../server/meetings/live/end.ts';
import { changeRoom, RoomChangeSchema, roomOf } from '../../../../server/meetings/live/room.ts';
import { answer, endpoint } from '../../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [...RoomChangeSchema.options, z.object({ do: z.literal('end') })]);

export const GET = answer(({ ws, id }) => roomOf(ws, id));

/** What somebody does in a meeting that is held. */
export const POST = endpoint(Body, async ({ ws, body, id }) => (body.do === 'end' ? endRoom(ws, id, new Date()) : { room: await changeRoom(ws, id, body, new Date()) }));
