/** What became of a message for one recipient. */
export interface DeliveryStatus {
  /** address it was for, lower case */
  recipient: string;
  action: 'failed' | 'delayed' | 'delivered' | 'relayed' | 'expanded';
  /** `5.1.1`, see RFC 3463 */
  status: string;
  /** what the server said, for people */
  said: string;
}

/**
 * Reads the machine-readable part of a delivery status notification (RFC 3464): groups of fields with a blank line
 * between, the first about the message, each other about one recipient.
 */
export function readDeliveryStatus(text: string): DeliveryStatus[] {
  const groups = text
    .slice(0, 100_000)
    .replace(/\r\n?/g, '\n')
    .replace(/\n[ \t]+/g, ' ')
    .trim()
    .split(/\n\s*\n/)
    .slice(0, 200);
  const out: DeliveryStatus[] = [];
  for (const group of groups) {
    const fields = new Map<string, string>();
    for (const line of group.split('\n')) {
      const m = /^([A-Za-z-]{1,80})\s{0,4}:(.*)$/.exec(line);
      if (m) fields.set(m[1]!.toLowerCase(), m[2]!.trim());
    }
    const address = afterType(fields.get('original-recipient') ?? fields.get('final-recipient') ?? '');
    const action = (fields.get('action') ?? '').toLowerCase();
    if (!address || !/^(failed|delayed|delivered|relayed|expanded)$/.test(action)) continue;
    out.push({ recipient: address.toLowerCase(), action: action as DeliveryStatus['action'], status: /\d\.\d{1,3}\.\d{1,3}/.exec(fields.get('status') ?? '')?.[0] ?? '', said: afterType(fields.get('diagnostic-code') ?? '').slice(0, 300) });
  }
  return out;
}

/** `rfc822;bram@pellyard.example` and `smtp; 550 no such user` without the type before the semicolon. */
const afterType = (value: string) => value.replace(/^[A-Za-z0-9-]+\s*;\s*/, '').replace(/^<|>$/g, '');

/** What a status means for people (RFC 3463), by its subject and detail. */
export function statusInWords(status: string): string {
  const [, subject, detail] = status.split('.');
  if (subject === '1') return 'the address does not exist';
  if (subject === '2' && detail === '2') return 'the mailbox is full';
  if (subject === '2') return 'the mailbox takes no mail';
  if (subject === '3' && detail === '4') return 'the message is too large';
  if (subject === '4') return 'the server could not be reached';
  if (subject === '7') return 'the server does not accept it from us';
  return 'it could not be delivered';
}
