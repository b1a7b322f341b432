import type { Person } from '../core/language/people.ts';
import { type Asker, mustSee } from './asker.ts';
import type { Db } from './database.ts';
import { Refusal } from './refusal.ts';

export interface ProjectPerson extends Person {
  mail: string | null;
  organisation: string;
}

/** Somebody who can be chosen as an owner or named as a voice. */
export interface Choice {
  id: string;
  name: string;
  aliases: string[];
  /** who looks at the page */
  me: boolean;
  role: string;
  organisation: string;
}

/** People as a page offers them. */
export const choicesOf = (people: readonly ProjectPerson[], asker: Asker): Choice[] => people.map((p) => ({ id: p.id, name: p.name, aliases: p.aliases, me: p.id === asker.person, role: p.role, organisation: p.organisation }));

/** Everybody of a project, members and people outside, by name. */
export async function peopleOf(asker: Asker, db: Db, project: string): Promise<ProjectPerson[]> {
  mustSee(asker, project, 'project');
  const rows = await db.selectFrom('people').innerJoin('memberships', 'memberships.person_id', 'people.id').select(['id', 'name', 'aliases', 'role', 'mail', 'organisation']).where('project_id', '=', project).orderBy('name').execute();
  return rows.map((r) => ({ ...r, aliases: JSON.parse(r.aliases) as string[] }));
}

/** Adds somebody by name; the same name twice is one person. Gives the id. */
export async function addPerson(asker: Asker, db: Db, project: string, name: string): Promise<string> {
  mustSee(asker, project, 'project');
  const clean = name.replace(/\s+/g, ' ').trim();
  if (clean.length < 2 || clean.length > 120 || !/\p{L}/u.test(clean)) throw new Refusal('bad-input', `“${clean}” is not a name.`, 'Type first name and surname.');
  const known = (await peopleOf(asker, db, project)).find((p) => p.name.toLowerCase() === clean.toLowerCase());
  if (known) return known.id;
  const stem =
    clean
      .normalize('NFD')
      .replace(/\p{M}/gu, '')
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'person';
  let id = stem;
  for (let n = 2; await db.selectFrom('people').select('id').where('id', '=', id).executeTakeFirst(); n++) id = `${stem}-${n}`;
  await db.insertInto('people').values({ id, name: clean, aliases: '[]', role: '', mail: null, organisation: '', account: 0 }).execute();
  await db.insertInto('memberships').values({ project_id: project, person_id: id, sees: 0 }).execute();
  return id;
}
