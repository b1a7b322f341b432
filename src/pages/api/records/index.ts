import type { APIRoute } from 'astro';
import { BeginSeriesSchema, plan } from '../../../server/meetings/planning.ts';
import { fillAhead } from '../../../server/meetings/series.ts';
import { workspace } from '../../../server/people/session.ts';
import { KeepSchema, keepRecord } from '../../../server/records/bringing-in.ts';
import { Refusal } from '../../../server/refusal.ts';
import { recordForm, refusalReply, reply } from '../../../server/web/requests.ts';

/** Keeps a record with its meeting, and the series that begins with it, and sifts it. */
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
    const keep = KeepSchema.parse({ ...(sent as object), fileName });
    const begins = BeginSeriesSchema.nullish().parse((sent as { newSeries?: unknown }).newSeries);
    const kept = await keepRecord(ws, keep, bytes, begins ? async (ws) => ({ series: (await plan(ws, keep.project, { ...begins, do: 'series' })).series! }) : null);
    // the meetings to come are counted on from this one
    if (begins && kept.series) await fillAhead(ws.db, kept.series, ws.today);
    return reply(200, kept);
  } catch (error) {
    return refusalReply(error);
  }
};
