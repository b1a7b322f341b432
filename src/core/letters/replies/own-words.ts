import { type MailMessage, messagesOf, WROTE } from '../../record/mail.ts';

/** A paragraph somebody wrote, and the quoted line it stands right under, if any. */
export interface OwnWords {
  lines: string[];
  /** the quoted line above, when an answer stands between quoted lines */
  under: string | null;
}

/** A letter has one subject: a mail with more own text than this is cut. */
const MOST = 40_000;

/** Closing words that are no answer. Common practice of business letters in five languages. */
const CLOSING =
  /^(?:(?:kind|best|warm|many)? ?regards|cheers|thanks(?: a lot| again| and regards)?|thank you|best(?: wishes)?|yours(?: sincerely| faithfully)?|(?:mit )?(?:freundlichen|besten|liebe|viele|beste) gr(?:ü|u)(?:ß|ss)en?|vg|lg|mfg|cordialement|bien (?:à|a) vous|merci(?: d’avance)?|saludos(?: cordiales)?|un saludo|atentamente|gracias|cumprimentos|com os melhores cumprimentos|obrigad[oa])[\s,.!]*$/i;
const GREETING = /^(?:(?:dear|hi|hello|hey|good (?:morning|afternoon|evening)|morning|hallo|guten (?:tag|morgen)|liebe[rs]?|bonjour|salut|ch[eè]re?|hola|buenos d[ií]as|ol[aá]|bom dia)(?:\s+\p{L}[\p{L}.'’-]*){0,3})\s*[,:!.]?$/iu;

/**
 * What the writer of an answer wrote: without what they quote, their greeting and their signature.
 * @param name of the writer, to know the line that only signs
 */
export function ownWords(text: string, name: string): OwnWords[] {
  const { messages } = messagesOf({ from: name, text: withoutUnmarked(text.slice(0, 400_000)) });
  const quoted = messages.filter((m) => m.depth > 0).flatMap((m) => m.paragraphs.map((p) => ({ line: p.line + p.lines.length - 1, words: p.lines.at(-1) ?? '', first: p.lines[0] ?? '' })));
  const bottom = isBottom(messages);
  const out: OwnWords[] = [];
  let size = 0;
  for (const p of own(messages)) {
    const lines = p.lines.filter((l) => !GREETING.test(l.trim()));
    const end = lines.findIndex((l) => CLOSING.test(l.trim()));
    const kept = (end < 0 ? lines : lines.slice(0, end)).filter((l) => !signs(l, name));
    const above = quoted.filter((q) => q.line < p.line).at(-1);
    size += kept.join('').length;
    if (kept.length && size < MOST) out.push({ lines: kept, under: bottom ? null : (above?.first ?? null) });
    // after the closing words comes a signature
    if (end >= 0 && quoted.every((q) => q.line < p.line)) break;
  }
  return out;
}

/** Some programs quote without marks: what follows the line that says who wrote it is quoted when nothing in it is marked. */
function withoutUnmarked(text: string): string {
  const lines = text.split('\n');
  const at = lines.findIndex((l, i) => !l.startsWith('>') && (WROTE.test(l.trim()) || WROTE.test(`${l.trim()} ${lines[i + 1]?.trim() ?? ''}`)));
  return at > 0 && !lines.slice(at).some((l) => l.startsWith('>')) ? lines.slice(0, at).join('\n') : text;
}

const own = (messages: readonly MailMessage[]) =>
  messages
    .filter((m) => m.depth === 0)
    .flatMap((m) => m.paragraphs)
    .sort((a, b) => a.line - b.line);

/** True when everything that was written stands below everything that is quoted: an answer to the whole of it. */
function isBottom(messages: readonly MailMessage[]): boolean {
  const quoted = messages.filter((m) => m.depth > 0).flatMap((m) => m.paragraphs.map((p) => p.line));
  return own(messages).every((p) => quoted.every((line) => line < p.line));
}

function signs(line: string, name: string): boolean {
  const said = line.trim().toLowerCase().replace(/[.,]$/, '');
  const own = name.toLowerCase();
  return said === own || said === own.split(/\s+/)[0] || /^sent from /i.test(said);
}
