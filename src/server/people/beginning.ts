import { z } from 'zod';
import { addDays } from '../../core/dates/calendar.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { idFrom } from './ids.ts';
import type { Workspace } from './workspace.ts';
import { mustSee } from './workspace.ts';

export const ProjectName = z.string().trim().min(2, 'needs a name').max(80, 'is at most 80 characters long');

export const ProjectChangeSchema = z.discriminatedUnion('do', [z.object({ do: z.literal('begin'), name: ProjectName }), z.object({ do: z.literal('rename'), project: z.string().max(140), name: ProjectName })]);

/** Records of so many days before a project was begun here may still be brought in. */
const A_YEAR = 366;

/** Begins a project that its first person sees and runs. Gives its id. */
export async function beginProject(tx: Db, person: string, name: string, today: string): Promise<string> {
  const id = await idFrom(name, 'project', async (wanted) => (await tx.selectFrom('projects').select('id').where('id', '=', wanted).executeTakeFirst()) !== undefined);
  await tx
    .insertInto('projects')
    .values({ id, name, started_on: addDays(today, -A_YEAR), manager_id: person })
    .execute();
  await tx.insertInto('memberships').values({ project_id: id, person_id: person, sees: 1, access: 'manager' }).execute();
  return id;
}

/** Begins another project, or gives one another name. Two projects that somebody sees cannot have the same name. */
export async function changeProject(ws: Workspace, change: z.infer<typeof ProjectChangeSchema>): Promise<{ project: string; before: string | null }> {
  return ws.transaction(async (ws) => {
    const own = change.do === 'rename' ? change.project : '';
    if (own) mustSee(ws.with({ needs: 'manage' }), own, 'project');
    const named = await ws.db
      .selectFrom('projects')
      .select(['id', 'name'])
      .where('id', 'in', [...ws.asker.projects, ''])
      .execute();
    if (named.some((p) => p.id !== own && p.name.toLowerCase() === change.name.toLowerCase())) throw new Refusal('conflict', `There is a project “${change.name}” already.`, 'Choose another name.');
    if (change.do === 'begin') return { project: await beginProject(ws.db, ws.asker.person, change.name, ws.today), before: null };
    await ws.db.updateTable('projects').set({ name: change.name }).where('id', '=', own).execute();
    return { project: own, before: named.find((p) => p.id === own)!.name };
  });
}
