import { describe, expect, it } from 'vitest';
import { CUES, cuesOf } from '../../../src/core/sift/cues.ts';

/** One row a phrase: what it must show, and what it must not. */
const PHRASES: { say: string; shows: string[]; not?: string[] }[] = [
  { say: 'I’ll send the weights by Friday', shows: ['will-verb', 'will-do', 'i'], not: ['refuse', 'hypothetical'] },
  { say: 'ill write to them tomorrow', shows: ['will-verb'] },
  { say: 'I am going to draft the letter', shows: ['will-do'] },
  { say: 'Leave it with me', shows: ['leave-me'] },
  { say: 'that’s me, I suppose', shows: ['leave-me'] },
  { say: 'I can ask Petra', shows: ['i-can'] },
  { say: 'Shall I ring them?', shows: ['i-can', 'mark:ask'] },
  { say: 'I owe you the flatplan', shows: ['i-must', 'you'] },
  { say: 'I’ve to strip the labels out', shows: ['i-must'] },
  { say: 'You’ll have it on Tuesday', shows: ['you-will'] },
  { say: 'It’ll be with you tonight', shows: ['you-will'] },
  { say: 'Can you price it both ways?', shows: ['request', 'mark:ask'] },
  { say: 'Would you mind asking them', shows: ['request'] },
  { say: 'pls check the slip', shows: ['request'] },
  { say: 'You have to sign page three', shows: ['you-do'] },
  { say: 'Mr Osei is to see it finished', shows: ['assign'] },
  { say: 'She undertook to draft the letter', shows: ['assign', 'third'] },
  { say: 'He promised to look', shows: ['assign'] },
  { say: 'It needs doing before June', shows: ['obligation'] },
  { say: 'Somebody has to tell Kit', shows: ['obligation'] },
  { say: 'The two of you do it together', shows: ['between'] },
  { say: 'Yep, will do', shows: ['accept'] },
  { say: 'righto', shows: ['accept'] },
  { say: 'No, don’t', shows: ['refuse'] },
  { say: 'Scrap that', shows: ['retract'] },
  { say: 'we needn’t, there are two in the cellar', shows: ['retract', 'dropped'] },
  { say: 'Lovely, thank you', shows: ['thanks'] },
  { say: 'What if we painted it', shows: ['hypothetical'] },
  { say: 'I could rewrite it in a weekend', shows: ['hypothetical', 'i-can'] },
  { say: 'lol', shows: ['joke'] },
  { say: 'I usually send it on Mondays', shows: ['habit'] },
  { say: 'One sec, I’ll share my screen', shows: ['on-the-spot'] },
  { say: 'That went on Monday', shows: ['past'] },
  { say: 'they have been told already', shows: ['past'] },
  { say: 'So we go with the blue one', shows: ['decide'] },
  { say: 'Resolved: that the slip be kept', shows: ['decide', 'mark:resolved'] },
  { say: 'from now on long side, top right', shows: ['decide'] },
  { say: 'Any objections?', shows: ['consent', 'mark:ask'] },
  { say: 'all in favour', shows: ['consent'] },
  { say: 'Let’s park it', shows: ['put-off', 'decide'] },
  { say: 'no conclusion was come to', shows: ['put-off'] },
  { say: 'Who signs off the case?', shows: ['wh', 'mark:ask'] },
  { say: 'nobody knows, I’d have to look', shows: ['unknown'] },
  { say: 'The drawing is in the folder', shows: ['done'] },
  { say: 'it landed yesterday', shows: ['done', 'past'] },
  { say: 'could I have until Monday instead', shows: ['slip'] },
  { say: 'still no answer, we are stuck', shows: ['stuck', 'going'] },
  { say: 'half of it is done, as planned', shows: ['going', 'done'] },
  { say: 'no longer needed', shows: ['dropped', 'retract'] },
  { say: 'Jonas is taking over from him', shows: ['handed', 'third'] },
  { say: 'Wim, where are we with the shed?', shows: ['mark:ask'] },
  { say: 'where is the plan you promised', shows: ['late'] },
  { say: 'Okay so, next item', shows: ['next-topic'] },
  { say: '-> Wim: five rolls by 20 Mar', shows: ['mark:arrow', 'mark:arrow-start', 'mark:digit'] },
  { say: 'me, MT, DA comments -> Fri', shows: ['mark:arrow'], not: ['mark:arrow-start'] },
  { say: '!! take it', shows: ['mark:bang', 'mark:bang-start'] },
  { say: '? who is on call', shows: ['mark:ask-start'] },
  { say: 'on call 28/29: DA in Halifax. ? who', shows: ['mark:ask-inside'] },
  { say: '[nobody said it]', shows: ['mark:bracket'] },
  { say: 'TM will let her know by Friday. (TM)', shows: ['mark:initials-end'] },
  { say: 'Action: Wim rings the yard', shows: ['mark:label'] },
  { say: '@Priya phones calm', shows: ['mark:at-name'] },
  { say: 'He said “never again”', shows: ['mark:quote'] },
];

describe('cues', () => {
  it.each(PHRASES)('$say', ({ say, shows, not = [] }) => {
    const found = cuesOf(say);
    for (const name of shows) expect(found, `${say} should show ${name}`).toContain(name);
    for (const name of not) expect(found, `${say} should not show ${name}`).not.toContain(name);
  });
  it('have names of their own and say what they mean', () => {
    expect(new Set(CUES.map((c) => c.name)).size).toBe(CUES.length);
    for (const c of CUES) expect(c.means.length, c.name).toBeGreaterThan(7);
  });
  it('do not hear words inside words', () => {
    expect(cuesOf('the goods shed')).not.toContain('thanks');
    expect(cuesOf('knowing')).not.toContain('refuse');
  });
  it('read captions with and without apostrophes alike', () => {
    expect(cuesOf('i’ll ring them')).toEqual(expect.arrayContaining(cuesOf("I'll ring them").filter((c) => !c.startsWith('mark'))));
  });
});
