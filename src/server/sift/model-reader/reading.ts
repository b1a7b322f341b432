import { createHash } from 'node:crypto';
import PQueue from 'p-queue';
import type { z } from 'zod';
import { checkedGist, type ModelGist, togetherInOne } from '../../../core/gist/model/checking.ts';
import { GIST_INSTRUCTIONS, GIST_VERSION, GistAnswerSchema } from '../../../core/gist/model/question.ts';
import type { Find } from '../../../core/sift/find.ts';
import { AnswerSchema, readAnswer } from '../../../core/sift/model/answer.ts';
import { checked, type Fault, withoutRepeats } from '../../../core/sift/model/checking.ts';
import { joined } from '../../../core/sift/model/joining.ts';
import { type Asking, askingOf, INSTRUCTIONS, messageFor, type Part, partsOf, QUESTION_VERSION } from '../../../core/sift/model/question.ts';
import { TRUST } from '../../../core/sift/model/trust.ts';
import { readUnits, type SiftInput } from '../../../core/sift/reading.ts';
import { ServerTrouble } from '../../store/guarded-fetch.ts';
import { ask, type ModelSaid, type ModelServer } from './client.ts';

/** Answers that are kept, so that the same question is not asked twice. */
export interface AnswerShelf {
  get(hash: string): Promise<{ value: unknown; cut: boolean } | null>;
  put(hash: string, answer: { value: unknown; cut: boolean }): Promise<void>;
}

/** Keeps nothing. */
export const NO_SHELF: AnswerShelf = { get: async () => null, put: async () => undefined };

/** How far a reading is, and what came of it so far. */
export interface ModelProgress {
  /** finds of the parts that are read, with what Sift's own reader has, as one list */
  finds: Find[];
  done: number;
  parts: number;
  /** finds of the model that held up, and of these the ones Sift's own reader has too */
  found: number;
  both: number;
  faults: Record<string, number>;
}

export interface ReadingAsked {
  input: SiftInput;
  /** what Sift's own reader found */
  own: readonly Find[];
  notes: readonly string[];
  server: ModelServer;
  masked: boolean;
  context: number;
  shelf: AnswerShelf;
  signal?: AbortSignal;
  /** asked right before anything leaves, for the last time: throws where it may not */
  beforeSending?(): Promise<void>;
  /** part by part, as they come */
  onPart?(progress: ModelProgress): Promise<void> | void;
  /** characters of the answer that is coming in */
  onText?(length: number): void;
}

/** Calls that run at once, over all records: what waits goes in the order it was asked in. */
const calls = new PQueue({ concurrency: 1 });
export const callsAtOnce = (most: number): void => {
  calls.concurrency = most;
};

/** A question that is asked about each part of a record. */
interface Question {
  version: number;
  system: string;
  schema: z.ZodType;
}
const FINDS: Question = { version: QUESTION_VERSION, system: INSTRUCTIONS, schema: AnswerSchema };
const GIST: Question = { version: GIST_VERSION, system: GIST_INSTRUCTIONS, schema: GistAnswerSchema };

/** What an answer was given to: another server, model, question or word, and it is another. */
function hashOf(server: Pick<ModelServer, 'address' | 'model'>, { version, system }: Question, message: string): string {
  return createHash('sha256')
    .update(JSON.stringify([version, server.address, server.model, system, message]))
    .digest('hex');
}

/** What all of a reading is of: the hash of its parts' hashes. */
export function readingHash({ input, notes, server, masked, context }: Pick<ReadingAsked, 'input' | 'notes' | 'server' | 'masked' | 'context'>): string {
  const asking = askingOf(input, notes, masked);
  return createHash('sha256')
    .update(
      partsOf(input, context)
        .map((p) => hashOf(server, FINDS, messageFor(asking, p)))
        .join(),
    )
    .digest('hex');
}

/**
 * Has a model read a record part by part, holds every answer against the words, and joins what is left with what Sift's own
 * reader has. A part whose answer broke off counts as far as it went.
 * @throws ServerTrouble where a part could not be asked; the parts before it have been handed on by then
 */
export async function readWithModel(asked: ReadingAsked): Promise<ModelProgress> {
  const { input, own } = asked;
  const asking = askingOf(input, asked.notes, asked.masked);
  const reading = readUnits(input);
  const parts = partsOf(input, asked.context);
  const faults: Record<string, number> = {};
  let found: Find[] = [];
  const progress = (done: number): ModelProgress => {
    const finds = joined(own, found, TRUST);
    return { finds, done, parts: parts.length, found: found.length, both: own.length + found.length - finds.length, faults: { ...faults } };
  };
  let now = progress(0);
  for (const [k, part] of parts.entries()) {
    const { value, cut } = await answerTo(FINDS, asking, part, asked);
    const read = readAnswer(value, cut);
    if (!read) throw new ServerTrouble('no answer', 'The model answered with something that is no list of finds.');
    const { finds, faults: wrong } = checked(read.answer, reading, asking, part, TRUST.alone);
    for (const f of [...wrong, ...Array<Fault>(read.malformed).fill('malformed')]) faults[f] = (faults[f] ?? 0) + 1;
    found = withoutRepeats([...found, ...finds]);
    now = progress(k + 1);
    await asked.onPart?.(now);
  }
  return now;
}

/**
 * What a model tells of a record besides its finds, as far as that holds up.
 * @throws ServerTrouble where a part could not be asked
 */
export async function gistWithModel(asked: ReadingAsked): Promise<ModelGist> {
  const asking = askingOf(asked.input, asked.notes, asked.masked);
  const gists: ModelGist[] = [];
  for (const part of partsOf(asked.input, asked.context)) {
    const { value } = await answerTo(GIST, asking, part, asked);
    const gist = checkedGist(value, asking, part);
    if (!gist) throw new ServerTrouble('no answer', 'The model answered with something that is no summary.');
    gists.push(gist);
  }
  return togetherInOne(gists);
}

async function answerTo(question: Question, asking: Asking, part: Part, { server, shelf, signal, onText, beforeSending }: ReadingAsked): Promise<{ value: unknown; cut: boolean }> {
  const message = messageFor(asking, part);
  const hash = hashOf(server, question, message);
  const before = await shelf.get(hash);
  if (before) return before;
  const { system, schema } = question;
  const said: ModelSaid = await calls
    .add(
      async () => {
        await beforeSending?.();
        return ask(server, { system, message, schema, ...(signal ? { signal } : {}) }, onText);
      },
      { ...(signal ? { signal } : {}), throwOnTimeout: true },
    )
    .catch((error: unknown) => {
      throw signal?.aborted ? new ServerTrouble('cancelled', 'Cancelled.') : error;
    });
  const answer = { value: said.value, cut: said.cut };
  // an answer that broke off, or is none, is asked for again next time
  if (said.value !== undefined && !said.cut) await shelf.put(hash, answer);
  return answer;
}
