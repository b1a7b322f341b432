import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';

/** Whoever asks. Every query and every change takes one as its first argument. */
export interface Asker {
  person: string;
  name: string;
  mail: string | null;
  /** projects this person may see and change; decided here and nowhere else */
  projects: ReadonlySet<string>;
}

/** Looks a person up and works out what they may see: the projects they are a member of. */
export async function askerFor(db: Db, person: string): Promise<Asker> {
  const row = await db.selectFrom('people').select(['id', 'name', 'mail', 'account']).where('id', '=', person).executeTakeFirst();
  if (!row?.account) throw new Refusal('not-found', 'There is no such account.');
  const rows = await db.selectFrom('memberships').select('project_id').where('person_id', '=', person).where('sees', '=', 1).execute();
  return { person: row.id, name: row.name, mail: row.mail, projects: new Set(rows.map((r) => r.project_id)) };
}

/** What a person may not see is answered like what does not exist, so that nothing leaks. */
export function mustSee(asker: Asker, project: string | undefined, what: string): asserts project is string {
  if (project === undefined || !asker.projects.has(project)) throw new Refusal('not-found', `There is no such ${what}.`);
}

/** Project ids for a `where … in`, never empty. */
export function visible(asker: Asker): string[] {
  return asker.projects.size ? [...asker.projects] : [''];
}
