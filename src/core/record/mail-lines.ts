import { trimMarks } from '../language/trim.ts';

/**
 * What the lines of a mail are by their form: who wrote what is quoted, headers of an inner message, signatures, and what
 * programs and firms add below. The forms are common practice of mail programs in the five languages letters are written in.
 */

const WROTE = /(?<!\p{L})(?:wrote|writes|schrieb(?:en)?|a écrit|escribió|escreveu|ha scritto|schreef|skrev)(?!\p{L})/iu;
const SENT = /(?<!\p{L})(?:sent|gesendet|envoyé|enviado|enviou)(?!\p{L})/iu;
const BEGINS = /^(?:on|am|le|el|em|a|il|op|den)\s/iu;
const ADDRESS = /[\w.+-]{1,64}@[\w-]{1,63}(?:\.[\w-]{1,63}){1,8}/;
const CLOCK = /\b\d{1,2}[:.h]\d{2}(?::\d{2})?\b/;
const YEAR_DAY = /\b(?:\d{4}-\d{2}-\d{2}|\d{1,2}[./-]\d{1,2}[./-]\d{2,4}|(?:19|20)\d{2})\b/;
const ISO_MOMENT = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}/;
/** A line of an attribution may be long, and a mail program breaks it over so many lines at the most. */
const [LONGEST_HEAD, HEAD_LINES] = [320, 3];

/** A line without its quotation marks and the stars or underlines of bold. */
export const bare = (line: string) =>
  line
    .replace(/^(?:\s?>)+\s?/, '')
    .replace(/^[*_]{1,2}(?=[\p{L}-])|[*_]{1,2}$/gu, '')
    .trim();

/**
 * Whether the lines from one on say who wrote what follows: `On Thu, 5 Mar 2026 at 10:02, Bram wrote:` over up to three
 * lines, `2026-03-05T10:02+01:00 Bram Osei:`, `---- Bram wrote ----`, `Begin forwarded message:`.
 * @returns how many lines it takes and its words, or null
 */
export function quotationHead(lines: readonly string[], at: number): { length: number; words: string } | null {
  const first = bare(lines[at] ?? '');
  if (first === '' || first.length > LONGEST_HEAD) return null;
  if (ruled(first)) return { length: 1, words: first };
  if (FORWARDED.test(first)) return { length: 1, words: '' };
  let words = '';
  for (let n = 1; n <= HEAD_LINES; n++) {
    const line = bare(lines[at + n - 1] ?? '');
    if (line === '' || words.length + line.length > LONGEST_HEAD) return null;
    words = words ? `${words} ${line}` : line;
    if (/[:：]\s*$/.test(line)) return attributes(words, lines, at + n) ? { length: n, words } : null;
  }
  return null;
}

/** Whether words that end with a colon tell who wrote what follows, rather than lead on to what their writer says. */
function attributes(words: string, lines: readonly string[], next: number): boolean {
  const dated = YEAR_DAY.test(words) || CLOCK.test(words);
  const quotes = lines.slice(next, next + 3).some((l) => /^\s?>/.test(l));
  if (WROTE.test(words)) return dated || ADDRESS.test(words) || quotes || (BEGINS.test(words) && words.length > 16);
  if (SENT.test(words) && dated && (ADDRESS.test(words) || quotes)) return true;
  if (ISO_MOMENT.test(words) && /\p{L}{2}/u.test(words.slice(16))) return true;
  return dated && (ADDRESS.test(words) || (quotes && YEAR_DAY.test(words)));
}

const MESSAGE = /(?<!\p{L})(?:messages?|nachricht(?:en)?|mensajes?|mensagens?|mensagem|messaggio|bericht|e-?mails?)(?!\p{L})/iu;
/** Lines between dashes: `---- Original message ----`, `---- On Thu Bram wrote ----`. */
const ruled = (line: string) => /^-{2,}\s*[^-\s].{1,240}?\s*-{2,}:?$/.test(line) && (MESSAGE.test(line) || WROTE.test(line));
/** `Begin forwarded message:`, `Message transféré :`, with words for message and for passing on. */
const FORWARDED =
  /^(?:(?:begin|start of|anfang der|début du|inicio del|início da)\s+)?(?=.{0,60}(?:message|nachricht|mensaje|mensagem))(?=.{0,60}(?:forwarded|weitergeleitete|transféré|réexpédié|reenviado|reencaminhad|encaminhad))[\p{L}\s]{8,50}\s?:$|^(?:message transféré|forwarded message|weitergeleitete nachricht|mensaje reenviado|mensagem (?:re)?encaminhada)$/iu;

const KEY = 'from|von|de|sent|gesendet|envoyé|enviado(?: el| em)?|date|datum|fecha|data|to|an|à|para|cc|kopie|subject|betreff|objet|asunto|assunto|reply-to|antwort an|importance';
const HEADER = new RegExp(`^[*_]{0,2}(${KEY})\\s?:[*_]{0,2}\\s*(.*)$`, 'iu');
const FROM = /^(?:from|von|de)$/i;
const TELLING = /^(?:sent|gesendet|envoyé|enviado|date|datum|fecha|data|subject|betreff|objet|asunto|assunto)/iu;

/** A header line of an inner message, bold or not: its name and value. */
export function headerLine(line: string): { name: string; value: string } | null {
  const m = HEADER.exec(bare(line));
  return m ? { name: m[1]!.toLowerCase(), value: trimMarks(m[2]!, '*_') } : null;
}

export const isFrom = (name: string) => FROM.test(name);

/**
 * Whether header lines of an inner message begin here. They come together: one alone is a sentence that begins like one;
 * two are enough where they tell who and when or what about, or hold an address.
 */
export function headersBegin(lines: readonly string[], at: number): boolean {
  const found: { name: string; value: string }[] = [];
  let misses = 0;
  for (let i = at; i < Math.min(lines.length, at + 6) && misses < 1; i++) {
    const header = headerLine(lines[i]!);
    if (header) found.push(header);
    else if (bare(lines[i]!) === '' || found.length === 0) break;
    // a long list of addresses goes on in the next line
    else misses += ADDRESS.test(lines[i]!) ? 0 : 1;
  }
  const who = found.find((h) => isFrom(h.name) && h.value !== '');
  if (!who) return false;
  return found.length >= 3 || (found.length === 2 && found.some((h) => TELLING.test(h.name)) && (ADDRESS.test(who.value) || found.some((h) => YEAR_DAY.test(h.value) || CLOCK.test(h.value))));
}

/** What a telephone or a service writes below a mail: that it was sent, and with what. A sentence that says when is no such line. */
const SENT_WITH =
  /^(?:(?:sent|written|typed|composed|get|download|gesendet|verschickt|geschrieben|envoyé|enviado|escrito|obtenez|obtener?|téléchargez)\s+(?:from|with|via|by|using|on|through|mit|von|über|aus|de|depuis|avec|par|via|desde|con|por|mediante|do|da|a partir|através|com|usando|outlook)(?!\p{L}).{0,100}|(?:von|mit) (?:meinem|meiner) .{2,60} (?:gesendet|geschrieben)|(?:get|download|obtenez|téléchargez|obtén|obtenha|holen sie sich) \S.{1,40} (?:for|für|pour|para) \S{2,30})$/iu;
const WHEN = /\b(?:yesterday|today|this (?:morning|afternoon|week)|last (?:week|night)|already|monday|tuesday|wednesday|thursday|friday|gestern|heute|hier|aujourd|ayer|hoy|ontem|hoje)\b|\d{1,2}[:.]\d{2}/i;

export const sentWith = (line: string) => SENT_WITH.test(line) && !WHEN.test(line);

/** What notices and advertising below a mail speak of. */
const LEGAL =
  /(?<!\p{L})(?:confidential\p{L}*|privileged|disclaimer|intended (?:only |solely )?(?:for|recipients?)|intended recipient|unauthori[sz]ed|vertraulich\p{L}*|confidentiel\p{L}*|destinataire|confidenci\p{L}*|destinatario|destinatário|empfänger bestimmt|viruse?s?|virenfrei|scanned|gescannt|analysé|escaneado|unsubscribe|abmelden|désabonner|darse de baja|cancelar a subscrição|registered (?:office|in|number|company)|handelsregister|geschäftsführer|siret|please consider the environment|think before you print|denken sie an die umwelt|pensez à l['’]environnement|before printing)(?!\p{L})/iu;
const EVERY_LEGAL = new RegExp(LEGAL.source, 'giu');
const ABOUT_THE_MAIL =
  /^(?:(?:confidentiality|legal|privacy) notice\b|disclaimer\b|(?:this|diese?r?|cet?te?|ce|este|esta|it)\s+(?:e-?mail|mail|message|communication|nachricht|mensaje|mensagem|correo|courriel)\b(?:.{0,60})\b(?:is|was|are|were|has|have|may|might|contains?|and any|kann|ist|wurde|enthält|est|peut|contient|es|puede|contiene|é|pode|contém)\b(?! to (?:confirm|say|let|tell|ask|remind)))/iu;

/** Whether a paragraph is a notice or advertising that is put below every mail, by what it speaks of. */
export function isNotice(paragraph: string): boolean {
  return (paragraph.match(EVERY_LEGAL)?.length ?? 0) > 1 || ABOUT_THE_MAIL.test(paragraph);
}

/** The line of two dashes before a signature (RFC 3676, 4.3). */
const SIGNATURE_DASHES = /^--\s?$/;
const RULE = /^[_=*~—–-]{3,}$/;
/** A signature is a few short lines at the end. */
const [SIGNATURE_LINES, SIGNATURE_WIDTH] = [7, 72];

/**
 * Whether a signature begins at a line: two dashes, or a rule with nothing but a few short lines below that read as a name, a
 * firm and numbers rather than as sentences.
 * @param below the lines after it, up to the end or to where a quotation begins
 */
export function signatureBegins(line: string, below: readonly string[]): boolean {
  if (SIGNATURE_DASHES.test(line)) return true;
  if (!RULE.test(line)) return false;
  const lines = below.map((l) => l.trim()).filter(Boolean);
  if (lines.length === 0) return true;
  if (lines.some(isNotice) && lines.findIndex(isNotice) <= 1) return true;
  return lines.length <= SIGNATURE_LINES && lines.every((l) => l.length <= SIGNATURE_WIDTH && !/[.!?]$|^\s*(?:[-*•]|\d{1,2}[.)])\s|:\s*$/.test(l)) && lines.some((l) => ADDRESS.test(l) || /(?:\+|\b0)\d[\d\s()/.-]{6,}|www\.|https?:/i.test(l) || lines.length <= 3);
}
