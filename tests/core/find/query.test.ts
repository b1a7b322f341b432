import { describe, expect, it } from 'vitest';
import { readPeriod } from '../../../src/core/find/period.ts';
import { matchOf, readFindQuery } from '../../../src/core/find/query.ts';

const TODAY = '2026-03-05'; // a Thursday

describe('what is typed into the field', () => {
  it.each([
    ['plinth', '("plinth")'],
    ['plinth rain', '("plinth") AND ("rain")'],
    ['the plinth at Kelda', '("plinth") AND ("kelda")'],
    ['the', '("the")'],
    ['"dry corner"', '("dry corner")'],
    ['"dry corner', '("dry corner")'],
    ['C-28', '("c 28")'],
    ['plinth near rain', '(NEAR("plinth" "rain", 10))'],
    ['plinth near/3 rain', '(NEAR("plinth" "rain", 3))'],
    ['berth or quay crane', '("berth" OR "quay") AND ("crane")'],
    ['diesel -hoist', '(("diesel")) NOT ("hoist")'],
    ['trans*', '(("trans" OR "trans"*))'],
    ['near', '("near")'],
    ['or', '("or")'],
    ['Ruth’s', '("ruth\'s")'],
    ['NEAR("x" OR *', '("near x")'],
  ])('%s', (typed, match) => {
    expect(matchOf(readFindQuery(typed, TODAY))).toBe(match);
  });
  it('the last word stands for its beginnings while it is typed', () => {
    expect(matchOf(readFindQuery('dry cor', TODAY, true))).toBe('("dry") AND (("cor" OR "cor"*))');
    expect(matchOf(readFindQuery('dry cor ', TODAY, true))).toBe('("dry") AND ("cor")');
  });
  it('filters are taken out, and what is none of them is said', () => {
    const q = readFindQuery('weights who:bram in:"works call" kind:decisions since:monday colour:red', TODAY);
    expect(q.filters).toMatchObject({ who: 'bram', in: 'works call', kind: 'decision', when: { from: '2026-03-02', to: null } });
    expect(matchOf(q)).toBe('("weights") AND ("colour red")');
    expect(readFindQuery('kind:poem when:someday', TODAY).wrong).toHaveLength(2);
    expect(readFindQuery('since:"1 february" before:march x', TODAY).filters.when).toEqual({ from: '2026-02-01', to: '2026-02-28' });
  });
  it('nothing asked is nothing looked for', () => {
    expect(matchOf(readFindQuery('  "" - ', TODAY))).toBeNull();
    expect(matchOf(readFindQuery('"'.repeat(400), TODAY))).toBeNull();
  });
});

describe('a time that lies behind', () => {
  it.each([
    ['today', '2026-03-05', '2026-03-05'],
    ['yesterday', '2026-03-04', '2026-03-04'],
    ['last week', '2026-02-23', '2026-03-01'],
    ['this week', '2026-03-02', '2026-03-08'],
    ['last month', '2026-02-01', '2026-02-28'],
    ['this quarter', '2026-01-01', '2026-03-31'],
    ['last quarter', '2025-10-01', '2025-12-31'],
    ['last year', '2025-01-01', '2025-12-31'],
    ['in February', '2026-02-01', '2026-02-28'],
    ['March', '2026-03-01', '2026-03-31'],
    ['November', '2025-11-01', '2025-11-30'],
    ['May 2024', '2024-05-01', '2024-05-31'],
    ['2025', '2025-01-01', '2025-12-31'],
    ['the last two weeks', '2026-02-19', '2026-03-05'],
    ['over the past 10 days', '2026-02-23', '2026-03-05'],
    ['Monday', '2026-03-02', '2026-03-02'],
    ['Friday', '2026-02-27', '2026-02-27'],
    ['1 March', '2026-03-01', '2026-03-01'],
    ['20 December', '2025-12-20', '2025-12-20'],
    ['2026-02-12', '2026-02-12', '2026-02-12'],
    ['since Monday', '2026-03-02', null],
    ['since last week', '2026-02-23', null],
    ['before 1 March', null, '2026-02-28'],
    ['until yesterday', null, '2026-03-04'],
    ['between 1 February and 12 February', '2026-02-01', '2026-02-12'],
    ['from January to February', '2026-01-01', '2026-02-28'],
  ])('%s', (words, from, to) => {
    expect(readPeriod(words, TODAY)).toEqual({ from, to });
  });
  it.each(['the march of the penguins', 'soon', '', 'march to the sea', 'between friends', 'since the plinth'])('%s is none', (words) => {
    expect(readPeriod(words, TODAY)).toBeNull();
  });
});
