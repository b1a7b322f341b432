import { describe, expect, it } from 'vitest';
import { clock, countWord, listOf, longDay, shortDay } from '../../../src/core/language/days.ts';
import { fold } from '../../../src/core/language/fold.ts';
import { Roster } from '../../../src/core/language/people.ts';
import { sentencesOf } from '../../../src/core/language/sentences.ts';
import { contentStems, sharedWeight, wordsOf } from '../../../src/core/language/words.ts';

const people = [
  { id: 'a', name: 'Ines Falk', aliases: [], role: 'project manager' },
  { id: 'b', name: 'Bram Osei', aliases: ['Bim'], role: 'yard lead' },
  { id: 'c', name: 'Dr Ruth Adair', aliases: ['RA'], role: 'chair of the committee' },
  { id: 'd', name: 'Ruth Šimůnek', aliases: [], role: '' },
  { id: 'e', name: 'Mark Daal', aliases: [], role: '' },
];

describe('people', () => {
  const roster = new Roster(people, new Set(['a', 'b', 'c', 'e']));
  it.each([
    ['Ines Falk', 'a'],
    ['ines', 'a'],
    ['Falk', 'a'],
    ['Ms Falk', 'a'],
    ['Bim', 'b'],
    ['Bram O', 'b'],
    ['Simunek', 'd'],
    ['Dr Adair', 'c'],
    ['Ruth', 'c'],
    ['Nobody', null],
    ['Voice 3', null],
  ])('the voice %s is %s', (label, id) => {
    expect(roster.voice(label)).toBe(id);
  });
  it('finds who is named, in order, with how', () => {
    expect(roster.mentions('Bram and Mr Šimůnek ask the chair, says IF.').map((m) => [m.person, m.how])).toEqual([
      ['b', 'name'],
      ['d', 'surname'],
      ['c', 'role'],
      ['a', 'initials'],
    ]);
  });
  it('does not take common words for names, nor initials in small letters', () => {
    expect(roster.mentions('mark my words, if it is ra')).toEqual([]);
    expect(roster.mentions('Mark will do it').map((m) => m.person)).toEqual(['e']);
  });
  it('names nobody where two fit and neither is there', () => {
    expect(new Roster(people).mentions('Ruth knows')).toEqual([]);
  });
});

describe('words', () => {
  it('folds case and accents without moving positions', () => {
    expect(fold('Šimůnek’s ŁÓDŹ')).toBe("simunek's lodz");
    for (const text of ['İstanbul', 'ǅ', 'ﬃ', '👩‍👩‍👧x', 'ß']) expect(fold(text).length).toBe(text.length);
  });
  it('splits sentences and leaves abbreviations whole', () => {
    const text = 'Mr. Oborník is to see it finished by 30 April. See item 3.2, e.g. the ducts. “Agreed.” And so on';
    expect(sentencesOf(text).map((s) => text.slice(s.from, s.to))).toEqual(['Mr. Oborník is to see it finished by 30 April.', 'See item 3.2, e.g. the ducts.', '“Agreed.”', 'And so on']);
  });
  it('never makes a sentence longer than asked for', () => {
    expect(sentencesOf('a'.repeat(5000), 600).every((s) => s.to - s.from <= 600)).toBe(true);
    expect(sentencesOf('')).toEqual([]);
  });
  it('stems as Porter’s published examples do', () => {
    // M. F. Porter, “An algorithm for suffix stripping”, Program 14(3), 1980: examples of the paper
    expect(contentStems(['caresses', 'ponies', 'motoring', 'conflated', 'relational', 'adjustable', 'formative'])).toEqual(['caress', 'poni', 'motor', 'conflat', 'relat', 'adjust', 'form']);
  });
  it('weighs what two texts share', () => {
    const bag = (t: string) => new Set(contentStems(wordsOf(t)));
    expect(sharedWeight(bag('pour the plinth at Kelda'), bag('the plinth was poured'), () => 1)).toMatchObject({ count: 2, share: 1 });
    expect(sharedWeight(bag(''), bag('x'), () => 1).share).toBe(0);
  });
});

describe('how days and counts are written', () => {
  it('short and long', () => {
    expect(shortDay('2026-03-06', '2026-03-05')).toBe('Fri 6 Mar');
    expect(shortDay('2027-03-06', '2026-03-05')).toBe('Sat 6 Mar 2027');
    expect(longDay('2026-03-05')).toBe('Thursday 5 March');
    expect([clock(16), clock(3850)]).toEqual(['0:16', '1:04:10']);
    expect([countWord(0), countWord(12), countWord(13)]).toEqual(['no', 'twelve', '13']);
    expect([listOf([]), listOf(['a']), listOf(['a', 'b', 'c'])]).toEqual(['', 'a', 'a, b and c']);
  });
});

describe('a voice that is a mail address', () => {
  const roster = new Roster([
    { id: 'bram', name: 'Bram Osei', aliases: [], role: '', mail: 'b.osei@pellyard.example' },
    { id: 'ines', name: 'Ines Falk', aliases: [], role: '' },
    { id: 'ruth', name: 'Ruth Adair', aliases: [], role: '', mail: null },
  ]);
  it.each([
    ['b.osei@pellyard.example', 'bram'],
    ['Somebody <B.Osei@Pellyard.example>', 'bram'],
    ['Ines Falk <office@marrow.example>', 'ines'],
    ['ruth.adair@yard.example', 'ruth'],
    ['info@yard.example', null],
    ['someone else <ruth.adair@yard.example>', null],
  ])('%s', (label, id) => expect(roster.voice(label)).toBe(id));
});
