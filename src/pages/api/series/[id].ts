import { z } from 'zod';
import { changeSeries, endSeries, SeriesEntrySchema } from '../../../server/meetings/series.ts';
import { endpoint } from '../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [z.object({ do: z.literal('keep'), entry: SeriesEntrySchema }), z.object({ do: z.literal('end') }), z.object({ do: z.literal('go on') })]);

/** Changes what holds for a series, ends it, or lets it go on. */
export const POST = endpoint(Body, ({ ws, body, context }) => {
  const id = String(context.params.id);
  return body.do === 'keep' ? changeSeries(ws, id, body.entry) : endSeries(ws, id, body.do);
});
