import type { APIContext } from 'astro';
import { type Db, database } from '../store/database.ts';
import { type Asker, askerFor } from './asker.ts';
import { ownerOf } from './first-run.ts';
import { projectsOf } from './projects.ts';

/** Who asks. Until there are several accounts it is the person this Ottik was set up for, or another that `OTTIK_PERSON` names. */
export async function session(): Promise<{ db: Db; asker: Asker }> {
  const db = await database();
  return { db, asker: await askerFor(db, process.env.OTTIK_PERSON ?? (await ownerOf(db)) ?? '') };
}

/** The project that is being looked at: the one of the cookie, or the first one. */
export async function currentProject(context: Pick<APIContext, 'cookies'>, asker: Asker, db: Db): Promise<{ current: string; all: { id: string; name: string }[] }> {
  const all = await projectsOf(asker, db);
  const wanted = context.cookies.get('project')?.value;
  return { current: all.find((p) => p.id === wanted)?.id ?? all[0]?.id ?? '', all };
}
