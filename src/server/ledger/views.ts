import { z } from 'zod';
import { COLUMNS, type Column, GROUPINGS, readColumns, readGrouping } from '../../core/ledger/look.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';

export const ViewSchema = z.object({ name: z.string().trim().min(1, 'needs a name').max(60), query: z.string().max(500), grouping: z.enum(GROUPINGS), columns: z.array(z.enum(COLUMNS)).min(1).max(COLUMNS.length).nullable().default(null) });

/** A way of looking at the Ledger that somebody keeps under a name; columns are null where it says nothing of them. */
export type SavedView = Omit<z.infer<typeof ViewSchema>, 'columns'> & { id: number; columns: Column[] | null };

/** The views of the Ledger somebody has saved, by name. */
export async function viewsOf(ws: Workspace, project: string): Promise<SavedView[]> {
  mustSee(ws, project, 'project');
  const rows = await ws.db.selectFrom('ledger_views').select(['id', 'name', 'query', 'grouping', 'columns']).where('project_id', '=', project).where('person_id', '=', ws.asker.person).orderBy('name').execute();
  return rows.map((r) => ({ ...r, grouping: readGrouping(r.grouping, 'due'), columns: readColumns(r.columns) }));
}

/** Saves a view; the same name again replaces it. */
export async function saveView(ws: Workspace, project: string, view: z.input<typeof ViewSchema>): Promise<SavedView[]> {
  mustSee(ws, project, 'project');
  const columns = view.columns?.join(' ') ?? null;
  await ws.db
    .insertInto('ledger_views')
    .values({ project_id: project, person_id: ws.asker.person, ...view, columns })
    .onConflict((c) => c.columns(['project_id', 'person_id', 'name']).doUpdateSet({ query: view.query, grouping: view.grouping, columns }))
    .execute();
  return viewsOf(ws, project);
}

export async function dropView(ws: Workspace, project: string, id: number): Promise<SavedView[]> {
  await ws.db.deleteFrom('ledger_views').where('id', '=', id).where('person_id', '=', ws.asker.person).where('project_id', '=', project).execute();
  return viewsOf(ws, project);
}
