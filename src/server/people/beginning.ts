import { z } from 'zod';
import { addDays } from '../../core/dates/calendar.ts';
import { MONDAY_TO_FRIDAY, type WorkingDays } from '../../core/dates/working-days.ts';
import { ReaderWishesSchema } from '../../core/letters/rules.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { worksHere } from './asker.ts';
import { WorkingDaysSchema } from './details.ts';
import { idFrom } from './ids.ts';
import { ownerOf } from './owner.ts';
import type { Workspace } from './workspace.ts';
import { mustSee } from './workspace.ts';

export const ProjectName = z.string().trim().min(2, 'needs a name').max(80, 'is at most 80 characters long');
const ProjectId = z.string().max(140);

export const ProjectChangeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('begin'), name: ProjectName }),
  z.object({ do: z.literal('rename'), project: ProjectId, name: ProjectName }),
  /** where its people work, where their own entry says nothing else */
  z.object({ do: z.literal('settle'), project: ProjectId, country: ReaderWishesSchema.shape.country, workingDays: WorkingDaysSchema }),
  z.object({ do: z.literal('archive'), project: ProjectId }),
  z.object({ do: z.literal('take out'), project: ProjectId }),
]);
type ProjectChange = z.infer<typeof ProjectChangeSchema>;

/** Where the people of a project work and when, where their own entry says nothing else. */
export interface Workplace {
  country: string;
  workingDays: WorkingDays;
}

/** Records of so many days before a project was begun here may still be brought in. */
const A_YEAR = 366;

/** Begins a project that its first person sees and runs. Gives its id. */
export async function beginProject(tx: Db, person: string, name: string, today: string, place: Workplace = { country: '', workingDays: MONDAY_TO_FRIDAY }): Promise<string> {
  const id = await idFrom(name, 'project', async (wanted) => (await tx.selectFrom('projects').select('id').where('id', '=', wanted).executeTakeFirst()) !== undefined);
  await tx
    .insertInto('projects')
    .values({ id, name, started_on: addDays(today, -A_YEAR), manager_id: person, country: place.country, working_days: place.workingDays })
    .execute();
  await tx.insertInto('memberships').values({ project_id: id, person_id: person, sees: 1, access: 'manager' }).execute();
  return id;
}

/** A project as it was before a change, for what is told of it and for taking the change back. */
export interface ProjectChanged {
  project: string;
  before: { name: string; country: string; workingDays: WorkingDays; archived: boolean } | null;
}

/** Begins another project, or changes one: its name, where its people work, whether anything is still done in it. */
export async function changeProject(ws: Workspace, change: ProjectChange): Promise<ProjectChanged> {
  return ws.transaction(async (ws) => {
    if (change.do === 'begin') {
      if (!worksHere(ws.asker.roles) && (await ownerOf(ws.db)) !== ws.asker.person) throw new Refusal('forbidden', 'Guests do not begin projects here.', 'Ask whoever set up this Ottik.');
      await mustBeFree(ws, change.name, '');
      const own = await ws.db.selectFrom('people').select(['country', 'working_days']).where('id', '=', ws.asker.person).executeTakeFirstOrThrow();
      return { project: await beginProject(ws.db, ws.asker.person, change.name, ws.today, { country: own.country, workingDays: own.working_days ?? MONDAY_TO_FRIDAY }), before: null };
    }
    // what is archived is changed by being taken out, and by nothing else
    const asker = change.do === 'take out' ? { ...ws.asker, archived: new Set<string>() } : ws.asker;
    mustSee(ws.with({ needs: 'manage', asker }), change.project, 'project');
    const row = await ws.db.selectFrom('projects').selectAll().where('id', '=', change.project).executeTakeFirstOrThrow();
    if (change.do === 'rename') await mustBeFree(ws, change.name, change.project);
    await ws.db.updateTable('projects').set(columnsOf(change)).where('id', '=', change.project).execute();
    return { project: row.id, before: { name: row.name, country: row.country, workingDays: row.working_days, archived: row.archived_at !== null } };
  });
}

function columnsOf(change: Exclude<ProjectChange, { do: 'begin' }>) {
  switch (change.do) {
    case 'rename':
      return { name: change.name };
    case 'settle':
      return { country: change.country, working_days: change.workingDays };
    case 'archive':
      return { archived_at: new Date().toISOString() };
    default:
      return { archived_at: null };
  }
}

/** Two projects that somebody sees cannot have the same name. */
async function mustBeFree(ws: Workspace, name: string, own: string): Promise<void> {
  const named = await ws.db
    .selectFrom('projects')
    .select(['id', 'name'])
    .where('id', 'in', [...ws.asker.projects, ''])
    .execute();
  if (named.some((p) => p.id !== own && p.name.toLowerCase() === name.toLowerCase())) throw new Refusal('conflict', `There is a project “${name}” already.`, 'Choose another name.');
}
