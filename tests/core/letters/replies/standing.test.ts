import { describe, expect, it } from 'vitest';
import { type ReplyInput, readReply } from '../../../../src/core/letters/replies/read-reply.ts';

const items = [
  { n: 1, commitment: 1, ref: 'C-1', text: 'Order the welding rods', due: '2026-03-10' },
  { n: 2, commitment: 2, ref: 'C-2', text: 'Send the drawings to the council', due: '2026-03-12' },
];
const people = [
  { id: 'ada', name: 'Ada Lowe', aliases: [], role: '' },
  { id: 'ben', name: 'Ben Okoro', aliases: [], role: '' },
];
const read = (text: string, things: number, language: ReplyInput['language'] = 'en') =>
  readReply({ text, writer: { id: 'ada', name: 'Ada Lowe' }, on: '2026-03-06', next: '2026-03-12', language, items: items.slice(0, things), asks: false, people })
    .map((a) => [a.commitment ?? '-', a.kind, a.due].filter(Boolean).join(' ') + (a.sure ? '!' : '?'))
    .join(', ');

describe('an answer that has a word for done and says the opposite', () => {
  it.each([
    'Nothing has been sent',
    'None of it is done',
    "It's far from done",
    'Nowhere near finished',
    'It never got done',
    'Nobody sent it',
    'Not a single one delivered',
    'I have done nothing on this',
    'They sent nothing',
    'Could not be delivered',
    'Hat nicht geklappt, nicht geschickt',
    'Nichts davon ist erledigt',
    "Rien n'est fait",
    'Nada está hecho',
    'Nada foi feito',
  ])('%s: not done', (text) => expect(read(text, 1)).toBe('1 progress!'));

  it.each(['Was supposed to be delivered last week', 'Will let you know once it is done', 'Would be done by now if the mill had delivered', 'Ich melde mich, sobald es erledigt ist', 'Cuando esté hecho te aviso'])('%s: not yet, and nothing certain', (text) => expect(read(text, 1)).toBe('1 progress?'));

  it.each(['It was sent back by the council', 'Sent to the wrong address, sorry', 'It was done wrong and has to be redone', 'Geliefert, aber kaputt', 'Livré par erreur'])('%s: done, and it went wrong', (text) => expect(read(text, 1)).toBe('1 progress?'));

  it.each(['I am not sure it is done', 'I thought it was done', 'Soviel ich weiß erledigt'])('%s: whoever writes does not know', (text) => expect(read(text, 1)).toBe('1 done?'));

  it('a day ahead by which it is done is a day, not done', () => {
    expect(read('Done by Friday hopefully', 1)).toBe('1 moved 2026-03-13?');
    expect(read('It was done wrong, so it has to be redone by Monday', 1)).toBe('1 moved 2026-03-09?');
  });

  it.each(['No problem, done', 'Done, no problems', 'yes done no worries', 'Never mind, done', 'Sorted, nothing more to do', 'Finished without a hitch', 'Nothing wrong with it, delivered'])('%s: done', (text) => expect(read(text, 1)).toBe('1 done!'));
});

describe('an answer that cancels something', () => {
  it.each([
    ['No longer needed', '1 dropped!'],
    ['it is not obsolete', '1 remark?'],
    ['The supplier cancelled our slot', '1 dropped?'],
    ['The delivery was cancelled, new date 20 March', '1 moved 2026-03-20?'],
  ])('%s', (text, expected) => expect(read(text, 1)).toBe(expected));
});

describe('an answer that speaks of several things without their numbers', () => {
  it.each([
    ['rods done, drawings Friday', '1 done?, 2 moved 2026-03-13?'],
    ['drawings sent, rods not yet', '2 done?, 1 progress?'],
    ['All good here, rods done, drawings going tomorrow', '-, 1 done?, 2 moved 2026-03-07?'],
    ['Everything but the drawings is done', '1 done?'],
    ['Not all done', '1 progress?, 2 progress?'],
    ['Neither is done', '1 progress?, 2 progress?'],
    ['All done', '1 done!, 2 done!'],
  ])('%s', (text, expected) => expect(read(text, 2).replace('- remark?', '-')).toBe(expected));
});
