import type { Db } from '../store/database.ts';
import { type Asker, visible } from './asker.ts';

export interface ProjectRow {
  id: string;
  name: string;
  startedOn: string;
}

/** Projects somebody may see, by name. */
export async function projectsOf(asker: Asker, db: Db): Promise<ProjectRow[]> {
  const rows = await db.selectFrom('projects').selectAll().where('id', 'in', visible(asker)).orderBy('name').execute();
  return rows.map((r) => ({ id: r.id, name: r.name, startedOn: r.started_on }));
}
