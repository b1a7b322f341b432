import { rootCertificates } from 'node:tls';
import nodemailer from 'nodemailer';

export interface Message {
  /** without angle brackets kept by the caller: `<12.bram@ottik.example>`; the same at every try */
  messageId: string;
  from: { name: string; address: string };
  to: { name: string; address: string };
  /** where answers and reports of failure go */
  replyTo: string;
  subject: string;
  text: string;
  html: string;
  /** Message-IDs of earlier letters on the same matter, oldest first */
  references?: readonly string[];
  headers?: Record<string, string>;
  /** a file that goes with it */
  file?: { name: string; type: string; bytes: Uint8Array };
  /** an iCalendar request */
  calendar?: { method: 'REQUEST' | 'CANCEL'; content: string };
}

/** A message that did not go: why, in words for people. */
export class MailError extends Error {
  constructor(
    message: string,
    /** it goes for every message, not for this one only */
    readonly everyone: boolean,
    /** trying again later may help */
    readonly temporary: boolean,
  ) {
    super(message);
    this.name = 'MailError';
  }
}

export interface Mailer {
  send(message: Message): Promise<void>;
}

export interface MailSettings {
  host: string;
  port: number;
  /** milliseconds to wait for the server at each step, in place of what the standard allows it */
  patience?: number | undefined;
  /** how the connection is protected: from the first byte, after STARTTLS, or not at all */
  security?: 'tls' | 'starttls' | 'none';
  user?: string | undefined;
  password?: string | undefined;
  /** certificates (PEM) of an authority of the house, trusted beside those the system trusts */
  authority?: string | undefined;
}

/** A message as nodemailer takes it. Its fields are given apart, so that no value can begin a new header line. */
export function asMail(m: Message) {
  const oneLine = (s: string) => s.replace(/[\r\n]+/g, ' ');
  return {
    messageId: m.messageId,
    from: m.from,
    to: m.to,
    replyTo: m.replyTo,
    envelope: { from: m.replyTo, to: m.to.address },
    subject: oneLine(m.subject),
    text: m.text,
    html: m.html,
    ...(m.references?.length ? { references: [...m.references], inReplyTo: m.references.at(-1)! } : {}),
    ...(m.file ? { attachments: [{ filename: m.file.name, contentType: m.file.type, content: Buffer.from(m.file.bytes) }] } : {}),
    ...(m.calendar ? { icalEvent: { method: m.calendar.method, filename: 'invitation.ics', content: m.calendar.content } } : {}),
    headers: { 'X-Mailer': 'Ottik', ...Object.fromEntries(Object.entries(m.headers ?? {}).map(([k, v]) => [k, oneLine(v)])) },
    disableFileAccess: true,
    disableUrlAccess: true,
  };
}

/**
 * How long a server may take, in milliseconds: five minutes to greet, ten to say that it has a message (RFC 5321, 4.5.3.2.1
 * and 4.5.3.2.6). Whoever hangs up sooner sends a message a second time that was taken the first time.
 */
const TIMES = { connection: 60_000, greeting: 300_000, answer: 600_000 };

/** A connection is kept for so long after the last message. */
const KEEP = 2000;

/** Sends over SMTP (RFC 5321), HTML and plain text as alternatives (RFC 2046). Messages sent together share a connection. */
export function smtpMailer({ host, port, patience, security = 'none', user, password, authority }: MailSettings): Mailer {
  const connect = () =>
    nodemailer.createTransport({
      pool: true,
      maxConnections: 1,
      maxMessages: 100,
      host,
      port,
      secure: security === 'tls',
      ignoreTLS: security === 'none',
      requireTLS: security === 'starttls',
      connectionTimeout: patience ?? TIMES.connection,
      greetingTimeout: patience ?? TIMES.greeting,
      socketTimeout: patience ?? TIMES.answer,
      dnsTimeout: patience ?? TIMES.connection,
      ...(authority ? { tls: { ca: [...rootCertificates, authority] } } : {}),
      ...(user ? { auth: { user, pass: password ?? '' } } : {}),
    });
  let transport: ReturnType<typeof connect> | null = null;
  let idle: NodeJS.Timeout | undefined;
  let underWay = 0;
  const hangUp = () => {
    transport?.close();
    transport = null;
  };
  return {
    async send(m) {
      clearTimeout(idle);
      transport ??= connect();
      underWay++;
      let failed = false;
      try {
        await transport.sendMail(asMail(m));
      } catch (error) {
        failed = true;
        throw explain(error as SmtpError, `${host}:${port}`);
      } finally {
        underWay--;
        // a letter that is under way is not cut off for another that has ended
        if (underWay === 0) {
          if (failed) hangUp();
          else idle = setTimeout(hangUp, KEEP).unref();
        }
      }
    },
  };
}

type SmtpError = Error & { code?: string; command?: string; responseCode?: number; response?: string };

function explain(error: SmtpError, where: string): MailError {
  if (/certificate|self.signed|altnames/i.test(`${error.code} ${error.message}`)) return new MailError(`The certificate of the mail server at ${where} is not one to be trusted: ${error.message.slice(0, 200)}.`, true, true);
  if (error.code === 'ETLS' || /STARTTLS/.test(error.message)) return new MailError(`The mail server at ${where} does not offer a protected connection.`, true, true);
  if (error.code === 'EAUTH') return new MailError(`The mail server at ${where} does not accept the login.`, true, true);
  if (error.responseCode !== undefined) {
    // 421 is said of the whole service; other answers are about this message (RFC 5321, 4.2.1 and 4.2.2)
    return new MailError(`The mail server refused it: ${(error.response ?? error.message).slice(0, 200)}`, error.responseCode === 421 || error.command === 'CONN', error.responseCode < 500);
  }
  if (error.code === 'ETIMEDOUT') return new MailError(`The mail server at ${where} does not answer.`, true, true);
  if (error.code === 'EENVELOPE' || error.code === 'EMESSAGE') return new MailError(`The letter could not be sent: ${error.message.slice(0, 200)}`, false, false);
  return new MailError(`The mail server at ${where} cannot be reached.`, true, true);
}

/** While no mail server is set up, nothing goes anywhere, and what was to go waits. */
export const noMailer: Mailer = {
  send: async () => {
    throw new MailError('No mail server is set up yet: name one in the settings.', true, true);
  },
};
