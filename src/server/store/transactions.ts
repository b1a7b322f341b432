import type { Db } from './database.ts';

/** The same thing asked for again within this time, in milliseconds, was sent twice and is meant once. */
export const AT_ONCE = 2000;

/** Runs something as one transaction that writes from its beginning, or as part of the one that is under way. */
export async function inTransaction<T>(db: Db, run: (tx: Db) => Promise<T>): Promise<T> {
  return db.isTransaction ? run(db) : db.transaction().execute((tx) => run(tx as unknown as Db));
}
