import { z } from 'zod';
import { VISIBILITIES, type Visibility } from '../../core/people/rights.ts';
import { mustSee, type Workspace } from '../people/workspace.ts';

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
    const attending = new Set((await ws.db.selectFrom('attendance').select('person_id').where('meeting_id', '=', meeting).execute()).map((a) => a.person_id));
    const others = await ws.db.selectFrom('memberships as s').innerJoin('people as p', 'p.id', 's.person_id').select(['p.id', 'p.name']).where('s.project_id', '=', m!.project_id).where('s.sees', '=', 1).where('s.access', '!=', 'guest').orderBy('p.name').execute();
    const names = others.filter((p) => !attending.has(p.id)).map((p) => p.name);
    if (keep) await ws.db.updateTable('meetings').set({ visibility }).where('id', '=', meeting).execute();
    const changes = m!.visibility !== visibility;
    return { now: keep ? visibility : m!.visibility, gain: changes && visibility === 'project' ? names : [], lose: changes && visibility === 'attendees' ? names : [] };
  });
}
