import { defineMiddleware } from 'astro:middleware';
import type { APIContext } from 'astro';
import { sightOf } from './core/people/deeds.ts';
import { note } from './server/people/audit.ts';
import { ownerOf } from './server/people/owner.ts';
import { whoAsks } from './server/people/session.ts';
import { Refusal } from './server/refusal.ts';
import { database, databaseTrouble } from './server/store/database.ts';
import { contentPolicy, isOurs, SECURITY } from './server/web/hosts.ts';
import { refusalReply } from './server/web/requests.ts';

let asked = false;

/** What everything that is asked of this server goes through: is it meant, can it be answered, and how is it to be handled. */
export const onRequest = defineMiddleware(async (context, next) => {
  const host = context.request.headers.get('host');
  // RFC 9110, 15.5.20: whoever asks for another host has come to the wrong server
  if (!isOurs(host)) return secured(new Response('This server does not answer to that name. Add it to OTTIK_HOSTS, or set OTTIK_URL.', { status: 421, headers: { 'content-type': 'text/plain; charset=utf-8' } }));
  let response: Response;
  try {
    response = (await beforeTheFirstRun(context)) ?? (await signedOut(context)) ?? (await next());
  } catch (error) {
    const trouble = databaseTrouble(error);
    if (!trouble) throw error;
    response = new Response(`${trouble.message}\n\n${trouble.advice}\n`, { status: 503, headers: { 'content-type': 'text/plain; charset=utf-8' } });
  }
  if (response.ok && context.request.method === 'GET') await toldToTheAudit(context, response);
  if (!asked && response.ok) {
    asked = true;
    // what goes on beside the pages begins once the first one is answered, which does not wait for it
    setTimeout(() => void Promise.all([import('./server/web/background.ts'), database()]).then(([background, db]) => background.startBackground(db)), 50);
  }
  return secured(response);
});

/** Who looked at the words of a meeting, a person or a letter, or took a file away, is kept. */
async function toldToTheAudit(context: APIContext, response: Response): Promise<void> {
  const file = response.headers.get('content-disposition')?.startsWith('attachment') ?? false;
  const seen = sightOf(context.url.pathname, file);
  if (seen === null || OPEN.test(context.url.pathname)) return;
  const person = await whoAsks(context);
  if (person) await note(await database(), person, context.cookies.get('project')?.value ?? null, seen, new Date());
}

const goTo = (path: string) => new Response(null, { status: 303, headers: { location: path } });

let begun = false;

/** Until somebody has said who they are there is nothing to show: every page leads to the first one, and nothing else answers. */
async function beforeTheFirstRun({ url, request }: APIContext): Promise<Response | null> {
  const there = url.pathname === '/begin' || url.pathname === '/api/begin';
  if (!begun) begun = (await ownerOf(await database())) !== null;
  if (begun) return url.pathname === '/begin' ? goTo('/') : null;
  if (there || url.pathname.startsWith('/_')) return null;
  if (request.method === 'GET' && !url.pathname.startsWith('/api/')) return goTo('/begin');
  return new Response(JSON.stringify({ error: { message: 'This Ottik has not been set up yet.', advice: 'Open its first page.', line: null } }), { status: 409, headers: { 'content-type': 'application/json' } });
}

/** What is open to whoever has its address: signing in, invitations, the personal pages that letters lead to, and files of the pages. */
const OPEN = /^\/(?:sign-in$|begin$|invited\/|shared\/|answer\/|calendar\/|_|ottik\.svg$|api\/(?:auth|begin$|invited|answer)(?:\/|$))/;

/** Whoever has to be signed in and is not is led there, and back again afterwards. */
async function signedOut(context: APIContext): Promise<Response | null> {
  const { pathname, search } = context.url;
  if (OPEN.test(pathname) || (await whoAsks(context)) !== null) return null;
  if (context.request.method === 'GET' && !pathname.startsWith('/api/')) return goTo(`/sign-in?next=${encodeURIComponent(pathname + search)}`);
  return refusalReply(new Refusal('signed-out', 'You are signed out.', 'Sign in again in another window; what you typed is still here.'));
}

function secured(response: Response): Response {
  response.headers.set('content-security-policy', contentPolicy(response.headers.get('content-security-policy')));
  // a page may be stricter than the rest, as those without an account are
  for (const [name, value] of Object.entries(SECURITY)) if (!response.headers.has(name)) response.headers.set(name, value);
  return response;
}
