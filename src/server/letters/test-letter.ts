import { randomBytes } from 'node:crypto';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { ourDomain } from '../store/addresses.ts';
import { letterAs, letterById } from './letters.ts';
import type { Mailer } from './mailer.ts';

/**
 * Sends a letter to whoever asks, as its first recipient would get it. It is marked as a test, counts as written to
 * nobody, and the personal page in it does not open.
 */
export async function sendTest(ws: Workspace, id: number, mailer: Mailer): Promise<{ to: string }> {
  const letter = await letterById(ws, id);
  if (!ws.asker.mail) throw new Refusal('bad-input', 'You have no mail address.', 'Add your address to your entry among the people.');
  const reader = letter.recipients.find((r) => r.id !== 'chat');
  const view = letterAs(letter, { name: reader?.name ?? ws.asker.name, mail: ws.asker.mail });
  const shut = (text: string) => text.replace(/\/answer\/[\w.-]+/g, '/answer/only-in-the-real-letter');
  await mailer.send({ messageId: `<test.${randomBytes(9).toString('hex')}@${ourDomain()}>`, from: { name: letter.fromName, address: letter.fromMail }, to: { name: ws.asker.name, address: ws.asker.mail }, replyTo: ws.asker.mail, subject: `Test: ${view.subject}`, text: shut(view.text), html: shut(view.html) });
  return { to: ws.asker.mail };
}
