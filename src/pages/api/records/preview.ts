import type { APIRoute } from 'astro';
import { session } from '../../../server/people/session.ts';
import { previewRecord } from '../../../server/records/bringing-in.ts';
import { today } from '../../../server/store/clock.ts';
import { recordForm, refusalReply, reply } from '../../../server/web/requests.ts';

/** Reads a record and says what was understood; nothing is kept. */
export const POST: APIRoute = async (context) => {
  try {
    const { bytes, fileName, fields } = await recordForm(context);
    const { db, asker } = await session();
    return reply(200, await previewRecord(asker, db, String(fields.get('project') ?? ''), bytes, fileName, today(), String(fields.get('layout') ?? '') || null));
  } catch (error) {
    return refusalReply(error);
  }
};
