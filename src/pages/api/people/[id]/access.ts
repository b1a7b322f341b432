import { z } from 'zod';
import { sendAccountLetter } from '../../../../server/letters/account-letters.ts';
import { MailError } from '../../../../server/letters/mailer.ts';
import { accessOf, changeRole, INVITATION_DAYS, invite, RoleSchema } from '../../../../server/people/invitations.ts';
import { publicAddress } from '../../../../server/store/addresses.ts';
import { endpoint } from '../../../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [z.object({ do: z.literal('invite'), role: RoleSchema }), z.object({ do: z.literal('role'), role: RoleSchema.nullable() })]);

/** Invites somebody to sign in, or says what they are in the project. */
export const POST = endpoint(
  Body,
  async ({ ws, body, context }) => {
    const person = context.params.id ?? '';
    const now = new Date();
    if (body.do === 'role') {
      await changeRole(ws, ws.project, person, body.role);
      return { access: await accessOf(ws, ws.project, person, now) };
    }
    const { token, name, mail } = await invite(ws, ws.project, person, body.role, now);
    if (token === null) return { access: await accessOf(ws, ws.project, person, now), link: null, trouble: null };
    const link = `${publicAddress()}/invited/${token}`;
    const text = `${ws.asker.name} invites you to Ottik, where the promises of your meetings are kept.\n\nChoose a password here within ${INVITATION_DAYS} days:\n${link}`;
    const sent = await sendAccountLetter(ws.db, { to: { name, address: mail }, subject: `${ws.asker.name} invites you to Ottik`, text }).then(
      () => ({ link: null, trouble: null }),
      // the invitation stands; its link can be handed over in another way
      (error: unknown) => {
        if (error instanceof MailError) return { link, trouble: error.message };
        throw error;
      },
    );
    return { access: await accessOf(ws, ws.project, person, now), ...sent };
  },
  'manage',
);
