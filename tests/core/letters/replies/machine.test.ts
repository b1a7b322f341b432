import { describe, expect, it } from 'vitest';
import { fold } from '../../../../src/core/language/fold.ts';
import { readDeliveryStatus, statusInWords } from '../../../../src/core/letters/replies/delivery-status.ts';
import { type MailSigns, machineMail, plainReport } from '../../../../src/core/letters/replies/machine.ts';

const kind = (headers: Record<string, string>, subject = 'Re: C-26', more: Partial<MailSigns> = {}) => machineMail({ header: (name) => headers[name], subject: fold(subject), ...more });

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
    // a receipt (RFC 8098) tells that a mail was opened; nobody answered it
    expect(kind({ 'content-type': 'multipart/report; report-type=disposition-notification' })).toBe('automatic');
    expect(kind({ precedence: 'bulk' })).toBe('automatic');
  });
});

describe('reports without a machine-readable part', () => {
  it('are known by the empty sender of their envelope, or by who sends them', () => {
    for (const words of ['the following message could not be delivered to one or more recipients', 'delivery to the following recipient failed permanently', 'i was unable to deliver your message to the following addresses. this is a permanent error', '550 5.1.1 <bram@pell.example>: user unknown']) {
      expect(kind({}, 'Re: C-26', { sender: '', words })).toBe('bounce');
      expect(kind({ 'return-path': '<>' }, 'Re: C-26', { words })).toBe('bounce');
      expect(kind({}, 'failure notice', { from: 'mailer-daemon@mail.example', words })).toBe('bounce');
      // somebody who quotes such words is a person
      expect(kind({}, 'Re: C-26', { from: 'bram@pell.example', sender: 'bram@pell.example', words })).toBeNull();
    }
  });
  it('or by their parts', () => {
    expect(kind({ 'content-type': 'multipart/report; boundary="x"' }, 'Mail', { parts: ['text/plain', 'message/delivery-status'] })).toBe('bounce');
    expect(kind({ 'content-type': 'multipart/mixed' }, 'Mail', { parts: ['message/delivery-status'] })).toBe('bounce');
  });
  it('warn of a delay without lasting', () => {
    expect(plainReport('warning: message still undelivered after 4 hours. will keep trying until message is 5 days old')).toEqual({ status: '', lasting: false });
    expect(plainReport('450 4.2.2 mailbox full, will retry')).toEqual({ status: '4.2.2', lasting: false });
    expect(plainReport('550 5.1.1 user unknown')).toEqual({ status: '5.1.1', lasting: true });
  });
  it('an absence notice with an empty sender is one all the same (RFC 3834, section 3.3)', () => {
    expect(kind({ 'return-path': '<>', 'auto-submitted': 'auto-replied' }, 'Out of office')).toBe('away');
    expect(kind({}, 'Abwesenheitsnotiz', { sender: '' })).toBe('away');
  });
  it('anything else that must not be answered is automatic', () => expect(kind({}, 'Your ticket', { sender: '' })).toBe('automatic'));
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
