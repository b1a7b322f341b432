import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { addDays } from '../../core/dates/calendar.ts';
import type { Db } from '../database.ts';

/** How long a personal page stays open after its letter was written. */
export const LINK_DAYS = 45;

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

export const newToken = () => randomBytes(16).toString('hex');

/** Where this application is reached by people who read its letters. */
export const publicAddress = () => (process.env.OTTIK_URL ?? `http://localhost:${process.env.PORT ?? 4324}`).replace(/\/$/, '');

/** The path of a reader's own page: signed, and good until a day. */
export async function answerPath(db: Db, recipient: number, from: string): Promise<string> {
  const until = addDays(from, LINK_DAYS);
  return `/answer/${recipient}.${until}.${sign(await secret(db), `answer ${recipient} ${until}`)}`;
}

/** The recipient a link was made for, or null for one that was changed, made up, or has expired: all look the same. */
export async function readLink(db: Db, link: string, today: string): Promise<{ recipient: number; until: string } | null> {
  const m = /^(\d{1,12})\.(\d{4}-\d{2}-\d{2})\.([\w-]{32})$/.exec(link);
  if (!m) return null;
  const wanted = Buffer.from(sign(await secret(db), `answer ${m[1]} ${m[2]}`));
  if (!timingSafeEqual(wanted, Buffer.from(m[3]!)) || m[2]! < today) return null;
  return { recipient: Number(m[1]), until: m[2]! };
}

/** The mail address answers come to: the mailbox Ottik reads, with the letter's token after a plus sign (RFC 5233). */
export function answerAddress(token: string): string {
  const [box, host] = (process.env.OTTIK_ANSWERS ?? 'answers@ottik.example').split('@');
  return `${box}+${token}@${host}`;
}

/** The token in an address answers come to, or null. */
export function tokenOf(address: string): string | null {
  return /\+([0-9a-f]{32})@/i.exec(address)?.[1]?.toLowerCase() ?? null;
}

/** Something with a signature behind it: `ines.4f2c…`. */
export async function signed(db: Db, purpose: string, what: string): Promise<string> {
  return `${what}.${sign(await secret(db), `${purpose} ${what}`)}`;
}

/** What was signed, or null when the signature is not ours. */
export async function verified(db: Db, purpose: string, text: string): Promise<string | null> {
  const m = /^(.{1,140})\.([\w-]{32})$/.exec(text);
  if (!m) return null;
  const wanted = Buffer.from(sign(await secret(db), `${purpose} ${m[1]}`));
  return timingSafeEqual(wanted, Buffer.from(m[2]!)) ? m[1]! : null;
}
