import type { APIRoute } from 'astro';
import { IsoDateSchema } from '../../../core/ledger/events.ts';
import { workspace } from '../../../server/people/session.ts';
import { firstFinds } from '../../../server/records/first-look.ts';
import { recordForm, refusalReply, reply } from '../../../server/web/requests.ts';

/** What Sift finds in a record before it is kept; nothing is kept. */
export const POST: APIRoute = async (context) => {
  try {
    const { bytes, fileName, fields } = await recordForm(context);
    const ws = (await workspace(context)).with({ needs: 'work' });
    const date = IsoDateSchema.catch(ws.today).parse(fields.get('date'));
    return reply(200, { finds: await firstFinds(ws, String(fields.get('project') ?? ''), { bytes, fileName, layout: String(fields.get('layout') ?? '') || null }, date) });
  } catch (error) {
    return refusalReply(error);
  }
};
