import { describe, expect, it } from 'vitest';
import { ideasOf } from '../../../src/core/gist/stances.ts';
import { topicsOf } from '../../../src/core/gist/topics.ts';
import { troublesOf } from '../../../src/core/gist/troubles.ts';
import { turnsOf } from '../../../src/core/gist/turns.ts';
import { readRecord } from '../../../src/core/record/read.ts';

const talk = (...lines: string[]) => turnsOf(readRecord(lines.join('\n'), 'txt'));

/** One idea, one answer: which side it is read as. Sentences made up for the table. */
describe('sides', () => {
  it.each([
    ['I like that.', 'for'],
    ['Makes sense to me.', 'for'],
    ['Yes, let’s do that.', 'for'],
    ['It saves us a week.', 'for'],
    ['No objections here.', 'for'],
    ['I agree.', 'for'],
    ['I’d rather not.', 'against'],
    ['That won’t work on a spring tide.', 'against'],
    ['It’s too risky before the survey.', 'against'],
    ['The trouble is the crane.', 'against'],
    ['I disagree.', 'against'],
    ['We tried that on the old boat.', 'against'],
    ['It depends on the crane.', 'unsure'],
    ['I’m not sure.', 'unsure'],
    ['As long as the yard pays.', 'unsure'],
    ['I like it, but it won’t fit.', 'against'],
  ])('%s is %s', (answer, side) => {
    const [idea] = ideasOf(talk('Ines: What if we lift both engines on one day?', `Bram: ${answer}`, 'Ruth: Agreed.', 'Ines: Good.', 'Bram: Right.'));
    expect(idea!.stances[0]).toMatchObject({ voice: 'Bram', side });
  });
  it.each(['What if we lift both?', 'How about lifting both?', 'Should we lift both engines?', 'I suggest we lift both engines.', 'Maybe we should lift both engines.', 'Why don’t we lift both engines?'])('%s puts an idea forward', (words) => {
    expect(ideasOf(talk(`Ines: ${words}`, 'Bram: Good idea.', 'Ruth: Too risky.', 'Ines: Hm.', 'Bram: Well.'))).toHaveLength(1);
  });
  it('the proposer’s own words are no answer', () => {
    const [idea] = ideasOf(talk('Ines: What if we lift both engines?', 'Ines: I like it.', 'Bram: Good idea.', 'Ruth: Too risky.', 'Bram: ok'));
    expect(idea!.stances.some((s) => s.voice === 'Ines')).toBe(false);
  });
});

describe('words of trouble', () => {
  it.each([
    ['The lift is on hold until Monday.', 'blocker'],
    ['He hasn’t signed.', 'blocker'],
    ['We lack the permit.', 'blocker'],
    ['Without a permit I can’t book the digger.', 'blocker'],
    ['There is no answer from the Board.', 'blocker'],
    ['I’m worried about the hoist.', 'risk'],
    ['We are running out of cable.', 'risk'],
    ['There is no slack in the plan.', 'risk'],
    ['Kelda needs more time.', 'risk'],
    ['Worst case we lose a month.', 'risk'],
  ])('%s: %s', (words, kind) => {
    expect(troublesOf(talk(`Bram: ${words}`, 'Ines: ok'))[0]?.kind).toBe(kind);
  });
  it.each(['Good morning everybody.', 'The weights are signed and sent.', 'Nothing is stuck, no risk there.', 'We wait with the coffee.'])('%s: none', (words) => {
    expect(troublesOf(talk(`Bram: ${words}`, 'Ines: ok'))).toEqual([]);
  });
});

describe('titles of topics', () => {
  it('leave plain verbs, days and amounts out', () => {
    const t = talk(...Array.from({ length: 12 }, (_, i) => `${i % 2 ? 'Ines' : 'Bram'}: We need the cable trunk on Monday, two weeks late, and the trunk cover comes after.`));
    expect(topicsOf(t)[0]!.title.toLowerCase()).not.toMatch(/monday|week|need|two|come|late/);
    expect(topicsOf(t)[0]!.title.toLowerCase()).toContain('trunk');
  });
  it('are never empty', () => {
    for (const t of topicsOf(talk('Ines: We need it on Monday.', 'Bram: Yes.', 'Ines: ok', 'Bram: hm'))) expect(t.title.length).toBeGreaterThan(0);
  });
});
