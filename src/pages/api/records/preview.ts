import type { APIRoute } from 'astro';
import { workspace } from '../../../server/people/session.ts';
import { previewRecord } from '../../../server/records/preview.ts';
import { recordForm, refusalReply, reply } from '../../../server/web/requests.ts';

/** Reads a record and says what was understood; nothing is kept. */
export const POST: APIRoute = async (context) => {
  try {
    const { bytes, fileName, fields } = await recordForm(context);
    const ws = (await workspace(context)).with({ needs: 'work' });
    return reply(200, await previewRecord(ws, String(fields.get('project') ?? ''), bytes, fileName, String(fields.get('layout') ?? '') || null));
  } catch (error) {
    return refusalReply(error);
  }
};
