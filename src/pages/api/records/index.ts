import type { APIRoute } from 'astro';
import { workspace } from '../../../server/people/session.ts';
import { KeepSchema, keepRecord } from '../../../server/records/bringing-in.ts';
import { Refusal } from '../../../server/refusal.ts';
import { recordForm, refusalReply, reply } from '../../../server/web/requests.ts';

/** Keeps a record with its meeting and sifts it. */
export const POST: APIRoute = async (context) => {
  try {
    const { bytes, fileName, fields } = await recordForm(context);
    let sent: unknown;
    try {
      sent = JSON.parse(String(fields.get('keep') ?? ''));
    } catch {
      throw new Refusal('bad-input', 'What to keep is not valid JSON.');
    }
    const ws = (await workspace(context)).with({ needs: 'work' });
    return reply(200, await keepRecord(ws, KeepSchema.parse({ ...(sent as object), fileName }), bytes));
  } catch (error) {
    return refusalReply(error);
  }
};
