import { describe, expect, it } from 'vitest';
import type { Letter } from '../../src/server/letters/letters.ts';
import type { KeptAnswer, Reply } from '../../src/server/letters/replies.ts';
import type { ToCome } from '../../src/server/pages/post.ts';
import { type Entry, lineOf, sectionsOf, waits } from '../../src/views/post/entries.ts';

const TODAY = '2026-03-05';
const letter = (over: Partial<Letter>): Letter => ({ id: 1, kind: 'check', subject: 'How does it stand', state: 'draft', recipients: [{ name: 'Bram Osei', state: 'waiting', error: null }], stale: [], sentAt: null, ...over }) as unknown as Letter;
const toCome = (over: Partial<ToCome>): ToCome => ({ to: 'bram', name: 'Bram Osei', day: TODAY, kind: 'check', about: [], byItself: false, held: false, ...over });
const answer = (over: Partial<KeptAnswer>) => ({ verdict: 'open', kind: 'done', ref: 'C-4', ...over }) as KeptAnswer;
const reply = (over: Partial<Reply>): Reply => ({ id: 1, from: 'Bram Osei', subject: 'Re: the weights', words: 'Done\n yesterday.', receivedAt: '2026-03-05T14:20:00Z', nature: 'answer', note: null, answers: [], ...over }) as Reply;
const about = (n: number) => Array.from({ length: n }, (_, k) => ({ ref: `C-${k + 1}`, text: '', kind: 'check' as const, why: '', from: null }));

describe('lists of the post', () => {
  const sections = (over: Partial<Parameters<typeof sectionsOf>[0]>) => sectionsOf({ toCome: [], drafts: [], unwritten: [], replies: [], strays: [], sent: [], today: TODAY, ...over });
  it('say that nothing waits and nothing was sent, and leave the others out', () => {
    expect(sections({}).map((s) => [s.title, s.empty])).toEqual([
      ['Waiting for your look', 'No letter waits today.'],
      ['Went out', 'Nothing was sent yet.'],
    ]);
  });
  it('put what came back and needs a person first, and what is settled low', () => {
    const all = sections({ replies: [reply({ id: 1, answers: [answer({})] }), reply({ id: 2, answers: [answer({ verdict: 'taken' })] }), reply({ id: 3, nature: 'unmatched' })], drafts: [letter({})] });
    expect(all.map((s) => [s.title, s.entries.map((e) => e.id)])).toEqual([
      ['Came back, to look at', ['reply 1', 'reply 3']],
      ['Waiting for your look', ['draft 1']],
      ['Came back', ['reply 2']],
      ['Went out', []],
    ]);
  });
  it('part what is planned into today, later and held', () => {
    const all = sections({ toCome: [toCome({ day: '2026-03-04' }), toCome({ to: 'wim', day: '2026-03-09' }), toCome({ to: 'ruth', held: true })], unwritten: [{ meeting: 10, date: TODAY, title: 'Works call' }] as never });
    expect(all.map((s) => [s.title, s.count])).toEqual([
      ['Waiting for your look', '2'],
      ['Held', '1'],
      ['To come', '1 in this fortnight'],
      ['Went out', '0'],
    ]);
  });
  it('have an id of its own for each of their lines', () => {
    const ids = sections({ toCome: [toCome({}), toCome({ held: true }), toCome({ day: '2026-03-06' })], drafts: [letter({ id: 1 })], sent: [letter({ id: 1, state: 'sent' })], replies: [reply({ id: 1 })] }).flatMap((s) => s.entries.map((e) => e.id));
    expect(new Set(ids).size).toBe(ids.length);
  });
  it('count an answer as waiting while something in it is open, or it belongs to no letter', () => {
    expect([reply({}), reply({ answers: [answer({ verdict: 'passed' })] }), reply({ answers: [answer({ verdict: 'taken' }), answer({})] }), reply({ nature: 'unmatched' })].map(waits)).toEqual([false, false, true, true]);
  });
});

describe('a line of the post', () => {
  const planned = (over: Partial<ToCome>): Entry => ({ at: 'planned', id: '', letter: toCome(over) });
  it.each<[string, Entry, { what?: string; end?: string; tone?: string; who?: string }]>([
    ['names what it is about, up to four', planned({ about: about(6) }), { what: 'C-1, C-2, C-3 and C-4 and 2 more, how does it stand', end: 'today', tone: '' }],
    ['that goes by itself', planned({ byItself: true }), { end: 'by itself' }],
    ['that is held', planned({ held: true }), { end: 'held' }],
    ['about something late', planned({ kind: 'overdue', day: '2026-03-09' }), { end: 'Mon 9 Mar', tone: 'late' }],
    ['of a draft', { at: 'draft', id: '', letter: letter({}) }, { who: 'Bram Osei', end: 'draft', tone: 'soon' }],
    ['of a draft that no longer holds', { at: 'draft', id: '', letter: letter({ stale: ['C-4 is done'] }) }, { end: 'has changed' }],
    ['of a letter on its way', { at: 'draft', id: '', letter: letter({ state: 'queued' }) }, { end: 'on its way', tone: 'soon' }],
    ['of one that is tried again', { at: 'draft', id: '', letter: letter({ state: 'queued', recipients: [{ name: 'Bram', error: 'no answer' }] as never }) }, { end: 'tried again', tone: 'late' }],
    ['of a round-up', { at: 'draft', id: '', letter: letter({ kind: 'round-up', recipients: [{}, {}, {}] as never }) }, { who: '3 invited' }],
    ['of a round-up nobody has written', { at: 'unwritten', id: '', meeting: { meeting: 10, date: TODAY, title: 'Works call' } }, { what: 'Round-up of Works call', end: 'to write' }],
    ['of a letter that bounced', { at: 'sent', id: '', letter: letter({ state: 'sent', sentAt: '2026-03-02T08:00:00Z', recipients: [{ name: 'Bram', state: 'bounced' }] as never }) }, { end: 'bounced', tone: 'late' }],
    ['of a letter that went', { at: 'sent', id: '', letter: letter({ state: 'sent', sentAt: '2026-03-02T08:00:00Z' }) }, { end: 'Mon 2 Mar', tone: '' }],
    ['of words that are open', { at: 'reply', id: '', reply: reply({ answers: [answer({})] }) }, { what: 'Done yesterday.', end: '14:20' }],
    ['of an answer that was taken', { at: 'reply', id: '', reply: reply({ receivedAt: '2026-03-03T09:00:00Z', answers: [answer({ verdict: 'taken' }), answer({ verdict: 'taken', kind: 'moved', ref: null })] }) }, { what: 'C-4 done and a word moved', end: 'Tue 3 Mar' }],
    ['of mail that did not arrive', { at: 'reply', id: '', reply: reply({ nature: 'bounce', note: 'no such box' }) }, { what: 'not delivered: no such box', tone: 'late' }],
    ['of an answering machine', { at: 'reply', id: '', reply: reply({ nature: 'away', note: 'away until Monday' }) }, { what: 'away until Monday' }],
    ['of mail that belongs to nothing', { at: 'reply', id: '', reply: reply({ nature: 'unmatched', subject: '' }) }, { what: 'no subject' }],
  ])('%s', (_, entry, expected) => {
    expect(lineOf(entry, TODAY)).toMatchObject(expected);
  });
});
