import { BehindSchema, behindPoint } from '../../../server/pages/measures.ts';
import { answer } from '../../../server/web/requests.ts';

/** The commitments behind a point of a figure. */
export const GET = answer(async ({ ws, context }) => {
  const { searchParams: asked } = context.url;
  return behindPoint(ws, BehindSchema.parse({ projects: 'this', series: null, person: null, days: 1, ...Object.fromEntries(asked) }));
});
