import { lettersWanted, rulesOf } from '../letters/rules.ts';
import { templateOf } from '../letters/templates.ts';
import type { Workspace } from '../people/workspace.ts';

/** The rules of a project's letter plan, and how its people want to be written to. */
export async function rulesPage(ws: Workspace) {
  const people = await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.id', 'p.name', 'p.mail', 'p.language', 'p.zone', 'p.country']).where('m.project_id', '=', ws.project).orderBy('p.name').execute();
  const wanted = await lettersWanted(ws.db, ws.project);
  const row = await ws.db.selectFrom('projects').select('chat_url').where('id', '=', ws.project).executeTakeFirst();
  return { rules: await rulesOf(ws.db, ws.project), channel: row?.chat_url ?? '', me: ws.asker.person, people: people.map((p) => ({ id: p.id, name: p.name, mail: p.mail, wishes: { letters: wanted(p.id), language: p.language as 'en', zone: p.zone, country: p.country } })) };
}

/** The wording letters start with; the page asks for others. */
export async function wordingPage({ db, project }: Workspace) {
  const series = await db.selectFrom('series').select(['id', 'title']).where('project_id', '=', project).orderBy('title').execute();
  return { series, start: await templateOf(db, project, null, 'overdue', 'en') };
}
