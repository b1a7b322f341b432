import { describe, expect, it } from 'vitest';
import { about, share } from '../../../src/core/ask/fits.ts';
import { readQuestion, stemsOf } from '../../../src/core/ask/question.ts';
import { periodWords, readAs, wordsToFind } from '../../../src/core/ask/read-as.ts';
import { Roster } from '../../../src/core/language/people.ts';

const roster = new Roster([
  { id: 'ada', name: 'Ada Brand', aliases: [], role: '' },
  { id: 'ben', name: 'Ben Okoye', aliases: ['Benny'], role: '' },
  { id: 'will', name: 'Will Hart', aliases: [], role: '' },
]);
const context = { today: '2026-03-05', me: 'ada', roster };
const read = (q: string) => {
  const r = readQuestion(q, context);
  return r === null || r === 'unread' ? r : [r.asks, r.about, r.who];
};

describe('how questions are put', () => {
  it.each([
    ['What was decided about the gangway?', ['decided', 'the gangway', null]],
    ['What have we agreed on the gangway', ['decided', 'the gangway', null]],
    ['any decisions on paint?', ['decided', 'paint', null]],
    ['Decisions', ['decided', '', null]],
    ['Was the paint ever approved?', ['decided', 'the paint', null]],
    ['When did we decide on the paint?', ['decided', 'the paint', null]],
    ['Who owns the gangway certificate?', ['owner', 'the gangway certificate', null]],
    ["Who's handling the paint order?", ['owner', 'the paint order', null]],
    ['who took on the survey', ['owner', 'the survey', null]],
    ['Whose job is the survey?', ['owner', 'the survey', null]],
    ['What did Ben promise?', ['promised', '', 'ben']],
    ['What has Benny promised about the paint, and has he done it?', ['promised', 'the paint', 'ben']],
    ['what did I promise about the survey', ['promised', 'the survey', 'ada']],
    ['What does Ben owe us?', ['promised', '', 'ben']],
    ['What do I owe Ben?', ['owed', '', 'ben']],
    ['Did I really promise to paint the hull?', ['whether', 'paint the hull', 'ada']],
    ["Did Ben say he'd bring the paint?", ['whether', 'bring the paint', 'ben']],
    ['Has Will ever agreed to the survey?', ['whether', 'the survey', 'will']],
    ['Did anybody promise the paint?', ['whether', 'the paint', null]],
    ['When did we last talk about paint?', ['spoken', 'paint', null]],
    ['how much time have we spent on the gangway?', ['spoken', 'the gangway', null]],
    ['In which meetings was the gangway discussed?', ['spoken', 'the gangway', null]],
    ['What is open with Ben?', ['open', '', 'ben']],
    ["What's still outstanding on the survey?", ['open', 'the survey', null]],
    ['What does Ben have on his plate?', ['open', '', 'ben']],
    ["What's unresolved?", ['unresolved', '', null]],
    ['open questions about the paint', ['questions', 'the paint', null]],
    ['What changed?', ['changed', '', null]],
    ['what did I miss?', ['changed', '', null]],
    ['What are the pros and cons of the red paint?', ['sides', 'the red paint', null]],
    ['Arguments for and against the red paint', ['sides', 'the red paint', null]],
    ['What did everybody say about the paint?', ['each', 'the paint', null]],
    ['What does Ben think about the paint?', ['each', 'the paint', 'ben']],
    ['Where are we with the survey?', ['state', 'the survey', null]],
    ['How is the survey going?', ['state', 'the survey', null]],
    ['Is the hull painted and done?', ['state', 'the hull painted and', null]],
    ["What's the status of the survey?", ['state', 'the survey', null]],
    ['When will the paint be there?', ['due', 'the paint', null]],
    ['What is the deadline for the survey?', ['due', 'the survey', null]],
    ['What is overdue?', ['late', '', null]],
    ['Which commitments are late with Ben?', ['late', '', 'ben']],
    ['Make me a dossier on the gangway', ['dossier', 'the gangway', null]],
    ['Everything about the gangway', ['dossier', 'the gangway', null]],
    ['Could you please tell me who owns the survey?', ['owner', 'the survey', null]],
    ['paint', null],
    ['the who and the what', null],
    ['Why did the paint peel?', 'unread'],
    ['Should we sail?', 'unread'],
  ])('%s', (q, expected) => {
    expect(read(q)).toEqual(expected);
  });
  it('a time at its end is taken for the time', () => {
    expect(readQuestion('what changed since Monday?', context)).toMatchObject({ asks: 'changed', when: { from: '2026-03-02', to: null } });
    expect(readQuestion('what was decided about paint in February?', context)).toMatchObject({ about: 'paint', when: { from: '2026-02-01', to: '2026-02-28' } });
    expect(readQuestion('what did Ben promise about paint since last week', context)).toMatchObject({ asks: 'promised', about: 'paint', when: { from: '2026-02-23', to: null } });
    expect(readQuestion('when is the march on the capital due?', context)).toMatchObject({ about: 'the march on the capital', when: null });
  });
  it('a name nobody has is kept as nobody’s', () => {
    expect(readQuestion('what did Mallory promise?', context)).toMatchObject({ who: null, unknown: 'Mallory' });
  });
  it('is told again as it was read', () => {
    const q = readQuestion('What has Benny promised about the paint since Monday?', context);
    if (q === null || q === 'unread') throw new Error('it is a question');
    expect(readAs(q, 'Ben Okoye', context.today)).toBe('what Ben Okoye promised about the paint, and whether it was kept, since Mon 2 Mar');
    expect(wordsToFind(q, 'Ben Okoye')).toBe('the paint who:"Ben Okoye" since:2026-03-02');
    expect(periodWords({ from: '2026-03-01', to: '2026-03-01' }, context.today)).toBe('on Sun 1 Mar');
    expect(periodWords({ from: null, to: '2026-03-01' }, context.today)).toBe('until Sun 1 Mar');
  });
});

describe('what is about a subject', () => {
  const line = (text: string, words = '') => ({ text, words });
  it('two words as rare as each other both have to be there; a line’s own words go before those it rests on', () => {
    const lines = [line('Paint the hull'), line('Survey the hull'), line('Order brushes', 'we need red paint for the hull')];
    expect(about(lines, 'the hull paint', () => 1).map((l) => l.text)).toEqual(['Paint the hull']);
    expect(about(lines, 'red paint', () => 1).map((l) => l.text)).toEqual(['Order brushes']);
    expect(about(lines, 'submarine', () => 1)).toEqual([]);
  });
  it('a word that is nowhere weighs most: what one does not have cannot be made up by common ones', () => {
    const weight = (stem: string) => (stem === 'heater' ? 8 : 2);
    expect(share(stemsOf('the shed heater'), 'clear a corner of the shed', weight)).toBeLessThan(0.6);
  });
  it('“the question of the berths” is about the berths', () => {
    expect(stemsOf('the question of the berths')).toEqual(['berth']);
  });
});
