import { createHash, randomBytes, scryptSync, timingSafeEqual } from 'node:crypto';
import { z } from 'zod';
import { longDay, shortDay } from '../../core/language/days.ts';
import { compileMinutes, draftOf } from '../../core/meetings/minutes.ts';
import { minutesHtml } from '../../core/meetings/minutes-text.ts';
import { inSight } from '../people/out-of-sight.ts';
import { mustSee, type Workspace, workspaceOf } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { minutesData } from './minutes/data.ts';

export const ShareSchema = z.discriminatedUnion('do', [
  /** issued minutes by their version, or what came of the meeting as it stands whenever the link is opened */
  z.object({ do: z.literal('share'), version: z.number().int().min(1).nullable(), days: z.number().int().min(1, 'is at least a day').max(365, 'is at most a year'), passcode: z.string().trim().max(100).default('') }),
  z.object({ do: z.literal('revoke'), share: z.number().int() }),
]);

/** So many wrong passcodes, and a link is closed. */
const WRONG_TRIES = 10;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');
/** A passcode is short: it is kept hashed slowly and salted (scrypt, RFC 7914). */
function sealedPasscode(passcode: string, salt = randomBytes(16)): string {
  return `${salt.toString('base64')}.${scryptSync(passcode, salt, 32).toString('base64')}`;
}
function opens(passcode: string, sealed: string): boolean {
  const again = Buffer.from(sealedPasscode(passcode, Buffer.from(sealed.split('.')[0]!, 'base64')));
  const kept = Buffer.from(sealed);
  return again.length === kept.length && timingSafeEqual(again, kept);
}

async function mustSeeMeeting(ws: Workspace, meeting: number): Promise<void> {
  const m = await ws.db.selectFrom('meetings').select('project_id').where('id', '=', meeting).executeTakeFirst();
  mustSee(ws, m?.project_id, 'meeting');
}

/** Links to a meeting or its minutes that were made, the latest first. */
export async function sharesOf(ws: Workspace, meeting: number, now: Date) {
  await mustSeeMeeting(ws, meeting);
  const rows = await ws.db.selectFrom('shares as s').innerJoin('people as p', 'p.id', 's.by_person').select(['s.id', 's.what', 's.version', 's.at', 's.expires_at', 's.passcode', 's.opened', 's.wrong', 's.revoked_at', 'p.name as by']).where('s.meeting_id', '=', meeting).orderBy('s.id', 'desc').execute();
  return rows.map((r) => ({
    id: r.id,
    version: r.what === 'minutes' ? r.version : null,
    by: r.by,
    until: r.expires_at.slice(0, 10),
    opened: r.opened,
    passcode: r.passcode !== null,
    stands: r.revoked_at ? ('taken back' as const) : r.wrong >= WRONG_TRIES ? ('closed after wrong passcodes' as const) : r.expires_at <= now.toISOString() ? ('run out' as const) : ('open' as const),
  }));
}
export type Share = Awaited<ReturnType<typeof sharesOf>>[number];

/** Makes a link to an issued version or to the meeting as it stands, or takes one back. The link itself is told this once. */
export async function changeShares(ws: Workspace, meeting: number, change: z.infer<typeof ShareSchema>, now: Date): Promise<{ shares: Share[]; token: string | null }> {
  await mustSeeMeeting(ws, meeting);
  let token: string | null = null;
  if (change.do === 'share') {
    const issued = change.version === null || (await ws.db.selectFrom('minutes_versions').select('version').where('meeting_id', '=', meeting).where('version', '=', change.version).executeTakeFirst());
    if (!issued) throw new Refusal('not-found', `There is no version ${change.version} of these minutes.`, 'What is shared is issued first.');
    token = randomBytes(24).toString('base64url');
    await ws.db
      .insertInto('shares')
      .values({
        token_hash: hashOf(token),
        meeting_id: meeting,
        what: change.version === null ? 'meeting' : 'minutes',
        version: change.version ?? 0,
        by_person: ws.asker.person,
        at: now.toISOString(),
        expires_at: new Date(now.getTime() + change.days * 86_400_000).toISOString(),
        passcode: change.passcode ? sealedPasscode(change.passcode) : null,
      })
      .execute();
  } else {
    await ws.db.updateTable('shares').set({ revoked_at: now.toISOString() }).where('id', '=', change.share).where('meeting_id', '=', meeting).where('revoked_at', 'is', null).execute();
  }
  return { shares: await sharesOf(ws, meeting, now), token };
}

/**
 * What a link shows: the minutes or the meeting it was made for and nothing else, or null where it asks for a passcode first.
 * A meeting is shown as whoever shared it sees it on that day.
 * @param passcode what was typed; null where nothing was yet
 * @throws Refusal where the link leads nowhere any more, or the passcode is another
 */
export async function openShare(db: Db, token: string, passcode: string | null, now: Date): Promise<string | null> {
  const row = await db
    .selectFrom('shares as s')
    .leftJoin('minutes_versions as v', (join) => join.onRef('v.meeting_id', '=', 's.meeting_id').onRef('v.version', '=', 's.version'))
    .innerJoin('meetings as m', 'm.id', 's.meeting_id')
    .select(['s.id', 's.what', 's.meeting_id', 's.by_person', 's.expires_at', 's.revoked_at', 's.passcode', 's.wrong', 'v.minutes', 'v.changes', 'v.version', 'v.issued_on', 'm.date'])
    .where('s.token_hash', '=', hashOf(token))
    .executeTakeFirst();
  // whether it ran out, was taken back or never was is nobody's business
  if (!row || (row.what === 'minutes' && row.minutes === null) || row.revoked_at || row.wrong >= WRONG_TRIES || row.expires_at <= now.toISOString()) throw new Refusal('not-found', 'This link leads nowhere any more.', 'Ask whoever sent it for another one.');
  if (row.passcode !== null) {
    if (passcode === null) return null;
    if (!opens(passcode, row.passcode)) {
      await db
        .updateTable('shares')
        .set((eb) => ({ wrong: eb('wrong', '+', 1) }))
        .where('id', '=', row.id)
        .execute();
      throw new Refusal('forbidden', 'That is not the passcode.', 'It was told you by whoever sent the link.');
    }
  }
  await db
    .updateTable('shares')
    .set((eb) => ({ opened: eb('opened', '+', 1) }))
    .where('id', '=', row.id)
    .execute();
  if (row.what === 'meeting') return meetingAsItStands(db, row.by_person, row.meeting_id, now);
  return minutesHtml(CODECS.issued.read(row.minutes!), { version: row.version, issuedOn: shortDay(row.issued_on!, row.date), changes: CODECS.changes.read(row.changes!) });
}

/** Who was at it, what was decided, promised and left open, as it stands today; without a way further in. */
async function meetingAsItStands(db: Db, sharer: string, meeting: number, now: Date): Promise<string> {
  const ws = await workspaceOf(db, sharer);
  const data = await minutesData(await inSight(ws), meeting);
  const draft = draftOf([{ part: 'attendance' }, { part: 'decisions' }, { part: 'actions' }, { part: 'updates' }, { part: 'questions' }]);
  return minutesHtml(compileMinutes(draft, data), { version: null, issuedOn: null, changes: [], asOf: longDay(now.toISOString().slice(0, 10)) });
}
