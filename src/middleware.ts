import { defineMiddleware } from 'astro:middleware';
import { database, databaseTrouble } from './server/store/database.ts';
import { contentPolicy, isOurs, SECURITY } from './server/web/hosts.ts';

let asked = false;

/** What everything that is asked of this server goes through: is it meant, can it be answered, and how is it to be handled. */
export const onRequest = defineMiddleware(async (context, next) => {
  const host = context.request.headers.get('host');
  // RFC 9110, 15.5.20: whoever asks for another host has come to the wrong server
  if (!isOurs(host)) return secured(new Response('This server does not answer to that name. Add it to OTTIK_HOSTS, or set OTTIK_URL.', { status: 421, headers: { 'content-type': 'text/plain; charset=utf-8' } }));
  let response: Response;
  try {
    response = await next();
  } catch (error) {
    const trouble = databaseTrouble(error);
    if (!trouble) throw error;
    response = new Response(`${trouble.message}\n\n${trouble.advice}\n`, { status: 503, headers: { 'content-type': 'text/plain; charset=utf-8' } });
  }
  if (!asked && response.ok) {
    asked = true;
    // what goes on beside the pages begins once the first one is answered, which does not wait for it
    setTimeout(() => void Promise.all([import('./server/web/background.ts'), database()]).then(([background, db]) => background.startBackground(db)), 50);
  }
  return secured(response);
});

function secured(response: Response): Response {
  response.headers.set('content-security-policy', contentPolicy(response.headers.get('content-security-policy')));
  // a page may be stricter than the rest, as those without an account are
  for (const [name, value] of Object.entries(SECURITY)) if (!response.headers.has(name)) response.headers.set(name, value);
  return response;
}
