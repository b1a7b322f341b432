import { lookup } from 'node:dns';
import type { LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { Agent, type Response as Answered, fetch as ask } from 'undici';

/** Why a server of somebody else could not be asked, in a sentence a person can do something with. */
export class ServerTrouble extends Error {
  constructor(
    readonly what: 'unreachable' | 'silent' | 'elsewhere' | 'forbidden' | 'too long' | 'certificate' | 'refused' | 'busy' | 'no answer' | 'cancelled',
    message: string,
  ) {
    super(message);
    this.name = 'ServerTrouble';
  }
}

/** An answer longer than this, in bytes, is no answer to what was asked. */
export const LONGEST_ANSWER = 4_000_000;
/** Redirections within the same host that are followed. */
const REDIRECTIONS = 2;
/** Networks where nothing is asked that somebody set up: where machines in a cloud learn their own secrets, and the like. */
const NEVER = new Set(['linkLocal', 'multicast', 'broadcast', 'reserved']);
/** Networks of one's own. */
const OWN = new Set(['loopback', 'private', 'uniqueLocal', 'carrierGradeNat', 'unspecified']);

/** Whether an address may be spoken to. */
export function mayReach(address: string, ownNetwork: boolean): boolean {
  if (!ipaddr.isValid(address)) return false;
  const range = ipaddr.process(address).range();
  return !NEVER.has(range) && (ownNetwork || !OWN.has(range));
}

/** Looks a name up, and connects to nothing that may not be spoken to: what was checked is what is connected to. */
const lookupWithin =
  (ownNetwork: boolean): LookupFunction =>
  (host, options, done) =>
    lookup(host, { ...options, all: true }, (error, found) => {
      if (error) return done(error, '', 0);
      const allowed = found.filter((f) => mayReach(f.address, ownNetwork));
      if (allowed.length === 0) return done(new ServerTrouble('forbidden', `${host} stands in a network this Ottik may not speak to.`), '', 0);
      if (options.all) return (done as unknown as (e: null, all: typeof allowed) => void)(null, allowed);
      done(null, allowed[0]!.address, allowed[0]!.family);
    });

export interface Guard {
  /** the server's address, to whose host alone anything goes */
  address: URL;
  /** whether it may stand in one's own network */
  ownNetwork: boolean;
  /** milliseconds to wait for the first word, and between two */
  patience: number;
}

/**
 * A fetch that speaks to one host alone, waits so long and no longer, and reads no more than an answer can be.
 * @throws ServerTrouble
 */
export function guardedFetch(guard: Guard): typeof fetch {
  const agent = new Agent({ connect: { lookup: lookupWithin(guard.ownNetwork), timeout: Math.min(guard.patience, 15_000) }, headersTimeout: guard.patience, bodyTimeout: guard.patience });
  const one = async (url: URL, init: RequestInit, left: number): Promise<Answered> => {
    if (url.host !== guard.address.host || url.protocol !== guard.address.protocol) throw new ServerTrouble('elsewhere', `The server sends on to ${url.host.slice(0, 80)}. Nothing was sent there; enter that address if it is the right one.`);
    // an address in numbers is looked up by nobody
    const bare = url.hostname.replace(/^\[|\]$/g, '');
    if (ipaddr.isValid(bare) && !mayReach(bare, guard.ownNetwork)) throw new ServerTrouble('forbidden', `${bare} stands in a network this Ottik may not speak to.`);
    const answer = await ask(url, { ...(init as object), redirect: 'manual', dispatcher: agent });
    const to = answer.headers.get('location');
    if (answer.status < 300 || answer.status > 399 || to === null) return answer;
    await answer.body?.cancel();
    if (left === 0) throw new ServerTrouble('elsewhere', 'The server sends on and on.');
    return one(new URL(to, url), init, left - 1);
  };
  return (async (input: string | URL | Request, init: RequestInit = {}) => {
    try {
      const answer = await one(new URL(input instanceof Request ? input.url : input), init, REDIRECTIONS);
      return new Response(answer.body ? (answer.body as unknown as ReadableStream<Uint8Array>).pipeThrough(atMost(LONGEST_ANSWER)) : null, { status: answer.status, statusText: answer.statusText, headers: [...answer.headers] });
    } catch (error) {
      throw inWords(error, guard.address.host);
    }
  }) as typeof fetch;
}

function atMost(bytes: number): TransformStream<Uint8Array, Uint8Array> {
  let seen = 0;
  return new TransformStream({
    transform(chunk, to) {
      seen += chunk.byteLength;
      if (seen > bytes) to.error(new ServerTrouble('too long', `The answer went on beyond ${bytes / 1_000_000} MB and was broken off.`));
      else to.enqueue(chunk);
    },
  });
}

/** What went wrong on the way to a server, in words. */
export function inWords(error: unknown, host: string): ServerTrouble {
  for (let e = error as { cause?: unknown; code?: unknown; name?: unknown } | undefined; e; e = e.cause as typeof e) {
    if (e instanceof ServerTrouble) return e;
    const code = String(e.code ?? '');
    if (e.name === 'AbortError') return new ServerTrouble('cancelled', 'Cancelled.');
    if (/TIMEOUT/.test(code)) return new ServerTrouble('silent', `${host} did not answer in time.`);
    if (/^(?:ECONNREFUSED|EHOSTUNREACH|ENETUNREACH)/.test(code)) return new ServerTrouble('unreachable', `Nothing answers at ${host}.`);
    if (/^(?:ENOTFOUND|EAI_AGAIN)/.test(code)) return new ServerTrouble('unreachable', `${host} is not known.`);
    if (/CERT|SELF_SIGNED|UNABLE_TO_VERIFY|ERR_TLS/.test(code)) return new ServerTrouble('certificate', `The certificate of ${host} is not trusted.`);
    if (/^(?:ECONNRESET|EPIPE|UND_ERR_SOCKET)/.test(code)) return new ServerTrouble('no answer', `${host} broke off in mid-answer.`);
  }
  return new ServerTrouble('unreachable', `${host} could not be asked: ${(error instanceof Error ? error.message : String(error)).slice(0, 160)}`);
}
