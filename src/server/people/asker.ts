import type { Role } from '../../core/people/rights.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { ownerOf } from './owner.ts';

/** Whoever asks. */
export interface Asker {
  person: string;
  name: string;
  mail: string | null;
  /** IANA name of the time zone they are in */
  zone: string;
  /** projects this person may see; decided here and nowhere else */
  projects: ReadonlySet<string>;
  /** what they are in each of them */
  roles: ReadonlyMap<string, Role>;
}

/** Looks a person up and works out what they may see: the projects they are a member of. */
export async function askerFor(db: Db, person: string): Promise<Asker> {
  const row = await db.selectFrom('people').select(['id', 'name', 'mail', 'zone', 'account']).where('id', '=', person).executeTakeFirst();
  if (!row?.account) throw new Refusal('not-found', 'There is no such account.');
  const owns = (await ownerOf(db)) === person;
  const rows = await db.selectFrom('memberships').select(['project_id', 'access']).where('person_id', '=', person).where('sees', '=', 1).execute();
  return { person: row.id, name: row.name, mail: row.mail, zone: row.zone, projects: new Set(rows.map((r) => r.project_id)), roles: new Map(rows.map((r) => [r.project_id, owns ? 'manager' : r.access])) };
}
