import { ImportSchema, keepImport, previewImport } from '../../server/ledger/files.ts';

import { endpoint } from '../../server/web/requests.ts';

export const POST = endpoint(ImportSchema, async ({ ws, body }) => {
  return body.do === 'preview' ? previewImport(ws, ws.project, body) : keepImport(ws, ws.project, body);
});
