import { randomBytes } from 'node:crypto';
import { addDays } from '../../core/dates/calendar.ts';
import type { Db } from '../store/database.ts';
import { isSignature, signature } from '../store/signing.ts';

/** How long a personal page stays open after its letter was written. */
export const LINK_DAYS = 45;

export const newToken = () => randomBytes(16).toString('hex');

/** The path of a reader's own page: signed, and good until a day. */
export async function answerPath(db: Db, recipient: number, from: string): Promise<string> {
  const until = addDays(from, LINK_DAYS);
  return `/answer/${recipient}.${until}.${await signature(db, `answer ${recipient} ${until}`)}`;
}

/** The recipient a link was made for, or null for one that was changed, made up, or has expired: all look the same. */
export async function readLink(db: Db, link: string, today: string): Promise<{ recipient: number; until: string } | null> {
  const m = /^(\d{1,12})\.(\d{4}-\d{2}-\d{2})\.([\w-]{32})$/.exec(link);
  if (!m) return null;
  if (m[2]! < today || !(await isSignature(db, `answer ${m[1]} ${m[2]}`, m[3]!))) return null;
  return { recipient: Number(m[1]), until: m[2]! };
}
