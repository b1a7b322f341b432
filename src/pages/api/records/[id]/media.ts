import type { ReadableStream } from 'node:stream/web';
import type { APIContext, APIRoute } from 'astro';
import { workspace } from '../../../../server/people/session.ts';
import { attachMedia, detachMedia, mediaOf, mediaReply } from '../../../../server/records/media.ts';
import { Refusal } from '../../../../server/refusal.ts';
import { mustComeFromHere, refusalReply, reply } from '../../../../server/web/requests.ts';

/** The recording that goes with a record. */
const show = async (context: APIContext, head: boolean) => {
  try {
    const ws = await workspace(context);
    const media = await mediaOf(ws, Number(context.params.id));
    if (!media) throw new Refusal('not-found', 'No recording goes with this record.');
    return await mediaReply(media, context.request.headers.get('range'), head);
  } catch (error) {
    return refusalReply(error);
  }
};
export const GET: APIRoute = (context) => show(context, false);
export const HEAD: APIRoute = (context) => show(context, true);

/** Attaches one: the body is the file as it is, the name stands in the address. */
export const PUT: APIRoute = async (context) => {
  try {
    mustComeFromHere(context);
    const ws = (await workspace(context)).with({ needs: 'work' });
    return reply(200, await attachMedia(ws, Number(context.params.id), context.url.searchParams.get('name') || 'The recording', context.request.body as ReadableStream<Uint8Array> | null, context.request.signal));
  } catch (error) {
    return refusalReply(error);
  }
};

export const DELETE: APIRoute = async (context) => {
  try {
    mustComeFromHere(context);
    const ws = (await workspace(context)).with({ needs: 'work' });
    const record = Number(context.params.id);
    await mediaOf(ws, record);
    await detachMedia(ws.db, record);
    return reply(200, { ok: true });
  } catch (error) {
    return refusalReply(error);
  }
};
