import { createOpenAICompatible as chatCompletions } from '@ai-sdk/openai-compatible';
import { APICallError, parsePartialJson, RetryError, streamText } from 'ai';
import { z } from 'zod';
import { trimEnd } from '../../../core/language/trim.ts';
import { guardedFetch, inWords, ServerTrouble } from '../../store/guarded-fetch.ts';

/** A model on a server that speaks the chat-completions protocol, as it is set up. */
export interface ModelServer {
  /** base address, up to and with `/v1` where it has that */
  address: string;
  model: string;
  key: string | null;
  ownNetwork: boolean;
  /** milliseconds to wait for the first word, and between two */
  patience: number;
}

export interface ModelSaid {
  /** the answer as JSON, as far as it could be read; undefined where there is none in it */
  value: unknown;
  /** whether it broke off, or was broken off */
  cut: boolean;
  /** whether the server takes JSON schemas */
  schemas: boolean;
}

/** Under which name the library keeps what is said to this server alone. */
const PROVIDER = 'model';
/** The same stretch this often in a row is a model that has lost its way. */
const REPEATS = 12;
const STRETCH = 60;
/** How often a busy server is asked again; it says itself how long to wait (RFC 9110, 10.2.3). */
const RETRIES = 3;

/**
 * Asks one question, and gives back the JSON that is in the answer.
 * @param schema  what shape it should have; servers that know no schemas are told of it in words
 * @param onText  called with the length of the answer so far
 * @throws ServerTrouble
 */
export async function ask(server: ModelServer, question: { system: string; message: string; schema: z.ZodType; signal?: AbortSignal }, onText: (length: number) => void = () => undefined): Promise<ModelSaid> {
  const host = hostOf(server.address);
  try {
    return await askWith(server, question, true, onText);
  } catch (error) {
    const refused = apiError(error);
    // what a server says that has never heard of a schema
    if (refused && (refused.statusCode === 400 || refused.statusCode === 422)) {
      try {
        return await askWith(server, question, false, onText);
      } catch (again) {
        throw told(again, host);
      }
    }
    throw told(error, host);
  }
}

async function askWith(server: ModelServer, { system, message, schema, signal }: Parameters<typeof ask>[1], schemas: boolean, onText: (length: number) => void): Promise<ModelSaid> {
  const wanted = z.toJSONSchema(schema, { target: 'draft-7' });
  const provider = chatCompletions({ name: PROVIDER, baseURL: baseOf(server), ...(server.key ? { apiKey: server.key } : {}), fetch: guardedFetch({ address: new URL(server.address), ownNetwork: server.ownNetwork, patience: server.patience }) });
  const stop = new AbortController();
  const either = signal ? AbortSignal.any([signal, stop.signal]) : stop.signal;
  let wrong: unknown = null;
  const { fullStream } = streamText({
    model: provider(server.model),
    system: schemas ? system : `${system}\n\nThe JSON has this schema:\n${JSON.stringify(wanted)}`,
    prompt: message,
    // the library's own way of asking for an object hands on no word of an answer that is none
    ...(schemas ? { providerOptions: { [PROVIDER]: { response_format: { type: 'json_schema', json_schema: { name: 'finds', strict: true, schema: wanted } } } as never } } : {}),
    temperature: 0,
    maxRetries: RETRIES,
    abortSignal: either,
    onError: ({ error }) => {
      wrong = error;
    },
  });
  let text = '';
  let finished = false;
  try {
    for await (const piece of fullStream) {
      if (piece.type === 'text-delta') {
        text += piece.text;
        onText(text.length);
        if (lostItsWay(text)) {
          stop.abort();
          break;
        }
      } else if (piece.type === 'error') wrong ??= piece.error;
      else if (piece.type === 'finish-step') finished = piece.finishReason !== 'length';
    }
  } catch (error) {
    wrong ??= error;
  }
  if (signal?.aborted) throw new ServerTrouble('cancelled', 'Cancelled.');
  // what came before it broke off is worth something
  if (wrong !== null && text.trim() === '') throw wrong;
  const { value, state } = await parsePartialJson(jsonIn(text));
  if (value === undefined && wrong !== null) throw wrong;
  return { value, cut: !finished || wrong !== null || state !== 'successful-parse', schemas };
}

/** The JSON of an answer, without what some models put around it. */
function jsonIn(text: string): string {
  const begins = text.indexOf('{');
  if (begins < 0) return '';
  const ends = text.lastIndexOf('}');
  const fenced = text.slice(begins, ends + 1);
  try {
    JSON.parse(fenced);
    return fenced;
  } catch {
    return text.slice(begins);
  }
}

/** Whether an answer says one stretch again and again. */
function lostItsWay(text: string): boolean {
  if (text.length < STRETCH * REPEATS || text.length % 8 !== 0) return false;
  const last = text.slice(-STRETCH);
  for (let k = 1, at = text.length - STRETCH; k < REPEATS; k++) {
    const before = text.lastIndexOf(last, at - 1);
    if (before < 0 || at - before > STRETCH * 2) return false;
    at = before;
  }
  return true;
}

/** Which models the server has, where it tells (`GET /models`, from memory of the protocol). */
export async function modelsOf(server: ModelServer): Promise<string[]> {
  const answer = await guardedFetch({ address: new URL(server.address), ownNetwork: server.ownNetwork, patience: Math.min(server.patience, 15_000) })(`${baseOf(server)}/models`, { headers: server.key ? { authorization: `Bearer ${server.key}` } : {} });
  if (answer.status === 401 || answer.status === 403) throw new ServerTrouble('refused', `${hostOf(server.address)} does not accept the key.`);
  if (!answer.ok) return [];
  const listed: unknown = await answer.json().catch(() => null);
  const data = (listed as { data?: { id?: unknown }[] } | null)?.data;
  return Array.isArray(data) ? data.flatMap((m) => (typeof m?.id === 'string' ? [m.id.slice(0, 200)] : [])).slice(0, 500) : [];
}

/** The address without what may stand at its end. */
const baseOf = (server: ModelServer) => trimEnd(server.address, '/');

export const hostOf = (address: string): string => new URL(address).host;

function apiError(error: unknown): APICallError | null {
  const last = RetryError.isInstance(error) ? error.lastError : error;
  return APICallError.isInstance(last) ? last : null;
}

function told(error: unknown, host: string): ServerTrouble {
  const refused = apiError(error);
  if (refused?.statusCode === 401 || refused?.statusCode === 403) return new ServerTrouble('refused', `${host} does not accept the key.`);
  if (refused?.statusCode === 404) return new ServerTrouble('refused', `${host} knows no such model, or nothing of this kind at that address.`);
  if (refused?.statusCode === 429) return new ServerTrouble('busy', `${host} is busy and stayed so. Ask again later.`);
  if (refused?.statusCode !== undefined && refused.statusCode >= 300) return new ServerTrouble('no answer', `${host} answered with error ${refused.statusCode}.`);
  return inWords(RetryError.isInstance(error) ? error.lastError : error, host);
}
