import { z } from 'zod';
import { BackupSchema, backUp, keepBackupSettings } from '../../server/ledger/backups.ts';
import { connectionTyped, forgetMail, IncomingSchema, keepIncoming, keepOutgoing, keepSender, OutgoingSchema } from '../../server/letters/mail-settings.ts';
import { mailboxChanged, tryMailbox } from '../../server/letters/mailbox.ts';
import { tryOutgoing } from '../../server/letters/try-mail.ts';
import { settingsPage } from '../../server/pages/settings.ts';
import { mustKeepHouse } from '../../server/people/keeper.ts';
import { changeSignIn, SignInSchema } from '../../server/people/sign-in-settings.ts';
import { answer, endpoint } from '../../server/web/requests.ts';

const Body = z.discriminatedUnion('do', [
  OutgoingSchema.extend({ do: z.literal('try out') }),
  OutgoingSchema.extend({ do: z.literal('keep out') }),
  IncomingSchema.extend({ do: z.literal('try in') }),
  IncomingSchema.extend({ do: z.literal('keep in') }),
  z.object({ do: z.literal('forget'), which: z.enum(['out', 'in']) }),
  z.object({ do: z.literal('sender'), project: z.string().max(140), address: z.string().max(254).nullable() }),
  BackupSchema.extend({ do: z.literal('backup') }),
  z.object({ do: z.literal('back up now') }),
  ...SignInSchema.options,
]);

/** Changes a setting, or tries it out. What is only tried changes nothing. */
export const POST = endpoint(
  Body,
  async ({ ws, body }) => {
    // one's own password is one's own; all else is for whoever keeps this Ottik
    if (body.do !== 'first password') await mustKeepHouse(ws);
    switch (body.do) {
      case 'try out':
        return tryOutgoing(ws, body);
      case 'try in':
        return tryMailbox({ ...(await connectionTyped(ws, 'in', body)), folder: body.folder });
      case 'keep out': {
        const { do: _, ...given } = body;
        await keepOutgoing(ws, given);
        break;
      }
      case 'keep in': {
        const { do: _, ...given } = body;
        await keepIncoming(ws, given);
        mailboxChanged();
        break;
      }
      case 'forget':
        await forgetMail(ws, body.which);
        mailboxChanged();
        break;
      case 'sender':
        await keepSender(ws, body.project, body.address);
        break;
      case 'backup': {
        const { do: _, ...how } = body;
        await keepBackupSettings(ws.db, { ...how, folder: how.folder || null });
        break;
      }
      case 'back up now':
        await backUp(ws.db, new Date());
        break;
      case 'first password':
      case 'ask':
        await changeSignIn(ws, body);
    }
    return settingsPage(ws);
  },
  'read',
);

export const GET = answer(({ ws }) => settingsPage(ws));
