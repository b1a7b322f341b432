import { describe, expect, it } from 'vitest';
import { followsFrom } from '../../../src/core/ledger/following.ts';

const at = (segment: number, words: string, record = 1) => [{ record, segment, words }];
const NAMES = ['Bram Osei', 'Ruth Adair'];
const decision = { text: 'Two charging stops a day at Kelda', said: at(10, 'Then it is two stops a day at Kelda.') };

describe('a commitment follows from a decision', () => {
  it('where both are stated in the same words', () => {
    expect(followsFrom(decision, { text: 'Tell the crews', said: at(10, 'Two stops it is, and I tell the crews.') }, NAMES)).toBe(true);
  });
  it('where it comes right after and names the matter', () => {
    expect(followsFrom(decision, { text: 'Print the stops', said: at(12, "I'll have the stops printed.") }, NAMES)).toBe(true);
    expect(followsFrom(decision, { text: 'Charging times for Kelda', said: at(15, 'Charging times for Kelda by Friday from me.') }, NAMES)).toBe(true);
  });
  it('where it goes on from it in so many words', () => {
    expect(followsFrom(decision, { text: 'Write to the board', said: at(11, 'So I write to the board tonight.') }, NAMES)).toBe(true);
  });
});

describe('a commitment does not follow from a decision', () => {
  it('because it stands near it', () => {
    expect(followsFrom(decision, { text: 'Order the paint', said: at(11, "I'll order the paint on Monday.") }, NAMES)).toBe(false);
  });
  it('because it names the same person', () => {
    expect(followsFrom({ ...decision, text: 'Bram leads the night crew' }, { text: 'Ask Bram for his keys', said: at(11, 'I ask Bram for his keys.') }, NAMES)).toBe(false);
  });
  it('that comes after it, far from it, or in another record', () => {
    const same = { text: 'Print the charging stops', said: at(9, 'I print the charging stops.') };
    expect(followsFrom(decision, same, NAMES)).toBe(false);
    expect(followsFrom(decision, { ...same, said: at(30, 'I print the charging stops.') }, NAMES)).toBe(false);
    expect(followsFrom(decision, { ...same, said: at(11, 'I print the charging stops.', 2) }, NAMES)).toBe(false);
  });
});
