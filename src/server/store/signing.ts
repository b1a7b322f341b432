import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import type { Db } from './database.ts';

const secrets = new WeakMap<object, Promise<string>>();

/** The workspace's secret, made at first use and remembered: a page must not write to show a link. */
function secret(db: Db): Promise<string> {
  const known = secrets.get(db);
  if (known) return known;
  const found = readSecret(db);
  // within a transaction it may be taken back again
  if (!db.isTransaction) secrets.set(db, found);
  return found;
}

async function readSecret(db: Db): Promise<string> {
  const read = () => db.selectFrom('settings').select('value').where('name', '=', 'link secret').executeTakeFirst();
  const known = await read();
  if (known) return known.value;
  await db
    .insertInto('settings')
    .values({ name: 'link secret', value: randomBytes(32).toString('base64url') })
    .onConflict((c) => c.doNothing())
    .execute();
  return (await read())!.value;
}

const sign = (key: string, what: string) => createHmac('sha256', key).update(what).digest('base64url').slice(0, 32);

/** The signature of some words, by the workspace's secret. */
export const signature = async (db: Db, words: string): Promise<string> => sign(await secret(db), words);

/** Whether a signature is that of some words; takes as long for a wrong one as for the right one. */
export async function isSignature(db: Db, words: string, given: string): Promise<boolean> {
  const wanted = Buffer.from(await signature(db, words));
  const got = Buffer.from(given);
  return wanted.length === got.length && timingSafeEqual(wanted, got);
}

/** Something with a signature behind it: `ines.4f2c…`. */
export async function signed(db: Db, purpose: string, what: string): Promise<string> {
  return `${what}.${await signature(db, `${purpose} ${what}`)}`;
}

/** What was signed, or null when the signature is not ours. */
export async function verified(db: Db, purpose: string, text: string): Promise<string | null> {
  const m = /^(.{1,140})\.([\w-]{32})$/.exec(text);
  return m && (await isSignature(db, `${purpose} ${m[1]}`, m[2]!)) ? m[1]! : null;
}
