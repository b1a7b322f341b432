import { convert } from 'html-to-text';
import { type AddressObject, type ParsedMail, simpleParser } from 'mailparser';
import { fold } from '../../core/language/fold.ts';
import { type DeliveryStatus, readDeliveryStatus } from '../../core/letters/replies/delivery-status.ts';
import { machineMail, plainReport } from '../../core/letters/replies/machine.ts';
import { ownWords } from '../../core/letters/replies/own-words.ts';
import { type Answer, type ReplyInput, readReply } from '../../core/letters/replies/read-reply.ts';

/** A mail as it is needed here: headers that tell what it belongs to, and its plain words. Plain data, so that threads can hand it on. */
export interface MailInside {
  messageId: string | null;
  /** Message-IDs it answers, the nearest first */
  answers: string[];
  from: { name: string; address: string };
  to: string[];
  subject: string;
  date: string | null;
  text: string;
  /** sent by a program, and what for; told without the envelope */
  headers: Record<string, string>;
  parts: string[];
  /** of a report that a letter was not delivered: what it says in its own part, and in plain words */
  status: DeliveryStatus | null;
  plain: ReturnType<typeof plainReport>;
  /** Message-IDs of what a report returns */
  returned: string[];
}

/** Headers by which a program's mail is told from a person's. */
const TELLING = ['auto-submitted', 'x-autoreply', 'x-autorespond', 'precedence', 'return-path', 'content-type', 'delivered-to'];
const WORDS = 2_000_000;

/** Opens a mail. */
export async function openMail(raw: Uint8Array): Promise<MailInside> {
  const mail = await simpleParser(Buffer.from(raw), { keepDeliveryStatus: true, skipImageLinks: true, maxHtmlLengthToParse: WORDS });
  const text = plainText(mail).slice(0, WORDS);
  const report = mail.attachments.find((a) => a.contentType === 'message/delivery-status');
  const subject = (mail.subject ?? '').slice(0, 300);
  const inner = mail.attachments.filter((a) => /^(?:message\/rfc822|text\/rfc822-headers)$/.test(a.contentType)).flatMap((a) => /^message-id:[ \t]{0,8}(<[^<>\s]{1,250}>)/im.exec(a.content.toString('utf8').slice(0, 20_000))?.[1] ?? []);
  // an old plain report has the headers of what it returns among its words
  const among = [...text.slice(0, 60_000).matchAll(/^[> \t]{0,40}message-id:[ \t]{0,8}(<[^<>\s]{3,250}>)/gim)].map((m) => m[1]!);
  return {
    messageId: mail.messageId ?? null,
    answers: [mail.inReplyTo ?? '', ...[mail.references ?? []].flat()].filter(Boolean).slice(0, 50),
    from: addressesOf(mail.from)[0] ?? { address: '', name: '' },
    to: addressesOf(mail.to).map((a) => a.address),
    subject,
    date: headerOf(mail, 'date') ?? null,
    text,
    headers: Object.fromEntries(TELLING.flatMap((name) => (headerOf(mail, name) === undefined ? [] : [[name, headerOf(mail, name)!.slice(0, 2000)]]))),
    parts: mail.attachments.map((a) => a.contentType),
    status: report ? (readDeliveryStatus(report.content.toString('utf8').slice(0, 200_000))[0] ?? null) : null,
    plain: plainReport(`${fold(subject)} ${fold(text.slice(0, 8000))}`),
    returned: [...inner, ...among].slice(0, 50),
  };
}

/** Whether a program wrote a mail, by its headers and its envelope's sender where that is known. */
export const machineOf = (mail: MailInside, sender: string | null) => machineMail({ header: (name) => mail.headers[name], subject: fold(mail.subject), from: mail.from.address.toLowerCase(), sender, parts: mail.parts, words: fold(mail.text.slice(0, 8000)) });

/** What is asked of a mail's words: who wrote it, and what it may answer; nothing, where it answers no letter. */
export interface AskedMail {
  text: string;
  writer: string;
  reply: Omit<ReplyInput, 'text'> | null;
}

/** What its writer wrote themselves, and what it says of the things a letter asked about. */
export function answerIn({ text, writer, reply }: AskedMail): { words: string; answers: Answer[] } {
  const words = ownWords(text, writer)
    .flatMap((p) => p.lines)
    .join('\n');
  return { words, answers: reply ? readReply({ ...reply, text }) : [] };
}

const addressesOf = (field: AddressObject | AddressObject[] | undefined) => (Array.isArray(field) ? field : field ? [field] : []).flatMap((f) => f.value).map((v) => ({ address: v.address ?? '', name: v.name ?? '' }));

/** The plain words of a mail; where it has only a page, those of the page, with quotations marked as mail programs do. */
function plainText(mail: ParsedMail): string {
  if (mail.text?.trim() || !mail.html) return mail.text ?? '';
  return convert(mail.html.slice(0, WORDS), {
    wordwrap: false,
    limits: { maxDepth: 400, maxInputLength: WORDS },
    selectors: [
      { selector: 'img', format: 'skip' },
      { selector: 'a', options: { ignoreHref: true } },
    ],
  });
}

/** A header's raw value: the last line of that name, unfolded. */
function headerOf(mail: ParsedMail, name: string): string | undefined {
  const line = mail.headerLines.findLast((h) => h.key === name)?.line;
  return line
    ?.slice(line.indexOf(':') + 1)
    .replace(/\r?\n[ \t]+/g, ' ')
    .trim();
}
