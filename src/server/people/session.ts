import type { APIContext } from 'astro';
import { database } from '../store/database.ts';
import { ownerOf } from './first-run.ts';
import { projectsOf } from './projects.ts';
import { type Workspace, workspaceOf } from './workspace.ts';

/**
 * Whoever a request comes from, with the project they look at: the one of the cookie, or the first one.
 * Until there are several accounts it is the person this Ottik was set up for, or another that `OTTIK_PERSON` names.
 */
export async function workspace(context: Pick<APIContext, 'cookies'>): Promise<Workspace> {
  const db = await database();
  const ws = await workspaceOf(db, process.env.OTTIK_PERSON ?? (await ownerOf(db)) ?? '');
  return lookedAt(ws, context.cookies.get('project')?.value);
}

/** With the project that is wanted, or the first one where that is none of theirs. */
export async function lookedAt(ws: Workspace, wanted: string | undefined): Promise<Workspace> {
  if (wanted !== undefined && ws.asker.projects.has(wanted)) return ws.with({ project: wanted });
  const [first] = await projectsOf(ws);
  return ws.with({ project: first?.id ?? '' });
}
