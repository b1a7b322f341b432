import type { Person } from '../../core/language/people.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import type { Asker } from './asker.ts';
import { idFrom } from './ids.ts';
import type { Workspace } from './workspace.ts';
import { mustSee } from './workspace.ts';

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
export async function peopleOf(ws: Workspace, project: string): Promise<ProjectPerson[]> {
  mustSee(ws, project, 'project');
  const rows = await ws.db.selectFrom('people').innerJoin('memberships', 'memberships.person_id', 'people.id').select(['id', 'name', 'aliases', 'role', 'mail', 'organisation']).where('project_id', '=', project).orderBy('name').execute();
  return rows.map((r) => ({ ...r, aliases: CODECS.aliases.read(r.aliases) }));
}

/** Refuses ids of people who have nothing to do with a project: those of another one, and those of nobody. */
export async function mustBeOfProject(db: Db, project: string, ids: readonly string[]): Promise<void> {
  const asked = [...new Set(ids)];
  if (asked.length === 0) return;
  const rows = await db.selectFrom('memberships').select('person_id').where('project_id', '=', project).where('person_id', 'in', asked).execute();
  const stranger = asked.find((id) => !rows.some((r) => r.person_id === id));
  if (stranger !== undefined) throw new Refusal('bad-input', `Nobody here is called “${stranger.slice(0, 140)}”.`, 'Choose somebody from the list, or add the person first.');
}

/** Adds somebody by name; the same name twice is one person. Gives the id. */
export async function addPerson(ws: Workspace, project: string, name: string): Promise<string> {
  mustSee(ws, project, 'project');
  const clean = name.replace(/\s+/g, ' ').trim();
  if (clean.length < 2 || clean.length > 120 || !/\p{L}/u.test(clean)) throw new Refusal('bad-input', `“${clean}” is not a name.`, 'Type first name and surname.');
  const everybody = await peopleOf(ws, project);
  const called = (name: string) => name.toLowerCase() === clean.toLowerCase();
  // by their own name first; the name of an entry that was merged leads to who was kept
  const known = everybody.find((p) => called(p.name)) ?? everybody.find((p) => p.aliases.some((a) => a.includes(' ') && called(a)));
  if (known) return known.id;
  // somebody who went with what they were made for comes back as who they were
  const earlier = (
    await ws.db
      .selectFrom('people as p')
      .select(['p.id', 'p.name'])
      .where(({ not, exists, selectFrom }) => not(exists(selectFrom('memberships as m').select('m.person_id').whereRef('m.person_id', '=', 'p.id'))))
      .where(({ not, exists, selectFrom }) => not(exists(selectFrom('people_merges as g').select('g.id').whereRef('g.gone', '=', 'p.id').where('g.undone_at', 'is', null))))
      .execute()
  ).find((p) => called(p.name));
  if (earlier) {
    await ws.db.insertInto('memberships').values({ project_id: project, person_id: earlier.id, sees: 0 }).execute();
    return earlier.id;
  }
  const id = await idFrom(clean, 'person', async (wanted) => (await ws.db.selectFrom('people').select('id').where('id', '=', wanted).executeTakeFirst()) !== undefined);
  await ws.db.insertInto('people').values({ id, name: clean, aliases: '[]', role: '', mail: null, organisation: '', account: 0 }).execute();
  await ws.db.insertInto('memberships').values({ project_id: project, person_id: id, sees: 0 }).execute();
  return id;
}

/** Somebody is called by another name too. */
export async function callToo(tx: Db, person: string, called: string): Promise<void> {
  const row = await tx.selectFrom('people').select(['name', 'aliases']).where('id', '=', person).executeTakeFirstOrThrow();
  const aliases = CODECS.aliases.read(row.aliases);
  if ([row.name, ...aliases].some((n) => n.toLowerCase() === called.toLowerCase())) return;
  await tx
    .updateTable('people')
    .set({ aliases: CODECS.aliases.write([...aliases, called]) })
    .where('id', '=', person)
    .execute();
}

/** Entries that were merged with another and are read as that one, by id. */
export async function samePeople(db: Db): Promise<(id: string) => string> {
  const merges = await db.selectFrom('people_merges').select(['gone', 'kept']).where('undone_at', 'is', null).orderBy('id').execute();
  const into = new Map(merges.map((m) => [m.gone, m.kept]));
  return (id) => {
    let at = id;
    // merged into somebody who was merged again; a circle cannot be, since who is gone is on no project
    for (let n = 0; into.has(at) && n <= into.size; n++) at = into.get(at)!;
    return at;
  };
}

/**
 * What somebody has to do with a project, in words: what they hold, where they were, what they wrote.
 * @param except an event that does not count, since it is being taken back
 */
export async function usesOf(db: Db, project: string, id: string, except: number | null = null): Promise<string[]> {
  const named = JSON.stringify(id);
  const [held, events, met, series, letters, replies, records] = await Promise.all([
    db.selectFrom('commitment_owners as o').innerJoin('commitments as c', 'c.id', 'o.commitment_id').select('c.number').where('o.person_id', '=', id).where('c.project_id', '=', project).where('c.state', '!=', 'withdrawn').orderBy('c.number').execute(),
    db
      .selectFrom('events as e')
      .innerJoin('commitments as c', 'c.id', 'e.commitment_id')
      .select('e.id')
      .where('c.project_id', '=', project)
      .where('e.id', '!=', except ?? -1)
      .where('e.kind', '!=', 'undone')
      .where((eb) => eb.or([eb('e.data', 'like', `%${named}%`), eb('e.by_person', '=', id)]))
      .execute(),
    db.selectFrom('attendance as a').innerJoin('meetings as m', 'm.id', 'a.meeting_id').select('m.id').where('m.project_id', '=', project).where('a.person_id', '=', id).execute(),
    db.selectFrom('series_people as s').innerJoin('series', 'series.id', 's.series_id').select('series.id').where('series.project_id', '=', project).where('s.person_id', '=', id).execute(),
    db.selectFrom('letter_recipients as r').innerJoin('letters as l', 'l.id', 'r.letter_id').select('r.id').where('l.project_id', '=', project).where('r.person_id', '=', id).execute(),
    db.selectFrom('replies').select('id').where('project_id', '=', project).where('person_id', '=', id).execute(),
    db.selectFrom('records as r').innerJoin('meetings as m', 'm.id', 'r.meeting_id').select('r.id').where('m.project_id', '=', project).where('r.voices', 'like', `%${named}%`).execute(),
  ]);
  const holds = held.map((c) => `C-${c.number}`);
  const times = (n: number, one: string, many: string) => (n === 0 ? null : n === 1 ? one : many.replace('#', `${n}`));
  return [
    holds.length ? `holds ${holds.slice(0, 6).join(', ')}${holds.length > 6 ? ` and ${holds.length - 6} more` : ''}` : null,
    holds.length ? null : times(events.length, 'stands on a trail', 'stands on # lines of trails'),
    times(met.length, 'was asked to a meeting', 'was asked to # meetings'),
    times(series.length, 'belongs to a series', 'belongs to # series'),
    times(letters.length, 'had a letter', 'had # letters'),
    times(replies.length, 'wrote once', 'wrote # times'),
    times(records.length, 'speaks in a record', 'speaks in # records'),
  ].filter((w) => w !== null);
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
    const elsewhere = await db.selectFrom('memberships').select('project_id').where('person_id', '=', id).where('project_id', '!=', project).executeTakeFirst();
    if (elsewhere || (await usesOf(db, project, id, undone)).length) continue;
    // what was taken back still names them in its history; without a project they are on no page
    await db.deleteFrom('memberships').where('person_id', '=', id).execute();
    gone.set(id, person.name);
  }
  return gone;
}
