import { fold } from '../../language/fold.ts';
import { type MailMessage, type MailParagraph, messagesOf } from '../../record/mail.ts';
import { headersBegin, isNotice, quotationHead, sentWith } from '../../record/mail-lines.ts';

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
  /^(?:(?:(?:with )?(?:kind|best|warm|many|my|all the)? ?(?:regards|best|wishes))|cheers|thanks(?: a lot| again| and regards| so much)?|many thanks|thank you|ta|best(?: wishes)?|all the best|yours(?: sincerely| faithfully| truly)?|(?:mit )?(?:freundlichen|besten|liebe|viele|beste|herzliche) gr(?:ü|u)(?:ß|ss)en?|gr(?:ü|u)(?:ß|ss)e|vg|lg|mfg|cordialement|bien (?:à|a) (?:vous|toi)|(?:bonne|belle) journée|merci(?: d’avance| d'avance)?|saludos(?: cordiales)?|un saludo|atentamente|gracias|un abrazo|cumprimentos|(?:com os )?melhores cumprimentos|abraço|obrigad[oa])[\s,.!–-]*$/iu;
const GREETING =
  /^(?:dear|hi|hello|hey|hiya|good (?:morning|afternoon|evening)|morning|afternoon|evening|hallo|moin|servus|guten (?:tag|morgen|abend)|liebe[rs]?|sehr geehrte[rs]?|bonjour|bonsoir|salut|ch[eè]re?s?|hola|buen[oa]s (?:d[ií]as|tardes)|estimad[oa]s?|ol[aá]|bom dia|boa (?:tarde|noite)|car[oa]s?)(?![\p{L}'’-])/iu;
/** Who is greeted without a name. */
const ANYBODY = /^(?:all|both|there|again|everyone|everybody|team|folks|zusammen|alle|tous|toutes|todos|todas|mr|mrs|ms|dr|herr|frau|monsieur|madame|señora?|senhora?)$/u;
/** Words that begin an answer rather than end a greeting, also with a capital. */
const NO_NAME =
  /^(?:i|i['’]\p{L}+|it|it['’]?s|its|the|this|that|they|we|you|all|both|yes|no|not|done|sent|finished|ok|okay|just|still|sorry|please|on|in|as|my|our|there|thanks|thank|quick|regarding|re|number|item|nothing|everything|ich|es|das|alles|ja|nein|erledigt|fertig|je|c['’]est|oui|non|fait|tout|lo|está|listo|hecho|sí|ya|sim|não|feito|já)$/iu;

/**
 * What the writer of an answer wrote: without what they quote, their greeting, their signature, and what programs and firms
 * put below. Below quoted lines a mail may go on.
 * @param name  of the writer, to know the line that only signs
 * @param names by which others are greeted
 */
export function ownWords(text: string, name: string, names: readonly string[] = []): OwnWords[] {
  const { messages } = messagesOf({ from: name, text: withoutUnmarked(text.slice(0, 400_000)) });
  const quoted = messages.filter((m) => m.depth > 0).flatMap((m) => m.paragraphs.map((p) => ({ line: p.line + p.lines.length - 1, words: p.lines.at(-1) ?? '', first: p.lines[0] ?? '' })));
  const bottom = isBottom(messages);
  const known = new Set([name, ...names].flatMap((n) => fold(n).split(/[\s-]+/)));
  const out: OwnWords[] = [];
  let size = 0;
  /** line after which, until the next quoted one, stands a signature */
  let signed: number | null = null;
  for (const p of own(messages)) {
    if (signed !== null && !quoted.some((q) => q.line > signed! && q.line < p.line)) continue;
    signed = null;
    if (p.below) continue;
    const lines = p.lines.map((l) => withoutGreeting(l, known)).filter((l) => l !== '' && !isHead(l));
    const end = lines.findIndex((l, i) => CLOSING.test(l.trim()) || (signs(l, name) && (i > 0 || out.length > 0)));
    const kept = (end < 0 ? lines : lines.slice(0, end)).filter((l) => !signs(l, name) && !sentWithBelow(l, out.length > 0) && !isNotice(l));
    const above = quoted.filter((q) => q.line < p.line).at(-1);
    size += kept.join('').length;
    if (kept.length && size < MOST) out.push({ lines: kept, under: bottom ? null : (above?.first ?? null) });
    // after the closing words comes a signature
    if (end >= 0) signed = p.line;
  }
  // alone in a mail, “Sent with the pilot boat” is an answer
  const alone = out.length === 0 ? own(messages).find((p) => p.below && p.lines.every((l) => sentWith(l))) : undefined;
  return alone ? [{ lines: alone.lines, under: null }] : out;
}

const sentWithBelow = (line: string, below: boolean) => below && sentWith(line);

/** A line that tells who wrote what is quoted is never an answer, wherever it was left standing. */
const isHead = (line: string) => quotationHead([line], 0) !== null || headersBegin(line.split('\n'), 0);

/** A line without the greeting it begins with: the words, and the names that are greeted. */
function withoutGreeting(line: string, known: ReadonlySet<string>): string {
  const greeting = GREETING.exec(line.trim());
  if (!greeting) return line;
  let rest = line.trim().slice(greeting[0].length);
  for (let n = 0; n < 4; n++) {
    const word = /^[\s]*(?:(?:and|und|et|y|e|&)\s+)?(\p{L}[\p{L}'’.-]*)/u.exec(rest);
    if (!word || /^\s*[,!:;–—]/.test(rest)) break;
    const said = word[1]!.replace(/[.]$/, '');
    const after = rest.slice(word[0].length);
    const ends = /^\s*(?:[,!:.–—]|$)/.test(after);
    const named = known.has(fold(said)) || (ANYBODY.test(said.toLowerCase()) && (ends || !/^(?:all|both|there)$/i.test(said))) || (/^\p{Lu}/u.test(said) && !NO_NAME.test(said));
    if (!named) break;
    rest = after;
  }
  // “Afternoon works for me” greets nobody
  const left = rest.replace(/^[\s,!:.–—]+/, '');
  if (rest === line.trim().slice(greeting[0].length) && /^\s+\p{Ll}/u.test(rest) && /^(?:morning|afternoon|evening|dear|there)$/i.test(greeting[0])) return line;
  return left;
}

/** Some programs quote without marks: what follows the line that says who wrote it is quoted when nothing in it is marked. */
function withoutUnmarked(text: string): string {
  const lines = text.split('\n');
  const at = lines.findIndex((l, i) => !l.startsWith('>') && quotationHead(lines, i) !== null);
  return at > 0 && !lines.slice(at).some((l) => /^\s?>/.test(l)) ? lines.slice(0, at).join('\n') : text;
}

const own = (messages: readonly MailMessage[]): MailParagraph[] =>
  messages
    .filter((m) => m.depth === 0)
    .flatMap((m) => m.paragraphs)
    .sort((a, b) => a.line - b.line);

/** True when everything that was written stands below everything that is quoted: an answer to the whole of it. */
function isBottom(messages: readonly MailMessage[]): boolean {
  const quoted = messages.filter((m) => m.depth > 0).flatMap((m) => m.paragraphs.map((p) => p.line));
  return own(messages).every((p) => p.below || quoted.every((line) => line < p.line));
}

function signs(line: string, name: string): boolean {
  const said = fold(line)
    .trim()
    .replace(/^[-–—]\s*|[.,]$/g, '');
  const own = fold(name);
  return said !== '' && (said === own || said === own.split(/\s+/)[0]);
}
