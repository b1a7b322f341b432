import type { APIRoute } from 'astro';
import { authOf } from '../../../server/people/signing-in.ts';
import { database } from '../../../server/store/database.ts';
import { reply } from '../../../server/web/requests.ts';

/** What can be asked about signing in; the rest of what better-auth could do is not offered. */
const OFFERED = new Set(['sign-in/email', 'sign-out', 'request-password-reset', 'reset-password', 'change-password', 'revoke-other-sessions', 'list-sessions', 'two-factor/enable', 'two-factor/disable', 'two-factor/verify-totp', 'two-factor/verify-backup-code']);

export const ALL: APIRoute = async ({ request, params, clientAddress }) => {
  if (!OFFERED.has(params.all ?? '')) return reply(404, { error: { message: 'There is no such page.', advice: null, line: null } });
  const headers = new Headers(request.headers);
  headers.set('x-ottik-address', clientAddress);
  return (await authOf(await database())).handler(new Request(request, { headers }));
};
