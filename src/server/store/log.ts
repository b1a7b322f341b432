import pino from 'pino';

/** What goes wrong where nobody sees it. `OTTIK_LOG` says how much of it is told. */
export const log = pino({ level: process.env.OTTIK_LOG ?? 'warn' });
