import { defineMiddleware } from 'astro:middleware';
import { database } from './server/database.ts';

let asked = false;

/** Starts what goes on beside the pages once the first page is answered, which does not wait for it. */
export const onRequest = defineMiddleware(async (_, next) => {
  const response = await next();
  if (!asked) {
    asked = true;
    setTimeout(() => void Promise.all([import('./server/background.ts'), database()]).then(([background, db]) => background.startBackground(db)), 50);
  }
  return response;
});
