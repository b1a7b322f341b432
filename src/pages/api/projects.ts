import { changeProject, ProjectChangeSchema } from '../../server/people/beginning.ts';
import { endpoint } from '../../server/web/requests.ts';

const A_YEAR = 31_536_000;

/** Begins a project, which is looked at from then on, or gives one another name. */
export const POST = endpoint(ProjectChangeSchema, async ({ ws, body, context }) => {
  const changed = await changeProject(ws, body);
  context.cookies.set('project', changed.project, { path: '/', maxAge: A_YEAR, sameSite: 'lax' });
  return changed;
});
