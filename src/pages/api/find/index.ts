import { findPage } from '../../../server/pages/find.ts';
import { answer } from '../../../server/web/requests.ts';

/** Answers and places for what is typed: `?q=`, `order=best|newest`, `open=` a group that is wanted whole, `typing=1` while more may come. */
export const GET = answer(async ({ ws, context }) => {
  const { searchParams: asked } = context.url;
  return findPage(ws, { q: asked.get('q') ?? '', order: asked.get('order'), open: asked.get('open'), typing: asked.get('typing') === '1' });
});
