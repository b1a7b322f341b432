import { z } from 'zod';
import { type Asker, mustSee } from './asker.ts';
import type { Db } from './database.ts';

export const ViewSchema = z.object({ name: z.string().trim().min(1, 'needs a name').max(60), query: z.string().max(500), grouping: z.enum(['due', 'owner', 'series', 'state']) });
export type SavedView = z.infer<typeof ViewSchema> & { id: number };

/** The views of the Ledger somebody has saved, by name. */
export async function viewsOf(asker: Asker, db: Db, project: string): Promise<SavedView[]> {
  mustSee(asker, project, 'project');
  const rows = await db.selectFrom('ledger_views').select(['id', 'name', 'query', 'grouping']).where('project_id', '=', project).where('person_id', '=', asker.person).orderBy('name').execute();
  return rows.map((r) => ({ ...r, grouping: r.grouping as SavedView['grouping'] }));
}

/** Saves a view; the same name again replaces it. */
export async function saveView(asker: Asker, db: Db, project: string, view: z.infer<typeof ViewSchema>): Promise<SavedView[]> {
  mustSee(asker, project, 'project');
  await db
    .insertInto('ledger_views')
    .values({ project_id: project, person_id: asker.person, ...view })
    .onConflict((c) => c.columns(['project_id', 'person_id', 'name']).doUpdateSet({ query: view.query, grouping: view.grouping }))
    .execute();
  return viewsOf(asker, db, project);
}

export async function dropView(asker: Asker, db: Db, project: string, id: number): Promise<SavedView[]> {
  await db.deleteFrom('ledger_views').where('id', '=', id).where('person_id', '=', asker.person).where('project_id', '=', project).execute();
  return viewsOf(asker, db, project);
}
