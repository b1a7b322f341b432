import nodemailer from 'nodemailer';

export interface Message {
  from: { name: string; address: string };
  to: { name: string; address: string };
  subject: string;
  text: string;
  html: string;
  /** a file that goes with it */
  file?: { name: string; type: string; bytes: Uint8Array };
}

/** A message that did not go: why, in words for people, and whether that goes for every message or for this one only. */
export class MailError extends Error {
  constructor(
    message: string,
    readonly everyone: boolean,
  ) {
    super(message);
    this.name = 'MailError';
  }
}

export interface Mailer {
  /** @returns the Message-ID the message went out with */
  send(message: Message): Promise<string>;
}

export interface MailSettings {
  host: string;
  port: number;
  /** milliseconds to wait for the server at each step */
  patience?: number;
}

/** Sends over SMTP (RFC 5321), HTML and plain text as alternatives (RFC 2046). */
export function smtpMailer({ host, port, patience = 8000 }: MailSettings): Mailer {
  const transport = nodemailer.createTransport({ host, port, secure: false, ignoreTLS: true, connectionTimeout: patience, greetingTimeout: patience, socketTimeout: patience, dnsTimeout: patience, disableFileAccess: true, disableUrlAccess: true });
  return {
    async send(m) {
      try {
        const info = await transport.sendMail({ from: m.from, to: m.to, subject: m.subject, text: m.text, html: m.html, ...(m.file ? { attachments: [{ filename: m.file.name, contentType: m.file.type, content: Buffer.from(m.file.bytes) }] } : {}), headers: { 'X-Mailer': 'Ottik' } });
        return info.messageId;
      } catch (error) {
        throw explain(error as Error & { code?: string; responseCode?: number; response?: string }, `${host}:${port}`);
      }
    },
  };
}

function explain(error: Error & { code?: string; responseCode?: number; response?: string }, where: string): MailError {
  if (error.code === 'ECONNECTION' || error.code === 'ECONNREFUSED' || error.code === 'ESOCKET' || error.code === 'EDNS') return new MailError(`The mail server at ${where} cannot be reached.`, true);
  if (error.code === 'ETIMEDOUT') return new MailError(`The mail server at ${where} does not answer.`, true);
  if (error.responseCode !== undefined) return new MailError(`The mail server refused it: ${(error.response ?? error.message).slice(0, 200)}`, error.responseCode === 421);
  return new MailError(`The letter could not be sent: ${error.message.slice(0, 200)}`, false);
}

export function mailSettings(): MailSettings {
  return { host: process.env.OTTIK_SMTP_HOST ?? '127.0.0.1', port: Number(process.env.OTTIK_SMTP_PORT ?? 4325), patience: Number(process.env.OTTIK_SMTP_PATIENCE ?? 8000) };
}
