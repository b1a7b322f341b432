import { describe, expect, it } from 'vitest';
import { fold } from '../../../../src/core/language/fold.ts';
import { readDeliveryStatus, statusInWords } from '../../../../src/core/letters/replies/delivery-status.ts';
import { machineMail } from '../../../../src/core/letters/replies/machine.ts';

const kind = (headers: Record<string, string>, subject = 'Re: C-26') => machineMail((name) => headers[name], fold(subject));

describe('mail that no person wrote', () => {
  it('says so in Auto-Submitted (RFC 3834, section 5)', () => {
    expect(kind({ 'auto-submitted': 'no' })).toBeNull();
    expect(kind({ 'auto-submitted': 'auto-replied' })).toBe('away');
    expect(kind({ 'auto-submitted': 'auto-replied; owner-email="x@y.example"' })).toBe('away');
    expect(kind({ 'auto-submitted': 'auto-generated' })).toBe('automatic');
    expect(kind({})).toBeNull();
  });
  it('or in its subject, in five languages', () => {
    for (const s of ['Out of office: C-26', 'Automatic reply: weights', 'Abwesenheitsnotiz', 'Automatische Antwort: Gewichte', 'Réponse automatique : poids', 'Respuesta automática', 'Resposta automática']) expect([s, kind({}, s)]).toEqual([s, 'away']);
    for (const s of ['Re: leave of the crane', 'Re: the office is out of paper', 'Re: C-26']) expect([s, kind({}, s)]).toEqual([s, null]);
  });
  it('or is a report of a mail server', () => {
    expect(kind({ 'content-type': 'multipart/report; report-type=delivery-status; boundary="x"' })).toBe('bounce');
    expect(kind({ 'content-type': 'multipart/report; report-type=disposition-notification' })).toBeNull();
    expect(kind({ precedence: 'bulk' })).toBe('automatic');
  });
});

describe('delivery status notifications', () => {
  it('are read as in the examples of RFC 3464, appendix E (quoted from memory)', () => {
    // E.1, a simple report
    const simple = 'Reporting-MTA: dns; cs.utk.edu\n\nOriginal-Recipient: rfc822;louisl@larry.slip.umd.edu\nFinal-Recipient: rfc822;louisl@larry.slip.umd.edu\nAction: failed\nStatus: 4.0.0\nDiagnostic-Code: smtp; 426 connection timed out\nLast-Attempt-Date: Thu, 7 Jul 1994 17:15:49 -0400\n';
    expect(readDeliveryStatus(simple)).toEqual([{ recipient: 'louisl@larry.slip.umd.edu', action: 'failed', status: '4.0.0', said: '426 connection timed out' }]);
    // E.2, several recipients
    const several =
      "Reporting-MTA: dns; cs.utk.edu\n\nOriginal-Recipient: rfc822;arathib@vnet.ibm.com\nFinal-Recipient: rfc822;arathib@vnet.ibm.com\nAction: failed\nStatus: 5.0.0 (permanent failure)\nDiagnostic-Code: smtp; 550 'arathib@vnet.IBM.COM' is not a\n registered gateway user\nRemote-MTA: dns; vnet.ibm.com\n\nOriginal-Recipient: rfc822;johnh@hpnjld.njd.hp.com\nFinal-Recipient: rfc822;johnh@hpnjld.njd.hp.com\nAction: delayed\nStatus: 4.0.0 (hpnjld.njd.jp.com: host name lookup failure)\n";
    expect(readDeliveryStatus(several)).toEqual([
      { recipient: 'arathib@vnet.ibm.com', action: 'failed', status: '5.0.0', said: "550 'arathib@vnet.IBM.COM' is not a registered gateway user" },
      { recipient: 'johnh@hpnjld.njd.hp.com', action: 'delayed', status: '4.0.0', said: '' },
    ]);
  });
  it('say in words what their status means (RFC 3463)', () => {
    expect(['5.1.1', '5.2.2', '5.3.4', '4.4.1', '5.7.1', '5.0.0'].map(statusInWords)).toEqual(['the address does not exist', 'the mailbox is full', 'the message is too large', 'the server could not be reached', 'the server does not accept it from us', 'it could not be delivered']);
  });
  it('are nothing when they are nothing', () => {
    expect(readDeliveryStatus('')).toEqual([]);
    expect(readDeliveryStatus('Final-Recipient: rfc822; a@b.example\nAction: exploded\n')).toEqual([]);
  });
});
