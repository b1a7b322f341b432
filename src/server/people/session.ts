import type { APIContext } from 'astro';
import { Refusal } from '../refusal.ts';
import { type Db, database } from '../store/database.ts';
import { inSight } from './out-of-sight.ts';
import { ownerOf } from './owner.ts';
import { projectsOf } from './projects.ts';
import { isDemo, mustSignIn, signedInAs } from './signing-in.ts';
import { type Workspace, workspaceOf } from './workspace.ts';

type Asked = Pick<APIContext, 'cookies'> & { request?: Request };

/** The person a request comes from; null where it has to be signed in and is not. */
export async function whoAsks(context: Asked, given?: Db): Promise<string | null> {
  const db = given ?? (await database());
  if (process.env.OTTIK_PERSON) return process.env.OTTIK_PERSON;
  if (await mustSignIn(db)) return context.request ? signedInAs(db, context.request.headers) : null;
  const steppedInto = isDemo() ? context.cookies.get('person')?.value : undefined;
  return (steppedInto && (await hasAccount(db, steppedInto)) ? steppedInto : await ownerOf(db)) ?? '';
}

const hasAccount = async (db: Db, person: string) => (await db.selectFrom('people').select('id').where('id', '=', person).where('account', '=', 1).executeTakeFirst()) !== undefined;

/**
 * Whoever a request comes from, with the project they look at: the one of the cookie, or the first one.
 * On one's own machine that may be the person this Ottik was set up for; `OTTIK_PERSON` names another, for tests.
 */
export async function workspace(context: Asked): Promise<Workspace> {
  const person = await whoAsks(context);
  if (person === null) throw new Refusal('signed-out', 'You are signed out.', 'Sign in again; what you typed is still here.');
  const ws = await inSight(await workspaceOf(await database(), person));
  return lookedAt(ws, context.cookies.get('project')?.value);
}

/** With the project that is wanted, or the first one where that is none of theirs. */
export async function lookedAt(ws: Workspace, wanted: string | undefined): Promise<Workspace> {
  if (wanted !== undefined && ws.asker.projects.has(wanted)) return ws.with({ project: wanted });
  const [first] = await projectsOf(ws);
  return ws.with({ project: first?.id ?? '' });
}
