import { listOf } from '../../language/days.ts';
import type { LineKind } from './capture.ts';

/** What came of a vote, as a line of the meeting. */
export interface Outcome {
  /** decided where one idea has the most votes; where several have, or none has any, it is still a question */
  kind: Extract<LineKind, 'decision' | 'question'>;
  words: string;
}

const votes = (n: number): string => `${n} ${n === 1 ? 'vote' : 'votes'}`;

/**
 * What came of a vote in which everybody spread some votes over ideas.
 *
 *     outcomeOf('Where does the trunk go?', ['aft', 'over the shed'], [5, 2], 3)
 *     // decision: Where does the trunk go? Aft (5 of 7 votes by 3 people; over the shed 2)
 *
 * @param counts votes for each idea
 * @param voters how many people voted
 */
export function outcomeOf(question: string, ideas: readonly string[], counts: readonly number[], voters: number): Outcome {
  const all = counts.reduce((n, c) => n + c, 0);
  const people = `${voters} ${voters === 1 ? 'person' : 'people'}`;
  if (all === 0) return { kind: 'question', words: `${question} Nobody voted.` };
  const ranked = ideas.map((text, n) => ({ text, votes: counts[n] ?? 0 })).sort((a, b) => b.votes - a.votes);
  const first = ranked.filter((r) => r.votes === ranked[0]!.votes);
  const rest = ranked.slice(first.length).map((r) => `${r.text} ${r.votes}`);
  const figures = (words: string) => `(${[words, ...rest].join('; ')})`;
  if (first.length > 1) return { kind: 'question', words: `${question} A tie between ${listOf(first.map((r) => r.text))} ${figures(`${votes(first[0]!.votes)} each, by ${people}`)}` };
  return { kind: 'decision', words: `${question} ${first[0]!.text} ${figures(`${first[0]!.votes} of ${votes(all)} by ${people}`)}` };
}

/** Whether marks are a spread of so many votes over so many ideas: whole, none below nothing, and no more than there are. */
export const isSpread = (marks: readonly number[], ideas: number, each: number): boolean => marks.length === ideas && marks.every((n) => Number.isInteger(n) && n >= 0) && marks.reduce((n, m) => n + m, 0) <= each;
