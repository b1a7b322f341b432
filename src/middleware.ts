import { defineMiddleware } from 'astro:middleware';
import { startBackground } from './server/background.ts';
import { database } from './server/database.ts';

/** Starts what goes on beside the pages with the first request. */
export const onRequest = defineMiddleware(async (_, next) => {
  startBackground(await database());
  return next();
});
