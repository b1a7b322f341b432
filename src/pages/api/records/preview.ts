import type { APIRoute } from 'astro';
import { today } from '../../../server/clock.ts';
import { recordForm, refusalReply, reply, session } from '../../../server/http.ts';
import { previewRecord } from '../../../server/records.ts';

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
