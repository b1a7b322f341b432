import { describe, expect, it } from 'vitest';
import { type ReplyInput, readReply } from '../../../../src/core/letters/replies/read-reply.ts';

/**
 * Answers as the mail programs of five languages hand them over. The forms are common practice; names, firms and products
 * are made up.
 */
const items = [
  { n: 1, commitment: 26, ref: 'C-26', text: 'Signed weights of everything taken out of Dunlin', due: '2026-02-27' },
  { n: 2, commitment: 39, ref: 'C-39', text: 'Hoist certificate to Mirela', due: '2026-03-20' },
];
const people = [
  { id: 'ines', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'bram', name: 'Bram Osei', aliases: [], role: 'yard lead' },
  { id: 'jonas', name: 'Jonas Pike', aliases: [], role: '' },
];
const brief = (text: string, more: Partial<ReplyInput> = {}) =>
  readReply({ text, writer: { id: 'bram', name: 'Bram Osei' }, on: '2026-03-05', next: '2026-03-12', language: 'en', items, asks: false, people, ...more })
    .map((a) => [a.commitment ?? '-', a.kind, a.due, a.owner?.join('+')].filter(Boolean).join(' ') + (a.sure ? '!' : '?'))
    .join(', ');
const one = { items: items.slice(1) };

const LETTER = 'Dear Bram,\n\n2. C-39  Hoist certificate to Mirela. Due Fri 20 Mar.\n\nPlease answer by number: 1 done, 2 by Friday.\n\nInes Falk';
const quoted = LETTER.split('\n')
  .map((l) => `> ${l}`)
  .join('\n');

describe('what programs and firms put below is no answer', () => {
  it.each([
    ['Sent with Lockmail secure email.'],
    ['Sent via Harbourmail'],
    ['Sent from my Tidephone 9'],
    ['Get Outbox for Pelican'],
    ['Von meinem Tidephone gesendet'],
    ['Gesendet mit der Wattmail App'],
    ['Envoyé de mon téléphone'],
    ['Envoyé avec la messagerie sécurisée Lockmail'],
    ['Enviado desde mi Tidephone'],
    ['Enviado do meu telemóvel'],
    ['CONFIDENTIALITY NOTICE: This message is intended for the person it is addressed to. It has been sent to you by Pell Yard Ltd and may be privileged; if it is not for you, it should be deleted when done reading.'],
    ['This e-mail and any attachments are confidential. It has been sent to you by Pell Yard. If you are not the intended recipient please confirm that it has been deleted.'],
    ['Diese E-Mail kann vertrauliche Informationen enthalten. Wenn Sie nicht der richtige Empfänger sind, ist sie zu löschen, sobald das erledigt ist.'],
    ['Ce message a été envoyé par Pell Yard et peut contenir des informations confidentielles. S’il ne vous est pas destiné, merci de le détruire une fois fait.'],
    ['Please consider the environment before printing this e-mail. All done digitally.'],
    ['Virus-free. This message was scanned and sent by Lockmail.'],
  ])('%s', (footer) => {
    expect(brief(`Still waiting for the supplier.\n\n${footer}`, one)).toBe('39 blocked!');
    expect(brief(`Still waiting for the supplier.\n\nKind regards,\nBram\n\n${footer}\n\nOn Thu, 5 Mar 2026 at 09:00, Ines Falk <ines@falk.example> wrote:\n${quoted}`, one)).toBe('39 blocked!');
  });
  it.each([
    ['Kind regards,\nBram Osei\nOffice closed on Fridays'],
    ['Bram Osei\nYard lead, Pell Yard\nOffice closed on Fridays'],
    ['Best\nBram\n\nPell Yard | slip 2\nVisit us on 14 May: open day, all done up'],
    ['-- \nBram Osei\nClosed until 9 March'],
    ['________________\nBram Osei\nPell Yard\n+44 7700 900123'],
    ['Viele Grüße\nBram\nfreitags geschlossen'],
  ])('nor what stands under a signature: %j', (signature) => {
    expect(brief(`Not done yet.\n\n${signature}`, one)).toBe('39 progress!');
    expect(brief(`Not done yet.\n\n${signature}\n\nOn Thu, 5 Mar 2026 at 09:00, Ines Falk <ines@falk.example> wrote:\n${quoted}`, one)).toBe('39 progress!');
  });
  it('but alone it may be an answer', () => {
    expect(brief('Sent with the pilot boat', one)).toBe('39 done!');
    expect(brief('Sent via courier yesterday', one)).toBe('39 done!');
  });
});

describe('the head of a quotation is no answer', () => {
  const HEADS = [
    '2026-03-12T09:00:11+01:00, Ines Falk <ines@falk.example>:',
    '2026-03-12 09:00 +0100 Ines Falk <ines@falk.example>:',
    '2026-03-12 09:00 GMT+01:00 Ines Falk:',
    'On Thu, 12 Mar 2026 at 09:00, Ines Falk\n<ines@falk.example>\nwrote:',
    'On Thu, 12 Mar 2026 at 09:00,\nInes Falk <ines@falk.example>\nwrote:',
    'On 12/03/2026 09:00, Ines Falk wrote:',
    'Ines Falk <ines@falk.example> sent on 12 March 2026 at 09:00:',
    'Am 12.03.2026 um 09:00 schrieb Ines Falk <ines@falk.example>:',
    'Am Do., 12. März 2026 um 09:00 Uhr schrieb Ines Falk <\nines@falk.example>:',
    'Le jeu. 12 mars 2026 à 09:00, Ines Falk <ines@falk.example> a écrit :',
    'El jue, 12 mar 2026 a las 9:00, Ines Falk (<ines@falk.example>) escribió:',
    'Em qui., 12 de mar. de 2026 às 09:00, Ines Falk <ines@falk.example> escreveu:',
    '---- On Thu, 12 Mar 2026 09:00:00 +0000 Ines Falk <ines@falk.example> wrote ----',
    '---- Ines Falk wrote ----',
    '-----Original Message-----\nFrom: Ines Falk <ines@falk.example>\nSent: 12 March 2026 09:00\nTo: Bram Osei\nSubject: Your list',
    '-------- Ursprüngliche Nachricht --------\nVon: Ines Falk\nGesendet: Donnerstag, 12. März 2026 09:00\nAn: Bram Osei\nBetreff: Ihre Liste',
    'From: Ines Falk <ines@falk.example>\nSent: Thursday, 12 March 2026 09:00\nTo: Bram Osei <bram@pell.example>\nSubject: Your list',
    '*From:* Ines Falk <ines@falk.example>\n*Sent:* Thursday, 12 March 2026 09:00\n*To:* Bram Osei\n*Subject:* Your list',
    '**Von:** Ines Falk\n**Gesendet:** Donnerstag, 12. März 2026 09:00\n**An:** Bram Osei\n**Betreff:** Ihre Liste',
    '________________________________\nFrom: Ines Falk <ines@falk.example>\nSent: Thursday, 12 March 2026 09:00\nTo: Bram Osei\nSubject: Your list',
    'De : Ines Falk <ines@falk.example>\nEnvoyé : jeudi 12 mars 2026 09:00',
    'From: Ines Falk <ines@falk.example>\nDate: Thu, 12 Mar 2026 09:00',
    'Begin forwarded message:\n\nFrom: Ines Falk <ines@falk.example>\nDate: 12 March 2026\nTo: Bram Osei\nSubject: Your list',
    'Anfang der weitergeleiteten Nachricht:\n\nVon: Ines Falk\nDatum: 12. März 2026\nAn: Bram Osei\nBetreff: Ihre Liste',
    'Début du message transféré :\n\nDe: Ines Falk\nDate: 12 mars 2026\nÀ: Bram Osei\nObjet: Votre liste',
    'Message transféré :\n\nDe: Ines Falk\nDate: 12 mars 2026\nObjet: Votre liste',
  ];
  it.each(HEADS)('%j', (head) => {
    const wanted = '39 blocked!';
    expect(brief(`Still waiting for the supplier.\n\n${head}\n${quoted}`, one)).toBe(wanted);
    expect(brief(`Still waiting for the supplier.\n\n${head}\n\n${LETTER}`, one)).toBe(wanted);
    // every line of head and letter quoted, as when an answer is answered
    expect(
      brief(
        `Still waiting for the supplier.\n\n${`${head}\n${LETTER}`
          .split('\n')
          .map((l) => `> ${l}`)
          .join('\n')}`,
        one,
      ),
    ).toBe(wanted);
    // by itself it says nothing
    expect(brief(`${head}\n${quoted}`, one)).toBe('');
  });
  it.each(HEADS.filter((h) => !/[-_]{4}|^\*|From|Von:|De ?:|De:/.test(h)))('an answer below the quoted lines of %j is read', (head) => {
    expect(brief(`${head}\n${quoted}\n\nStill waiting for the supplier.`, one)).toBe('39 blocked!');
  });
  it('a sentence with a colon is one', () => {
    expect(brief('On the certificate, what I wrote still holds: done.', one)).toBe('39 done!');
    expect(brief('By 12/03/2026 at the latest, promise:\nthe certificate', one)).toMatch(/^39 moved 2026-03-12/);
  });
});

describe('short answers', () => {
  it.each([
    ["Hi it's done", '39 done!'],
    ['Hi Ines all done', '39 done!'],
    ['Morning Ines all done', '39 done!'],
    ['Morning, done', '39 done!'],
    ['Hi Priya sent yesterday', '39 done!'],
    ['Hello Ines. Not yet.', '39 progress!'],
    ['sent yesterday', '39 done!'],
    ['Hi,\nsent it over this morning', '39 done!'],
    ['Hallo Ines, erledigt', '39 done!'],
    ['Bonjour Ines, fait', '39 done!'],
    ['Hola Ines listo', '39 done!'],
    ['Morning works for me, by Friday 13 March', '39 moved 2026-03-13!'],
  ])('%j', (text, wanted) => expect(brief(text, one)).toBe(wanted));
  it('hand over by number', () => {
    expect(brief('1 done, 2 is with Jonas')).toBe('26 done!, 39 reassigned jonas!');
    expect(brief('2 is with jonas')).toBe('39 reassigned jonas!');
    expect(brief('2 with Jonas now')).toBe('39 reassigned jonas!');
    // somebody nobody here knows: not lost, and not decided either
    expect(brief('2 is with Priya')).toBe('39 remark?');
  });
});
