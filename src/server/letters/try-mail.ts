import { randomBytes } from 'node:crypto';
import type { z } from 'zod';
import { letterHtml } from '../../core/letters/html.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { ourDomain } from '../store/addresses.ts';
import { connectionTyped, type OutgoingSchema } from './mail-settings.ts';
import { MailError, smtpMailer } from './mailer.ts';

/** Somebody waits at the page: a server that takes longer than this does not answer. In milliseconds. */
const PATIENCE = 15_000;

/**
 * Sends a letter to whoever asks by a mail server as it was typed in, before it is kept.
 * @throws Refusal that says what happened
 */
export async function tryOutgoing(ws: Workspace, typed: z.infer<typeof OutgoingSchema>, patience = PATIENCE): Promise<{ to: string }> {
  if (!ws.asker.mail) throw new Refusal('bad-input', 'You have no mail address.', 'Add your address to your entry among the people.');
  const body = `This letter went by ${typed.host}, as you asked on Ottik’s settings page. Nothing else was sent.`;
  const me = { name: ws.asker.name, address: ws.asker.mail };
  try {
    await smtpMailer({ ...(await connectionTyped(ws, 'out', typed)), patience }).send({ messageId: `<try.${randomBytes(9).toString('hex')}@${ourDomain()}>`, from: me, to: me, replyTo: me.address, subject: 'Test: Ottik can send', text: body, html: letterHtml(body), headers: { 'Auto-Submitted': 'auto-generated' } });
  } catch (error) {
    if (error instanceof MailError) throw new Refusal('unreachable', error.message);
    throw error;
  }
  return { to: me.address };
}
