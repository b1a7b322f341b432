import type { Workspace } from './workspace.ts';
import { visible } from './workspace.ts';

export interface ProjectRow {
  id: string;
  name: string;
  startedOn: string;
  archived: boolean;
}

/** Projects somebody may see: those they work in first, archived ones last, by name. */
export async function projectsOf(ws: Workspace): Promise<ProjectRow[]> {
  const rows = await ws.db.selectFrom('projects').selectAll().where('id', 'in', visible(ws)).orderBy('name').execute();
  const last = (r: ProjectRow) => (r.archived ? 2 : ws.asker.roles.get(r.id) === 'guest' ? 1 : 0);
  return rows.map((r) => ({ id: r.id, name: r.name, startedOn: r.started_on, archived: r.archived_at !== null })).sort((a, b) => last(a) - last(b));
}
