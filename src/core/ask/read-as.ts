import type { IsoDate } from '../dates/calendar.ts';
import type { Period } from '../find/period.ts';
import { shortDay } from '../language/days.ts';
import type { Question } from './question.ts';

/** A period in words: `since Mon 2 Mar`, `from Mon 23 Feb to Sun 1 Mar`, `on Tue 3 Mar`. */
export function periodWords(p: Period, today: IsoDate): string {
  if (p.from !== null && p.from === p.to) return `on ${shortDay(p.from, today)}`;
  if (p.from !== null && p.to !== null) return `from ${shortDay(p.from, today)} to ${shortDay(p.to, today)}`;
  return p.from !== null ? `since ${shortDay(p.from, today)}` : `until ${shortDay(p.to!, today)}`;
}

/** What can be told of a time; the others tell how things stand. */
const OF_A_TIME: ReadonlySet<Question['asks']> = new Set(['decided', 'promised', 'spoken', 'sides', 'each', 'unresolved', 'questions', 'changed', 'upcoming']);

/** How a question was read, in a sentence whose words show what it goes by. */
export function readAs(q: Question, who: string | null, today: IsoDate): string {
  const name = q.unknown ?? who;
  const of = q.about ? ` about ${q.about}` : '';
  const people = name ?? 'anybody';
  const said: Record<Question['asks'], string> = {
    decided: `what was decided${of}`,
    owner: `who holds ${q.about}`,
    promised: `what ${people} promised${of}, and whether it was kept`,
    whether: `whether ${people} promised ${q.about}`,
    owed: `what you owe ${people}`,
    spoken: `when ${q.about} was spoken of, and for how long`,
    open: `what is open${name ? ` with ${name}` : ''}${of}`,
    unresolved: `what is not settled${of}`,
    questions: `which questions are open${of}`,
    changed: 'what changed',
    sides: `what speaks for and against ${q.about}`,
    each: `what ${name ?? 'each person'} said${of}`,
    dossier: `everything about ${q.about}`,
    state: `where ${q.about} stands`,
    due: `when ${q.about} is due`,
    late: `what is late${name ? ` with ${name}` : ''}${of}`,
    upcoming: 'what falls due',
  };
  return `${said[q.asks]}${q.when ? `, ${OF_A_TIME.has(q.asks) ? periodWords(q.when, today) : 'as of today'}` : ''}`;
}

/** What is looked for below an answer: the subject’s words, by whoever is asked of. */
export function wordsToFind(q: Question, who: string | null): string {
  const spoken = q.asks === 'each' || q.asks === 'promised' || q.asks === 'whether';
  const by = spoken && who ? ` who:"${who}"` : '';
  const when = q.when ? `${q.when.from ? ` since:${q.when.from}` : ''}${q.when.to ? ` when:"until ${q.when.to}"` : ''}` : '';
  return q.about ? `${q.about}${by}${when}` : '';
}
