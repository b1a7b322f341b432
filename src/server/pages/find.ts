import type { Answer } from '../../core/ask/answer.ts';
import { readAs, wordsToFind } from '../../core/ask/read-as.ts';
import { EXAMPLES } from '../../core/ask/reply.ts';
import { contentStems, wordsOf } from '../../core/language/words.ts';
import { ask } from '../find/ask.ts';
import { type Found, find, ORDERS, type Order } from '../find/search.ts';
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
}

/**
 * What the field of the Find page brings: an answer where a question was asked, and the places its words stand in.
 * @param typing that more may be typed: the last word counts for its beginnings
 */
export async function findPage(ws: Workspace, asked: { q: string; order: string | null; open: string | null; typing: boolean }): Promise<FindShown> {
  const q = asked.q.trim().slice(0, 300);
  const order = ORDERS.find((o) => o === asked.order) ?? 'best';
  const shown = { q, order, open: asked.open, today: ws.today, examples: EXAMPLES };
  if (q === '') return { ...shown, answered: null, found: null, lookedFor: null };
  const answered = await ask(ws, q);
  const words = answered === null ? q : answered === 'unread' ? [...new Set(wordsOf(q).filter((w) => contentStems([w]).length))].join(' ') : wordsToFind(answered.question, answered.who);
  const found = words === '' ? null : await find(ws, words, { order, typing: asked.typing && answered === null, open: asked.open ?? undefined });
  return {
    ...shown,
    answered: answered === null || answered === 'unread' ? answered : { readAs: readAs(answered.question, answered.who, ws.today), about: answered.question.about, answer: answered.answer, meant: answered.meant },
    found,
    lookedFor: answered === null ? null : words || null,
  };
}
