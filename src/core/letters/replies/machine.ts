/** What a mail is that no person wrote. */
export type MachineMail = 'bounce' | 'away' | 'automatic';

/** Subjects of absence notices in the five languages of letters. Common practice of mail programs. */
const AWAY = /\b(?:out of (?:the )?office|automatic reply|auto(?:matic)?[- ]?reply|away from (?:my|the) (?:desk|office|mail)|on (?:annual )?leave|abwesenheit\w*|abwesend|automatische antwort|absence|absent du bureau|reponse automatique|fuera de la oficina|respuesta automatica|ausencia|ausente|resposta automatica)\b/;

/**
 * Whether a program wrote a mail, by its headers (RFC 3834 for automatic answers, RFC 3462 for reports) and, where a
 * program does not say so, by its subject.
 *
 * @param header gives a header's value by its lower-case name, or undefined
 */
export function machineMail(header: (name: string) => string | undefined, foldedSubject: string): MachineMail | null {
  const type = header('content-type') ?? '';
  if (/multipart\/report/i.test(type) && /delivery-status/i.test(type)) return 'bounce';
  const auto = (header('auto-submitted') ?? 'no').split(';')[0]!.trim().toLowerCase();
  const away = AWAY.test(foldedSubject);
  if (auto === 'auto-replied') return 'away';
  if (auto !== 'no') return 'automatic';
  if (header('x-autoreply') || header('x-autorespond') || /auto_reply/i.test(header('precedence') ?? '')) return 'away';
  if (away) return 'away';
  // the empty return path is for mail that must not be answered (RFC 5321, 4.5.5)
  if ((header('return-path') ?? '').trim() === '<>' && /deliver|undeliver|returned mail|failure|unzustellbar/.test(foldedSubject)) return 'bounce';
  return /^(?:bulk|junk)$/i.test(header('precedence') ?? '') ? 'automatic' : null;
}
