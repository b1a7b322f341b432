import { describe, expect, it } from 'vitest';
import type { FindShown } from '../../src/server/pages/find.ts';
import { answerAsText, findReducer, withFilter } from '../../src/views/find/find-state.ts';

const shown = (q: string, places = 0): FindShown => ({
  q,
  order: 'best',
  open: null,
  today: '2026-03-05',
  answered: null,
  lookedFor: null,
  behind: 0,
  model: null,
  examples: [],
  found: {
    groups: places ? [{ key: 'meeting 1', title: '', on: '2026-03-05', project: 'p', hits: Array.from({ length: places }, (_, id) => ({ id, kind: 'said' as const, who: null, on: '2026-03-05', start: null, pieces: [], ref: null, href: '/' })), more: 0 }] : [],
    moreGroups: 0,
    total: places,
    capped: false,
    facets: { who: [], kind: [], in: [], when: [], by: 'week' },
    meant: [],
    loosened: false,
    wrong: [],
  },
});
const start = { typed: '', shown: shown(''), at: -1, busy: false };

describe('the Find page', () => {
  it('what comes late for something typed before is not shown', () => {
    const typed = findReducer(findReducer(start, { do: 'type', text: 'plin' }), { do: 'type', text: 'plinth' });
    expect(findReducer(typed, { do: 'came', shown: shown('plin', 3) })).toBe(typed);
    expect(findReducer(typed, { do: 'came', shown: shown('plinth', 3) })).toMatchObject({ busy: false, at: -1, shown: { q: 'plinth' } });
  });
  it('steps through the places and stays among them', () => {
    let s = { ...start, typed: 'x', shown: shown('x', 2) };
    s = findReducer(s, { do: 'step', by: 1 });
    expect(s.at).toBe(0);
    s = findReducer(findReducer(s, { do: 'step', by: 1 }), { do: 'step', by: 1 });
    expect(s.at).toBe(1);
    expect(findReducer({ ...s, shown: shown('x', 0) }, { do: 'step', by: 1 }).at).toBe(-1);
    // the same search unfolded keeps the place
    expect(findReducer(s, { do: 'came', shown: shown('x', 9) }).at).toBe(1);
  });
  it('a filter is put in once, in the place of another of its kind, and taken out again', () => {
    const one = withFilter('plinth', 'who', 'Dele Marchetti');
    expect(one).toBe('plinth who:"Dele Marchetti"');
    expect(withFilter(one, 'who', 'wim')).toBe('plinth who:wim');
    expect(withFilter(one, 'who', 'Dele Marchetti')).toBe('plinth');
    expect(withFilter(one, 'kind', 'said')).toBe('plinth who:"Dele Marchetti" kind:said');
  });
  it('an answer is copied with the words it rests on', () => {
    const answer = { lines: [{ text: 'C-2 is open.', sources: [0] }], sources: [{ words: 'Two weeks.', who: 'Dele', on: '2026-01-29', where: 'call no. 1' }], missing: null };
    expect(answerAsText('where is it?', answer, 'http://x', ['/m#s1'])).toBe('where is it?\n\nC-2 is open. [1]\n\n[1] “Two weeks.” Dele, 2026-01-29, call no. 1, http://x/m#s1');
  });
});
