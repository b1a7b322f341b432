import { ImportSchema, keepImport, previewImport } from '../../server/ledger/files.ts';
import { currentProject } from '../../server/people/session.ts';
import { today } from '../../server/store/clock.ts';
import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(ImportSchema, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  return body.do === 'preview' ? previewImport(asker, db, current, body, today()) : keepImport(asker, db, current, body, today());
});
