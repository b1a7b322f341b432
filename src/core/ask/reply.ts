import type { Answer } from './answer.ts';
import { Answering } from './answer.ts';
import { decided } from './answers/decided.ts';
import { due, owner, state } from './answers/holding.ts';
import { changed, late, open, questions, unresolved, upcoming } from './answers/lists.ts';
import { owed, promised, whether } from './answers/promised.ts';
import { each, sides, spoken } from './answers/spoken.ts';
import type { OnRecord } from './on-record.ts';
import type { Asked, Question } from './question.ts';

const ANSWERS: Readonly<Record<Exclude<Asked, 'dossier'>, (q: Question, r: OnRecord) => Answer>> = { decided, owner, promised, whether, owed, spoken, open, unresolved, questions, changed, sides, each, state, due, late, upcoming };

/**
 * Answers a question from what is on record, and from nothing else: each line with what it rests on, or a sentence that says
 * what is not on record.
 */
export function answerTo(q: Question, r: OnRecord): Answer {
  if (q.unknown !== null) return new Answering().missing(`Nobody called ${q.unknown} is known here.`).done();
  if (q.asks === 'dossier') {
    const n = r.commitments.length + r.statements.length + r.passages.length;
    return n ? new Answering().say(`${n} places are on record about ${q.about}. The dossier has them all, dated and quoted.`).done() : new Answering().missing(`Nothing is on record about ${q.about}.`).done();
  }
  return ANSWERS[q.asks](q, r);
}

/** What can be asked, as examples; shown where a question is not understood. */
export const EXAMPLES: readonly string[] = [
  'what was decided about …?',
  'who owns …?',
  'what did … promise about …, and did they do it?',
  'did I really promise …?',
  'when did we last speak about …, and for how long?',
  'what is open with …?',
  'what is unresolved?',
  'what changed since Monday?',
  'pros and cons of …',
  'what did each of them say about …?',
  'where does … stand?',
  'when is … due?',
  'what is late?',
  'a dossier on …',
];
