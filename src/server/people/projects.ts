import type { Workspace } from './workspace.ts';
import { visible } from './workspace.ts';

export interface ProjectRow {
  id: string;
  name: string;
  startedOn: string;
}

/** Projects somebody may see, by name. */
export async function projectsOf(ws: Workspace): Promise<ProjectRow[]> {
  const rows = await ws.db.selectFrom('projects').selectAll().where('id', 'in', visible(ws)).orderBy('name').execute();
  return rows.map((r) => ({ id: r.id, name: r.name, startedOn: r.started_on }));
}
