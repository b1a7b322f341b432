import { z } from 'zod';
import { takeUpInvitation } from '../../../server/people/invitations.ts';
import { PasswordSchema } from '../../../server/people/passwords.ts';
import { openEndpoint } from '../../../server/web/requests.ts';

/** Takes an invitation up. Whoever asks is known by its link and nothing else. */
export const POST = openEndpoint(z.object({ password: PasswordSchema }), ({ db, body, context }) => takeUpInvitation(db, context.params.token ?? '', body.password, new Date()));
