import { trimMarks } from '../language/trim.ts';
import { headerLine, headersBegin, isFrom, isNotice, quotationHead, sentWith, signatureBegins } from './mail-lines.ts';
import type { MeetingRecord, Segment } from './model.ts';

/** A mail as its headers and plain words, however it was coded. */
export interface Mail {
  from: string | null;
  /** ISO 8601, or null */
  sent: string | null;
  subject: string;
  text: string;
}

/** Lines that belong together; an item of a list is a paragraph of its own. */
export interface MailParagraph {
  words: string;
  /** the same line by line */
  lines: string[];
  line: number;
  /** stands in a signature, or in what programs and firms add below */
  below: boolean;
}

/** One message of a thread: who wrote it and the paragraphs that are theirs. */
export interface MailMessage {
  from: string | null;
  /** 0 for what the writer of the mail wrote, 1 for what they quote, and so on */
  depth: number;
  paragraphs: MailParagraph[];
}

/**
 * A mail, or a thread of them, as a record: each message under the name of who wrote it, the oldest first; quoted parts
 * are read once, as the messages they are; signatures and notices are kept as what they are. Where answers stand between the quoted lines the
 * order of the mail is kept, since each answers the line above it.
 */
export function readMail(mail: Mail): MeetingRecord {
  const { messages, between } = messagesOf(mail);
  const ordered = between ? inOrder(messages) : messages.toSorted((a, b) => b.depth - a.depth).flatMap((m) => m.paragraphs.map((p) => ({ ...p, from: m.from })));
  const segments: Segment[] = [];
  const put = (text: string, line: number, voice: string | null, role: Segment['role']) => segments.push({ index: segments.length, line, text, voice, start: null, end: null, role, item: /^[-*•]\s/.test(text) ? { depth: 0, box: null, cells: null, struck: false } : null, section: null });
  put(`Subject: ${mail.subject}`, 1, null, 'meta');
  if (mail.sent) put(`Date: ${mail.sent.slice(0, 10)}`, 1, null, 'meta');
  const said = new Set<string>();
  for (const p of ordered) {
    // what a mail program quoted twice is read once
    const key = `${p.from} ${p.words}`;
    if (p.words.length > 40 && said.has(key)) continue;
    said.add(key);
    put(p.words.replace(/^[-*•]\s+/, ''), p.line, p.below ? null : p.from, p.below ? 'meta' : 'words');
  }
  return { format: 'eml', layout: messages.length > 1 ? `a thread of ${messages.length} mails` : 'a mail', segments, voices: [], doubts: [] };
}

const inOrder = (messages: readonly MailMessage[]) => messages.flatMap((m) => m.paragraphs.map((p) => ({ ...p, from: m.from }))).sort((a, b) => a.line - b.line);

/** Messages of a thread by depth of quotation; `between` tells that answers stand between quoted lines. */
export function messagesOf(mail: Pick<Mail, 'from' | 'text'>): { messages: MailMessage[]; between: boolean } {
  const top: MailMessage = { from: mail.from, depth: 0, paragraphs: [] };
  const messages = [top];
  /** message by depth of quotation, and what was announced for the next depth */
  let stack: (MailMessage | undefined)[] = [top];
  let announced: string | null = null;
  const names: (string | null)[] = [];
  let between = false;
  /** depth added by rules ("Original message") that carry no quotation marks */
  let base = 0;
  let header = false;
  let running: MailParagraph | null = null;
  let signed: number | null = null;
  const lines = mail.text.split('\n').slice(0, 50_000);
  const close = () => {
    running = null;
  };
  for (let i = 0; i < lines.length; i++) {
    const quoted = /^(?:\s?>)+/.exec(lines[i]!)?.[0];
    const depth = base + (quoted ? quoted.replace(/\s/g, '').length : 0);
    const words = lines[i]!.slice(quoted?.length ?? 0).trim();
    if (signed !== null && depth !== signed) signed = null;
    if (words === '') {
      close();
      continue;
    }
    const head = header ? null : quotationHead(lines, i);
    if (head) {
      announced = head.words ? nameOf(head.words) : null;
      const ruled = /^-{2,}/.test(words) || head.words === '';
      if (ruled) {
        // what follows carries no quotation marks
        base = depth + 1;
        stack = stack.slice(0, base);
        header = headersBegin(lines, nextWords(lines, i + head.length));
      }
      i += head.length - 1;
      close();
      continue;
    }
    if (!header && headersBegin(lines, i)) {
      base = depth + 1;
      stack = stack.slice(0, base);
      announced = null;
      header = true;
      close();
    }
    if (header) {
      const field = headerLine(words);
      if (field) {
        if (isFrom(field.name)) announced = nameOf(field.value);
        continue;
      }
      // a long list of addresses runs on
      if ((/^\S*@\S/.test(words) || /[,;]$/.test(words.trimEnd())) && words.includes('@')) continue;
      header = false;
    }
    if (headersBegin(lines, nextWords(lines, i + 1)) && /^[_=-]{3,}$/.test(words)) continue;
    if (signed === null && signatureBegins(words, untilQuotation(lines, i + 1, depth - base))) signed = depth;
    if (signed === null && (sentWith(words) || isNotice(words)) && lastOfItsDepth(lines, i, depth - base)) signed = depth;
    let message = stack[depth];
    if (!message) {
      names[depth] = announced ?? names[depth] ?? null;
      message = { from: names[depth], depth, paragraphs: [] };
      announced = null;
      stack[depth] = message;
      messages.push(message);
      close();
    } else if (stack.length > depth + 1) {
      // back from a quotation: what follows answers it
      if (stack.slice(depth + 1).some((m) => m?.paragraphs.length)) between ||= message.paragraphs.length > 0 || depth > 0 || messages.length > 1;
      stack = stack.slice(0, depth + 1);
      close();
    }
    const item = /^(?:[-*•]|\d{1,2}[.)])\s/.test(words);
    if (running && !item && (running as MailParagraph).below === (signed !== null)) {
      (running as MailParagraph).words += ` ${words}`;
      (running as MailParagraph).lines.push(words);
    } else {
      running = { words, lines: [words], line: i + 1, below: signed !== null };
      message.paragraphs.push(running);
    }
  }
  return { messages: messages.filter((m) => m.paragraphs.length > 0), between };
}

/** The next line with words in it. */
function nextWords(lines: readonly string[], from: number): number {
  let at = from;
  while (at < lines.length && lines[at]!.replace(/[\s>]/g, '') === '') at++;
  return at;
}

const marksOf = (line: string) => (/^((?:\s?>)*)/.exec(line)?.[1] ?? '').replace(/\s/g, '').length;

/** The lines of one depth of quotation from a line on, up to where a quotation begins. */
function untilQuotation(lines: readonly string[], from: number, depth: number): string[] {
  const out: string[] = [];
  for (let i = from; i < lines.length && out.length < 60; i++) {
    if (marksOf(lines[i]!) !== depth || quotationHead(lines, i) || headersBegin(lines, i)) break;
    out.push(lines[i]!.replace(/^(?:\s?>)+\s?/, ''));
  }
  return out;
}

/** Whether nothing that reads as somebody's own words comes below a line before the next quotation. */
function lastOfItsDepth(lines: readonly string[], at: number, depth: number): boolean {
  const below = untilQuotation(lines, at + 1, depth)
    .map((l) => l.trim())
    .filter(Boolean);
  return below.length <= 40 && !below.some((l) => /^(?:\d{1,2}[.):]?|C-\d+)\s+\p{L}/u.test(l));
}

/** What stands before and after a name where a mail program tells who wrote: the day, the time, the verb. */
const NOT_THE_NAME = /(?<!\p{L})(?:wrote|schrieb|a écrit|escribió|escreveu|on|am|le|el|em|at|um|à|a las|às)(?!\p{L})|\d{1,2}[:.h]\d{2}(?::\d{2})?(?:\s?[ap]\.?m\.?)?|\b\d{1,4}\b|[,()]/giu;

/** `Bram Osei` of `On Thu, 5 Mar 2026 at 10:02, "Bram Osei" <bram@…> wrote:`. */
function nameOf(words: string): string | null {
  const bare = words
    .replace(/<[^<>]{0,300}>|\[mailto:[^[\]]{0,300}\]/g, ' ')
    .replace(/["“”:]\s*$/g, '')
    .replace(/["“”]/g, '')
    .trim();
  const parts = bare
    .split(NOT_THE_NAME)
    .map((p) => trimMarks(p, '.:'))
    .filter((p) => p.length > 1);
  return parts.at(-1) ?? null;
}
