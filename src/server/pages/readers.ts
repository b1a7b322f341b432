import { ownerOf } from '../people/owner.ts';
import { projectsOf } from '../people/projects.ts';
import type { Workspace } from '../people/workspace.ts';
import { modelShown } from '../sift/model-reader/setup.ts';
import { lastModelReadings } from '../sift/model-reading.ts';
import { closeReaderState } from '../sift/run.ts';

/** Which readers there are, how each stands, and how the model reader's last readings went. */
export async function readersPage(ws: Workspace) {
  const on = new Set((await ws.db.selectFrom('projects').select('id').where('model_reader', '=', 1).execute()).map((p) => p.id));
  return {
    mayChange: (await ownerOf(ws.db)) === ws.asker.person,
    close: closeReaderState(),
    model: await modelShown(ws.db),
    projects: (await projectsOf(ws)).map((p) => ({ id: p.id, name: p.name, on: on.has(p.id) })),
    readings: await lastModelReadings(ws),
    today: ws.today,
  };
}
export type Readers = Awaited<ReturnType<typeof readersPage>>;
