import { today } from '../../server/clock.ts';
import { currentProject, endpoint } from '../../server/http.ts';
import { ImportSchema, keepImport, previewImport } from '../../server/ledger-files.ts';

export const POST = endpoint(ImportSchema, async ({ asker, db, body, context }) => {
  const { current } = await currentProject(context, asker, db);
  return body.do === 'preview' ? previewImport(asker, db, current, body, today()) : keepImport(asker, db, current, body, today());
});
