import type { APIContext, APIRoute } from 'astro';
import { ZodError, type z } from 'zod';
import { deedOf } from '../../core/people/deeds.ts';
import type { Right } from '../../core/people/rights.ts';
import { note } from '../people/audit.ts';
import { whole } from '../people/out-of-sight.ts';
import { workspace } from '../people/session.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { type Db, database, databaseTrouble } from '../store/database.ts';
import { log } from '../store/log.ts';
import { isOurs } from './hosts.ts';

interface Call<T> {
  ws: Workspace;
  body: T;
  id: number;
  context: APIContext;
}

const reply = (status: number, value: unknown) => new Response(JSON.stringify(value), { status, headers: { 'content-type': 'application/json', 'cache-control': 'no-store' } });

/** What went wrong, in the shape the views show: what, where, what to do. */
export function refusalReply(error: unknown): Response {
  if (error instanceof Refusal) return reply(error.status, { error: { message: error.message, advice: error.advice, line: error.line, ...(error.code === 'insist' ? { code: error.code } : {}) } });
  if (error instanceof ZodError) return reply(422, { error: { message: [...new Set(error.issues.map((i) => (/^That is /.test(i.message) ? i.message : `${i.path.join('.') || 'The request'} ${i.message}`)))].join('; '), advice: null, line: null } });
  log.error(error);
  const trouble = databaseTrouble(error);
  if (trouble) return reply(503, { error: { ...trouble, line: null } });
  return reply(500, { error: { message: 'Something went wrong here.', advice: 'Load the page again to see how things stand; the server’s log says what it was.', line: null } });
}

/** Changes come from Ottik's own pages: another site's form or script is turned away, and so is a borrowed host name. */
function sameOrigin(context: APIContext): boolean {
  const host = context.request.headers.get('host') ?? '';
  if (!isOurs(host)) return false;
  const origin = context.request.headers.get('origin');
  return origin === null || origin.replace(/^https?:\/\//, '') === host;
}

/** Refuses what another site's page sends. */
export function mustComeFromHere(context: APIContext): void {
  if (!sameOrigin(context)) throw new Refusal('bad-input', 'This request came from another site.');
}

/** The JSON of a request, checked; what is not JSON, or not from here, is refused. */
async function bodyOf<S extends z.ZodType>(schema: S, context: APIContext): Promise<z.infer<S>> {
  mustComeFromHere(context);
  if (!(context.request.headers.get('content-type') ?? '').startsWith('application/json')) throw new Refusal('bad-input', 'Send JSON.');
  let sent: unknown;
  try {
    sent = await context.request.json();
  } catch {
    throw new Refusal('bad-input', 'The request is not valid JSON.');
  }
  return schema.parse(sent);
}

/** What a request asks to be done, where it says so by a name. */
function actOf(body: unknown): string | null {
  const act = (body as { do?: unknown } | null)?.do;
  return typeof act === 'string' ? act : null;
}

/**
 * A JSON endpoint: validates, calls, answers.
 * @param needs what whoever asks must be allowed in the projects it touches
 */
export function endpoint<S extends z.ZodType>(schema: S, run: (call: Call<z.infer<S>>) => Promise<unknown>, needs: Right = 'work'): APIRoute & { needs: Right } {
  const route: APIRoute = async (context) => {
    try {
      const body = await bodyOf(schema, context);
      const ws = (await workspace(context)).with({ needs });
      const result = await run({ ws, body, id: Number(context.params.id ?? Number.NaN), context });
      const deed = deedOf(context.url?.pathname ?? '', actOf(body));
      if (deed) await note(whole(ws.db), ws.asker.person, ws.project || null, deed, new Date());
      return reply(200, result);
    } catch (error) {
      return refusalReply(error);
    }
  };
  return Object.assign(route, { needs });
}

/** The same for people without an account: whoever asks is known by what they bring, and by nothing else. */
export function openEndpoint<S extends z.ZodType>(schema: S, run: (call: { db: Db } & Omit<Call<z.infer<S>>, 'ws' | 'id'>) => Promise<unknown>): APIRoute {
  return async (context) => {
    try {
      const body = await bodyOf(schema, context);
      return reply(200, await run({ db: await database(), body, context }));
    } catch (error) {
      return refusalReply(error);
    }
  };
}

/** A JSON answer to a question that changes nothing. */
export function answer(run: (call: Omit<Call<never>, 'body'>) => Promise<unknown>): APIRoute {
  return async (context) => {
    try {
      mustComeFromHere(context);
      const ws = await workspace(context);
      return reply(200, await run({ ws, id: Number(context.params.id ?? Number.NaN), context }));
    } catch (error) {
      return refusalReply(error);
    }
  };
}

/** Bytes of a record with what is said of them beside, as a form. */
export async function recordForm(context: APIContext): Promise<{ bytes: Uint8Array; fileName: string | null; fields: FormData }> {
  mustComeFromHere(context);
  const fields = await context.request.formData().catch(() => null);
  const file = fields?.get('file');
  if (!fields || !(file instanceof Blob)) throw new Refusal('bad-input', 'There is no file in this request.', 'Choose a file or paste text.');
  const name = fields.get('name');
  return { bytes: new Uint8Array(await file.arrayBuffer()), fileName: typeof name === 'string' && name ? name.slice(0, 300) : null, fields };
}

/** Headers of a stream of server-sent events. */
export const STREAM = { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' };

export { reply };
