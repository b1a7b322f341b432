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
  // somebody who went with what they were made for comes back as who they were
  const earlier = (
    await db
      .selectFrom('people as p')
      .select(['p.id', 'p.name'])
      .where(({ not, exists, selectFrom }) => not(exists(selectFrom('memberships as m').select('m.person_id').whereRef('m.person_id', '=', 'p.id'))))
      .execute()
  ).find((p) => p.name.toLowerCase() === clean.toLowerCase());
  if (earlier) {
    await db.insertInto('memberships').values({ project_id: project, person_id: earlier.id, sees: 0 }).execute();
    return earlier.id;
  }
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

/**
 * Forgets people who were made with something that was taken back, where nothing else knows of them: no commitment, letter,
 * meeting or event, no address and no role. Gives those who are gone, with their names.
 * @param undone the event that was taken back
 */
export async function forgetUnused(db: Db, project: string, ids: readonly string[], undone: number): Promise<Map<string, string>> {
  const gone = new Map<string, string>();
  for (const id of ids) {
    const person = await db.selectFrom('people').select(['name', 'mail', 'role', 'organisation', 'account']).where('id', '=', id).executeTakeFirst();
    if (!person || person.mail || person.role || person.organisation || person.account) continue;
    const named = await db
      .selectFrom('events')
      .select('id')
      .where('id', '!=', undone)
      .where('kind', '!=', 'undone')
      .where('data', 'like', `%${JSON.stringify(id)}%`)
      .executeTakeFirst();
    const [holds, met, invited, written, answered, speaks, elsewhere] = await Promise.all([
      db.selectFrom('commitment_owners as o').innerJoin('commitments as c', 'c.id', 'o.commitment_id').select('o.person_id').where('o.person_id', '=', id).where('c.state', '!=', 'withdrawn').executeTakeFirst(),
      db.selectFrom('attendance').select('person_id').where('person_id', '=', id).executeTakeFirst(),
      db.selectFrom('series_people').select('person_id').where('person_id', '=', id).executeTakeFirst(),
      db.selectFrom('letter_recipients').select('id').where('person_id', '=', id).executeTakeFirst(),
      db.selectFrom('replies').select('id').where('person_id', '=', id).executeTakeFirst(),
      db
        .selectFrom('records')
        .select('id')
        .where('voices', 'like', `%${JSON.stringify(id)}%`)
        .executeTakeFirst(),
      db.selectFrom('memberships').select('project_id').where('person_id', '=', id).where('project_id', '!=', project).executeTakeFirst(),
    ]);
    if (named || holds || met || invited || written || answered || speaks || elsewhere) continue;
    // what was taken back still names them in its history; without a project they are on no page
    await db.deleteFrom('memberships').where('person_id', '=', id).execute();
    gone.set(id, person.name);
  }
  return gone;
}
