import { randomBytes } from 'node:crypto';
import nodemailer from 'nodemailer';
import type { PostOffice, Stored } from './post-office.ts';

/** Where answers are delivered: the server that takes mail for a domain. */
export interface AnswersServer {
  host: string;
  port: number;
  domain: string;
}

export type QuoteStyle = 'below' | 'above' | 'none';

/** What the readers of the stand-in's mailboxes do with a letter: answer, forward, be away, or not be there at all. */
export class Replies {
  constructor(
    private readonly office: PostOffice,
    private readonly answers: AnswersServer,
  ) {}

  /** Answers a letter as its reader, with the letter quoted as mail programs do. */
  async reply(to: Stored, words: string, quote: QuoteStyle): Promise<void> {
    const quoted = `On ${to.received.slice(0, 10)} ${to.mail.from?.value[0]?.name ?? 'somebody'} wrote:\n${(to.mail.text ?? '').trimEnd().replace(/^/gm, '> ')}`;
    const text = quote === 'none' ? words : quote === 'below' ? `${words}\n\n${quoted}` : `${quoted}\n\n${words}`;
    await this.send(to, { subject: answering(to), text, inReplyTo: to.mail.messageId, references: to.mail.messageId });
  }

  async forward(letter: Stored, address: string, words: string): Promise<void> {
    await this.send(letter, { to: address, subject: `Fwd: ${letter.mail.subject ?? ''}`, text: `${words}\n\n---------- Forwarded message ----------\n${letter.mail.text ?? ''}` });
  }

  /** An absence notice (RFC 3834). A letter that a program sent gets none. */
  async away(to: Stored, until: string): Promise<void> {
    if (/^auto-submitted:\s*auto/im.test(to.source)) return;
    await this.send(to, { subject: `Out of office: ${to.mail.subject ?? ''}`, text: `I am away until ${until} and read no mail.`, inReplyTo: to.mail.messageId, references: to.mail.messageId, headers: { 'Auto-Submitted': 'auto-replied' } });
  }

  /** A report that the letter could not be delivered (RFC 3464), to where reports go: the envelope's sender. */
  async bounce(letter: Stored, status: string, said: string): Promise<void> {
    const boundary = `report-${randomBytes(8).toString('hex')}`;
    const to = returnPath(letter);
    const raw = [
      'From: Mail Delivery <postmaster@mail.example>',
      `To: ${to}`,
      'Subject: Undelivered mail returned to sender',
      `Message-ID: <report.${randomBytes(8).toString('hex')}@mail.example>`,
      `Date: ${new Date().toUTCString()}`,
      'MIME-Version: 1.0',
      'Auto-Submitted: auto-replied',
      `Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
      '',
      `--${boundary}`,
      'Content-Type: text/plain; charset=utf-8',
      '',
      `Your message to ${letter.mailbox} could not be delivered: ${said}.`,
      `--${boundary}`,
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mail.example',
      '',
      `Final-Recipient: rfc822; ${letter.mailbox}`,
      'Action: failed',
      `Status: ${status}`,
      `Diagnostic-Code: smtp; ${status.startsWith('5') ? 550 : 450} ${status} ${said}`,
      '',
      `--${boundary}`,
      'Content-Type: text/rfc822-headers',
      '',
      letter.source.split(/\r?\n\r?\n/)[0] ?? '',
      '',
      `--${boundary}--`,
      '',
    ].join('\r\n');
    await this.deliver('', to, Buffer.from(raw));
  }

  private async send(letter: Stored, m: { to?: string; subject: string; text: string; inReplyTo?: string | undefined; references?: string | undefined; headers?: Record<string, string> }): Promise<void> {
    const to = m.to ?? (letter.mail.replyTo ?? letter.mail.from)?.value[0]?.address ?? '';
    if (!to) throw new Error('the letter does not say where an answer goes');
    const writer = { name: this.office.people.get(letter.mailbox) ?? letter.mailbox, address: letter.mailbox };
    const transport = nodemailer.createTransport({ streamTransport: true, buffer: true, newline: 'windows' });
    const info = await transport.sendMail({ from: writer, to, subject: m.subject, text: m.text, ...(m.inReplyTo ? { inReplyTo: m.inReplyTo } : {}), ...(m.references ? { references: m.references } : {}), ...(m.headers ? { headers: m.headers } : {}) });
    await this.deliver(letter.mailbox, to, info.message as Buffer);
  }

  /** Over SMTP to the server that takes answers, or into a mailbox of this post office. */
  private async deliver(from: string, to: string, raw: Buffer): Promise<void> {
    if (!to.toLowerCase().endsWith(`@${this.answers.domain}`)) return this.office.take(to, raw);
    const transport = nodemailer.createTransport({ host: this.answers.host, port: this.answers.port, secure: false, ignoreTLS: true, connectionTimeout: 4000, greetingTimeout: 4000 });
    await transport.sendMail({ envelope: { from, to }, raw });
  }
}

const answering = (s: Stored) => (/^re:/i.test(s.mail.subject ?? '') ? s.mail.subject! : `Re: ${s.mail.subject ?? ''}`);

/** Mail servers write the envelope's sender into the message; this one keeps no envelope, and letters say where answers go. */
const returnPath = (s: Stored) => (s.mail.replyTo ?? s.mail.from)?.value[0]?.address ?? '';
