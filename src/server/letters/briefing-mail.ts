import { createHash } from 'node:crypto';
import { letterHtml } from '../../core/letters/html.ts';
import { briefingOfMeeting } from '../meetings/briefings.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { ourDomain, publicAddress } from '../store/addresses.ts';
import { MailError, type Mailer } from './mailer.ts';

/** Mails the briefing of a meeting to whoever asks, and to nobody else: it says of others what they were not told. */
export async function mailBriefing(ws: Workspace, meeting: number, mailer: Mailer): Promise<{ to: string }> {
  const { meeting: m, text } = await briefingOfMeeting(ws, meeting);
  if (!ws.asker.mail) throw new Refusal('bad-input', 'You have no mail address.', 'Add your address to your entry among the people.');
  const body = `${text}\n\n${publicAddress()}/meetings/${m.id}/prepare`;
  // the same briefing mailed twice is one message to a mail program
  const digest = createHash('sha256').update(`${m.id} ${ws.asker.person} ${body}`).digest('hex').slice(0, 24);
  try {
    await mailer.send({
      messageId: `<briefing.${digest}@${ourDomain()}>`,
      from: { name: 'Ottik', address: ws.asker.mail },
      to: { name: ws.asker.name, address: ws.asker.mail },
      replyTo: ws.asker.mail,
      subject: `Before ${m.title}, ${m.date}`,
      text: body,
      html: letterHtml(body),
      headers: { 'Auto-Submitted': 'auto-generated' },
    });
  } catch (error) {
    if (error instanceof MailError) throw new Refusal('conflict', error.message, 'The briefing stands on this page; try the mail once more later.');
    throw error;
  }
  return { to: ws.asker.mail };
}
