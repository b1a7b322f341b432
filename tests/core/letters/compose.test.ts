import ICAL from 'ical.js';
import { Liquid } from 'liquidjs';
import { describe, expect, it } from 'vitest';
import { type ComposeInput, composeLetter, dayIn, type LetterItem } from '../../../src/core/letters/compose.ts';
import { correspondence } from '../../../src/core/letters/correspondence.ts';
import { letterHtml } from '../../../src/core/letters/html.ts';
import { invitationCalendar } from '../../../src/core/letters/invitation.ts';
import { LANGUAGES, LENGTHS, LETTER_KINDS, TONES } from '../../../src/core/letters/kinds.ts';
import { nextTry } from '../../../src/core/letters/retry.ts';
import { templateFor, unknownVariables, VARIABLES } from '../../../src/core/letters/templates.ts';

const liquid = new Liquid({ strictVariables: true, strictFilters: true });
const fill = (t: string, v: Record<string, unknown>) => liquid.parseAndRenderSync(t, v) as string;
const item = (i: Partial<LetterItem>): LetterItem => ({ commitment: 1, ref: 'C-26', text: 'Signed weights to Ruth', owner: ['Bram Osei'], due: '2026-02-27', state: 'open', madeOn: '2026-02-05', meeting: 'Weekly works call', moved: 2, carried: 3, kind: 'overdue', ...i });
const input = (i: Partial<ComposeInput>): ComposeInput => ({
  kind: 'overdue',
  items: [item({})],
  sitting: null,
  recipient: { name: 'Dr Bram Osei' },
  sender: { name: 'Ines Falk' },
  project: { name: 'Quiet Crossing' },
  today: '2026-03-05',
  link: 'https://ottik.example/answer/x',
  language: 'en',
  tone: 'plain',
  length: 'usual',
  ...i,
});

describe('a letter', () => {
  it('says what, when and how late, numbered so that it can be answered', () => {
    const letter = composeLetter(input({ items: [item({}), item({ commitment: 2, ref: 'C-39', text: 'Hoist certificate.', due: '2026-03-05', kind: 'reminder', moved: 0 }), item({ commitment: 3, ref: 'C-40', text: 'Fire plan', due: null, kind: 'reminder' })] }), fill);
    expect(letter.subject).toBe('3 of your actions, 1 late');
    expect(letter.body).toContain('Dear Bram,');
    expect(letter.body).toContain('Late\n1. C-26  Signed weights to Ruth. Due Fri 27 Feb, 6 days late.');
    expect(letter.body).toContain('Due soon\n2. C-39  Hoist certificate. Due today.\n3. C-40  Fire plan. No date yet.');
    expect(letter.body).toContain('https://ottik.example/answer/x');
    expect(letter.numbered).toEqual([
      { n: 1, commitment: 1 },
      { n: 2, commitment: 2 },
      { n: 3, commitment: 3 },
    ]);
  });
  it('is brief, usual, or has everything; plain, warmer or firmer', () => {
    const bodies = LENGTHS.flatMap((length) => TONES.map((tone) => composeLetter(input({ length, tone }), fill).body));
    expect(new Set(bodies).size).toBe(9);
    expect(composeLetter(input({ length: 'everything' }), fill).body).toContain('Taken on Thu 5 Feb, Weekly works call. Moved 2 times. Carried over 3 times.');
    expect(composeLetter(input({ length: 'brief' }), fill).body).not.toContain('One line does');
  });
  it('comes in five languages with days as they are written there (reference: the Unicode locale data of Node.js)', () => {
    expect(LANGUAGES.map((l) => dayIn(l, '2026-03-06'))).toEqual(['Fri 6 Mar', ...['de-DE', 'fr-FR', 'es-ES', 'pt-PT'].map((tag) => new Intl.DateTimeFormat(tag, { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' }).format(new Date('2026-03-06T00:00:00Z')))]);
    expect(composeLetter(input({ language: 'de' }), fill).body).toContain('6 Tage überfällig');
    expect(composeLetter(input({ language: 'fr' }), fill).body).toContain('6 jours de retard');
  });
  it('takes no markup and no variable from the words it is about', () => {
    const letter = composeLetter(input({ items: [item({ text: 'Use {{ recipient.secret }} <b>bold</b>\r\nBcc: x@y.example' })] }), fill);
    expect(letter.body).toContain('{{ recipient.secret }}');
    expect(letter.subject).not.toMatch(/[\r\n]/);
    expect(letterHtml(letter.body)).toContain('&lt;b&gt;bold&lt;/b&gt;');
  });
  it('to somebody above tells who holds it', () => {
    expect(composeLetter(input({ kind: 'escalation', items: [item({ kind: 'escalation' })] }), fill).body).toContain('1. C-26  Signed weights to Ruth. Bram Osei, due Fri 27 Feb, 6 days late.');
  });
});

describe('templates', () => {
  it.each(LANGUAGES.flatMap((l) => LETTER_KINDS.filter((k) => k !== 'round-up').map((k) => [l, k] as const)))('%s %s use known variables only and fill in every tone and length', (language, kind) => {
    const t = templateFor(kind, language);
    for (const part of [t.subject, t.body, t.short]) expect(unknownVariables(liquid.globalFullVariablesSync(part), kind)).toEqual([]);
    for (const tone of TONES) {
      for (const length of LENGTHS) {
        const sitting = { title: 'Weekly works call', date: '2026-03-12', time: '10:00', place: 'on the line' };
        const letter = composeLetter(input({ kind, language, tone, length, items: kind === 'invitation' ? [] : [item({ kind })], sitting: kind === 'invitation' ? sitting : null }), fill);
        for (const text of [letter.subject, letter.body, letter.short]) {
          expect(text.trim().length).toBeGreaterThan(8);
          expect(text).not.toMatch(/\{[{%]|undefined|\[object/);
        }
        expect(letter.body).toContain('Ines Falk');
        if (kind !== 'invitation') expect(letter.short).toContain('C-26');
      }
    }
  });
  it('name what a kind of letter does not have', () => {
    const used = (t: string) => liquid.globalFullVariablesSync(t);
    expect(unknownVariables(used('{{ recipient.frist }} {{ count }} {{ items[0].ref }} {% for i in items %}{{ i.due }}{% endfor %}'), 'overdue')).toEqual(['recipient.frist']);
    expect(unknownVariables(used('{{ decisions[0].text }} {{ items[0].colour }}'), 'overdue')).toEqual(['decisions[0].text', 'items[0].colour']);
    expect(unknownVariables(used('{{ summary }} {{ lines }}'), 'round-up')).toEqual(['lines']);
    expect(VARIABLES.every((v) => v.means.length > 3 && v.kinds.length > 0)).toBe(true);
  });
});

describe('the page of a letter', () => {
  it('makes links of addresses and of nothing else', () => {
    const html = letterHtml('See https://ottik.example/answer/1.x?a=1&b=2, please.\n\njavascript:alert(1)\n\n1. C-26  Weights "now"');
    expect(html).toContain('<a href="https://ottik.example/answer/1.x?a=1&amp;b=2"');
    expect(html).not.toContain('href="javascript');
    expect(html).toContain('>1. C-26</b>Weights &quot;now&quot;');
  });
});

describe('an invitation (RFC 5545, RFC 5546), read back by ical.js', () => {
  const base = {
    uid: 'sitting-7@ottik.example',
    sequence: 0,
    title: 'Works call, no. 7; review',
    date: '2026-07-12',
    time: '10:00',
    minutes: 60,
    zone: 'Europe/Lisbon',
    place: 'on the line',
    organiser: { name: 'Ines Falk', mail: 'ines@x.example' },
    attendees: [{ name: 'Bram, yard lead', mail: 'bram@y.example' }],
    stamp: new Date('2026-03-05T08:00:00Z'),
  };
  it('is a REQUEST with organiser, attendee, sequence and a time that is right in its zone', () => {
    const text = invitationCalendar(base);
    expect(text.split('\r\n').every((l) => new TextEncoder().encode(l).length <= 75)).toBe(true);
    const calendar = new ICAL.Component(ICAL.parse(text));
    expect([calendar.getFirstPropertyValue('method'), calendar.getFirstPropertyValue('version')]).toEqual(['REQUEST', '2.0']);
    const event = new ICAL.Event(calendar.getFirstSubcomponent('vevent')!);
    expect([event.uid, event.summary, event.location, event.sequence]).toEqual(['sitting-7@ottik.example', 'Works call, no. 7; review', 'on the line', 0]);
    expect(event.startDate.toJSDate().toISOString()).toBe('2026-07-12T09:00:00.000Z');
    expect(event.duration.toSeconds()).toBe(3600);
    expect(event.organizer).toBe('mailto:ines@x.example');
    expect(event.attendees[0]!.getParameter('cn')).toBe('Bram, yard lead');
    expect(event.attendees[0]!.getParameter('partstat')).toBe('NEEDS-ACTION');
  });
  it('can be taken back, and can be for a whole day', () => {
    expect(invitationCalendar({ ...base, cancelled: true, sequence: 1 })).toMatch(/METHOD:CANCEL[\s\S]*STATUS:CANCELLED/);
    expect(invitationCalendar({ ...base, time: null })).toContain('DTSTART;VALUE=DATE:20260712');
  });
});

describe('who is silent', () => {
  it('is told by the first letter that has had no answer', () => {
    const out = correspondence(
      [
        { to: 'bram', on: '2026-02-20' },
        { to: 'bram', on: '2026-02-27' },
        { to: 'bram', on: '2026-03-02' },
        { to: 'ruth', on: '2026-03-04' },
        { to: 'sam', on: '2026-02-01' },
      ],
      [
        { from: 'bram', on: '2026-02-21' },
        { from: 'ruth', on: '2026-03-04' },
      ],
      '2026-03-05',
    );
    expect(out.map((c) => [c.person, c.unanswered, c.silentFor, c.neverAnswered])).toEqual([
      ['sam', 1, 32, true],
      ['bram', 2, 6, false],
      ['ruth', 0, null, false],
    ]);
  });
});

describe('trying again', () => {
  it('waits longer and longer, and gives up after four to five days (RFC 5321, 4.5.4.1)', () => {
    const start = new Date('2026-03-05T08:00:00Z');
    let at = start;
    const waits: number[] = [];
    for (let tries = 1; ; tries++) {
      const next = nextTry(tries, at);
      if (!next) break;
      waits.push((next.getTime() - at.getTime()) / 60_000);
      at = next;
    }
    expect(waits.slice(0, 4)).toEqual([1, 2, 5, 10]);
    expect(waits.every((w, i) => i === 0 || w >= waits[i - 1]!)).toBe(true);
    const days = (at.getTime() - start.getTime()) / 86_400_000;
    expect(days).toBeGreaterThan(4);
    expect(days).toBeLessThan(5);
  });
});

describe('letters in every language, kind, tone and length', () => {
  const all = LANGUAGES.flatMap((language) => LETTER_KINDS.filter((k) => k !== 'round-up').flatMap((kind) => TONES.flatMap((tone) => [1, 2].map((count) => ({ language, kind, tone, count })))));
  it.each(all)('$language $kind $tone, $count', ({ language, kind, tone, count }) => {
    const items = Array.from({ length: count }, (_, k) => item({ commitment: k + 1, ref: `C-${k + 1}`, text: 'Hoist certificate to Mirela', due: '2026-11-30', kind }));
    const sitting = { title: 'Works call', date: '2026-11-30', time: '10:00', place: '' };
    const letter = composeLetter(input({ language, kind, tone, today: '2026-12-02', items: kind === 'invitation' ? [] : items, sitting: kind === 'invitation' ? sitting : null, length: 'everything' }), fill);
    const text = `${letter.subject}\n${letter.body}`;
    // no stray stops, no empty variables, no doubled words
    expect(text).not.toMatch(/(?<!\.)\.\.(?!\.)|\{\{|\{%|undefined|null| ,|\(\)|(?<!\p{L})(\p{L}+),? \1(?!\p{L})/u);
    const [greeting, , first] = letter.body.split('\n');
    expect(greeting).toMatch(/[,:]$/);
    if (language === 'de') expect(first).toMatch(/^\p{Ll}|^(?:Works call|\p{Lu})/u);
    else expect(first).toMatch(/^[¿¡]?\p{Lu}/u);
  });
});
