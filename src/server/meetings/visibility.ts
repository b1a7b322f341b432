import { z } from 'zod';
import { VISIBILITIES, type Visibility } from '../../core/people/rights.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';
import type { Db } from '../store/database.ts';
import { invitedTo } from './meetings.ts';

export const VisibilitySchema = z.object({ visibility: z.enum(VISIBILITIES), only: z.literal('look').optional() });

/** Who would see a meeting that does not, and who would see it no more. */
export interface Change {
  now: Visibility;
  gain: string[];
  lose: string[];
}

/**
 * Says who sees a meeting and all that comes from it, or only looks who would gain or lose sight of it.
 * @param keep false: nothing is changed
 */
export async function changeVisibility(ws: Workspace, meeting: number, visibility: Visibility, { keep }: { keep: boolean }): Promise<Change> {
  return ws.transaction(async (ws) => {
    const m = await ws.db.selectFrom('meetings').select(['project_id', 'visibility']).where('id', '=', meeting).executeTakeFirst();
    mustSee(ws, m?.project_id, 'meeting');
    const attending = new Set((await invitedTo(ws.db, meeting)).map((p) => p.id));
    const [before, after] = await Promise.all([m!.visibility, visibility].map((v) => besidesAttendees(ws.db, m!.project_id, v)));
    const only = (these: Seer[], those: Seer[]) => these.filter((p) => !attending.has(p.id) && !those.some((o) => o.id === p.id)).map((p) => p.name);
    if (keep) await ws.db.updateTable('meetings').set({ visibility }).where('id', '=', meeting).execute();
    return { now: keep ? visibility : m!.visibility, gain: only(after!, before!), lose: only(before!, after!) };
  });
}

type Seer = { id: string; name: string };

/** Who sees a meeting besides those who were at it: guests see what they were at and nothing else. */
async function besidesAttendees(db: Db, project: string, visibility: Visibility): Promise<Seer[]> {
  if (visibility === 'attendees') return [];
  let query = db.selectFrom('memberships as s').innerJoin('people as p', 'p.id', 's.person_id').select(['p.id', 'p.name']).distinct().where('s.sees', '=', 1).where('s.access', '!=', 'guest');
  if (visibility === 'project') query = query.where('s.project_id', '=', project);
  return query.orderBy('p.name').execute();
}
