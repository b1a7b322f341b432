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
  /** those of them in which nothing is done any more */
  archived: ReadonlySet<string>;
}

/**
 * Looks a person up and works out what they may see: the projects they are a member of, and, where they work in one of
 * them, as guests also those that have opened a meeting to everybody who works here.
 */
export async function askerFor(db: Db, person: string): Promise<Asker> {
  const row = await db.selectFrom('people').select(['id', 'name', 'mail', 'zone', 'account']).where('id', '=', person).executeTakeFirst();
  if (!row?.account) throw new Refusal('not-found', 'There is no such account.');
  const owns = (await ownerOf(db)) === person;
  const rows = await db.selectFrom('memberships').select(['project_id', 'access']).where('person_id', '=', person).where('sees', '=', 1).execute();
  const roles = new Map<string, Role>(rows.map((r) => [r.project_id, owns ? 'manager' : r.access]));
  if (worksHere(roles)) for (const { project_id } of await db.selectFrom('meetings').select('project_id').distinct().where('visibility', '=', 'workspace').execute()) if (!roles.has(project_id)) roles.set(project_id, 'guest');
  const archived = await db.selectFrom('projects').select('id').where('archived_at', 'is not', null).execute();
  return { person: row.id, name: row.name, mail: row.mail, zone: row.zone, projects: new Set(roles.keys()), roles, archived: new Set(archived.map((p) => p.id)) };
}

/** Whether somebody is more than a guest in some project here. */
export const worksHere = (roles: ReadonlyMap<string, Role>): boolean => [...roles.values()].some((role) => role !== 'guest');
