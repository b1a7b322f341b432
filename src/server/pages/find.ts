import type { Answer } from '../../core/ask/answer.ts';
import { readAs, wordsToFind } from '../../core/ask/read-as.ts';
import { EXAMPLES } from '../../core/ask/reply.ts';
import { contentStems, wordsOf } from '../../core/language/words.ts';
import { ask } from '../find/ask.ts';
import { freshen } from '../find/index.ts';
import { type Found, find, ORDERS, type Order } from '../find/search.ts';
import { wordingModel } from '../find/worded.ts';
import type { Workspace } from '../people/workspace.ts';

/** An answer as it is shown. */
export interface Answered {
  /** how the question was read */
  readAs: string;
  about: string;
  answer: Answer;
  meant: { typed: string; taken: string }[];
}

export interface FindShown {
  q: string;
  order: Order;
  open: string | null;
  today: string;
  /** null where nothing was asked, only looked for; `unread` for a question that is not understood */
  answered: Answered | 'unread' | null;
  /** null while nothing is looked for */
  found: Found | null;
  /** the words that were looked for, where they are not those that were typed */
  lookedFor: string | null;
  examples: readonly string[];
  /** the model that may word the answer, where one reads this project’s records */
  model: { model: string; host: string } | null;
  /** how much has changed and is not in the index yet: while it is not 0, what is not found may still be there */
  behind: number;
}

/** A page waits so long for what has just come in, in milliseconds. */
const PATIENCE = 1500;

/** An answer while not everything is in the index: that nothing was found says nothing yet. */
const soFar = (answer: Answer, behind: number): Answer => ({ ...answer, missing: `${answer.lines.length ? 'There may be more' : 'Nothing found yet'}: ${behind} ${behind === 1 ? 'record or letter is' : 'records and letters are'} still being added.` });

/**
 * What the field of the Find page brings: an answer where a question was asked, and the places its words stand in.
 * @param typing that more may be typed: the last word counts for its beginnings
 */
export async function findPage(ws: Workspace, asked: { q: string; order: string | null; open: string | null; typing: boolean }): Promise<FindShown> {
  const q = asked.q.trim().slice(0, 300);
  const order = ORDERS.find((o) => o === asked.order) ?? 'best';
  const shown = { q, order, open: asked.open, today: ws.today, examples: EXAMPLES, behind: 0, model: await wordingModel(ws) };
  if (q === '') return { ...shown, answered: null, found: null, lookedFor: null };
  const behind = await freshen(ws.db, PATIENCE);
  const answered = await ask(ws, q);
  const words = answered === null ? q : answered === 'unread' ? [...new Set(wordsOf(q).filter((w) => contentStems([w]).length))].join(' ') : wordsToFind(answered.question, answered.who);
  const found = words === '' ? null : await find(ws, words, { order, typing: asked.typing && answered === null, open: asked.open ?? undefined });
  return {
    ...shown,
    behind,
    answered: answered === null || answered === 'unread' ? answered : { readAs: readAs(answered.question, answered.who, ws.today), about: answered.question.about, answer: behind > 0 ? soFar(answered.answer, behind) : answered.answer, meant: answered.meant },
    found,
    lookedFor: answered === null ? null : words || null,
  };
}
