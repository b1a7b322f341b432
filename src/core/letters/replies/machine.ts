/** What a mail is that no person wrote. */
export type MachineMail = 'bounce' | 'away' | 'automatic';

/** Subjects of absence notices in the five languages of letters. Common practice of mail programs. */
const AWAY = /\b(?:out of (?:the )?office|automatic reply|auto(?:matic)?[- ]?reply|away from (?:my|the) (?:desk|office|mail)|on (?:annual )?leave|abwesenheit\w*|abwesend|automatische antwort|absence|absent du bureau|reponse automatique|fuera de la oficina|respuesta automatica|ausencia|ausente|resposta automatica)\b/;

/** Subjects and first lines of reports that a mail could not be delivered, or not yet, as mail servers have written them since before RFC 3464. */
const FAILED =
  /\b(?:undeliver(?:ed|able)|not deliver(?:ed|able)|(?:could ?n[o']t|can ?not|unable to|was not|has not been) (?:be )?deliver(?:ed)?|deliver(?:y|ing)(?: \w+){0,4} (?:has |have )?fail(?:ed|ure)?|delivery (?:status notification|incomplete|problems?)|fail(?:ed|ure) (?:delivery|notice)|mail delivery (?:sub)?system|returned (?:mail|to (?:the )?sender)|returning message to sender|did not reach|permanent (?:fatal )?errors?|fatal errors|user unknown|no such (?:user|mailbox)|mailbox (?:unavailable|full|not found)|unzustellbar\w*|nicht zugestellt|zustellung fehlgeschlagen|non (?:remis|distribue)\w*|echec de (?:la )?(?:remise|distribution)|no se (?:pudo|ha podido) entregar|no entregado|nao (?:foi )?(?:possivel )?entreg\w+|falha na entrega)\b/;
const DELAYED = /\b(?:delay(?:ed)?|still (?:being )?(?:trying|retried|attempt\w+)|will (?:be )?(?:keep trying|retr(?:y|ied)|continue)|not yet been delivered|no action is required|warning: (?:message|could not send)|verzoger\w*|retard\w*|retras\w*|atras\w*)\b/;
const POSTMASTER = /^(?:mailer-daemon|postmaster|mail-?daemon|mdaemon|mail-?delivery)\b/i;
/** A code of RFC 5321 with an enhanced one of RFC 3463: `550 5.1.1`. */
const SMTP_CODE = /\b(?<code>[45]\d\d)[ -]#?(?<status>[45]\.\d{1,3}\.\d{1,3})\b/;

/** What of a mail says that no person wrote it. */
export interface MailSigns {
  /** a header's value by its lower-case name, or undefined */
  header(name: string): string | undefined;
  /** lower case, without accents */
  subject: string;
  /** address in From, lower case */
  from?: string;
  /** the envelope's sender where it is known; empty for mail that must not be answered (RFC 5321, 4.5.5) */
  sender?: string | null;
  /** media types of its parts */
  parts?: readonly string[];
  /** its words, lower case, without accents */
  words?: string;
}

/**
 * Whether a program wrote a mail: by its headers (RFC 3834 for automatic answers, RFC 6522 for reports), by the envelope's
 * empty sender, by its parts and, where a program does not say so, by its subject and words.
 */
export function machineMail({ header, subject, from = '', sender = null, parts = [], words = '' }: MailSigns): MachineMail | null {
  const type = (header('content-type') ?? '').toLowerCase();
  const report = /multipart\/report/.test(type);
  if ((report && /delivery-status/.test(type)) || parts.some((p) => /^message\/(?:global-)?delivery-status$/.test(p))) return 'bounce';
  const auto = (header('auto-submitted') ?? 'no').split(';')[0]!.trim().toLowerCase();
  const away = AWAY.test(subject);
  const unanswerable = sender === '' || (header('return-path') ?? '').replace(/\s/g, '') === '<>';
  const failed = FAILED.test(subject) || DELAYED.test(subject) || FAILED.test(words.slice(0, 2000)) || SMTP_CODE.test(words);
  if ((POSTMASTER.test(from) || (unanswerable && !away)) && failed) return 'bounce';
  if (report) return 'automatic';
  if (auto === 'auto-replied' || header('x-autoreply') || header('x-autorespond') || /auto_reply/i.test(header('precedence') ?? '')) return 'away';
  if (away) return 'away';
  if (auto !== 'no' || unanswerable || POSTMASTER.test(from)) return 'automatic';
  return /^(?:bulk|junk|list)$/i.test((header('precedence') ?? '').trim()) ? 'automatic' : null;
}

/** What the words of an old plain report say became of a message: its status where a code is quoted, and whether the server still tries. */
export function plainReport(words: string): { status: string; lasting: boolean } {
  const code = SMTP_CODE.exec(words)?.groups;
  const low = words.slice(0, 4000);
  return { status: code?.status ?? '', lasting: code ? code.status!.startsWith('5') : !DELAYED.test(low) || /\b(?:permanent|failed permanently|gave up|giving up)\b/.test(low) };
}
