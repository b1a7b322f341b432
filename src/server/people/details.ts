import { sql } from 'kysely';
import { z } from 'zod';
import { isWorkingDays } from '../../core/dates/working-days.ts';
import type { Listed } from '../../core/language/listed.ts';
import { readPeopleList } from '../../core/language/people-list.ts';
import { LANGUAGES } from '../../core/letters/kinds.ts';
import { ReaderWishesSchema } from '../../core/letters/rules.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { idFrom } from './ids.ts';
import { addPerson, peopleOf, usesOf } from './people.ts';
import type { Workspace } from './workspace.ts';
import { mustSee, visible } from './workspace.ts';

export const PersonName = z
  .string()
  .transform((s) => s.replace(/\s+/g, ' ').trim())
  .pipe(z.string().min(2, 'needs first name and surname').max(120).regex(/\p{L}/u, 'needs letters'));

/** A mail address, or nothing. */
export const MailSchema = z
  .string()
  .trim()
  .max(254)
  .nullable()
  .transform((s) => s || null)
  .refine((s) => s === null || z.email().safeParse(s).success, 'That is not a mail address. Type one like bram@example.org.');

export const WorkingDaysSchema = z.string().refine(isWorkingDays, 'That is not a list of weekdays.');

const Short = z.string().trim().max(120);

/** What an entry says of a person. Other names are those they are called by in records. */
export const DetailsSchema = z.object({ name: PersonName, aliases: z.array(Short.min(1)).max(20), role: Short, organisation: Short, mail: MailSchema, language: z.enum(LANGUAGES), zone: ReaderWishesSchema.shape.zone, country: ReaderWishesSchema.shape.country, workingDays: WorkingDaysSchema.nullable() });
export type Details = z.infer<typeof DetailsSchema>;

const Filled = z.object({ mail: z.string().max(254).nullable(), role: z.string().max(120), organisation: z.string().max(120) });
/** What adding a list did, which can be taken back: who is new, and what was filled in of whom. */
const AddedSchema = z.object({ added: z.array(z.string().max(140)).max(20_000), filled: z.array(z.object({ id: z.string().max(140), before: Filled, after: Filled })).max(20_000) });
export type Added = z.infer<typeof AddedSchema>;

export const ListSchema = z.discriminatedUnion('do', [z.object({ do: z.literal('read'), text: z.string().max(2_000_000) }), z.object({ do: z.literal('add'), text: z.string().max(2_000_000) }), z.object({ do: z.literal('take back'), ...AddedSchema.shape })]);

/** An id for somebody new. */
export const newPersonId = (tx: Db, name: string): Promise<string> => idFrom(name, 'person', async (id) => (await tx.selectFrom('people').select('id').where('id', '=', id).executeTakeFirst()) !== undefined);

/** What is kept of a person of a project. */
export async function detailsOf(ws: Workspace, project: string, id: string): Promise<Details> {
  mustSee(ws, project, 'project');
  const row = await ws.db
    .selectFrom('people as p')
    .innerJoin('memberships as m', 'm.person_id', 'p.id')
    .select(['p.name', 'p.aliases', 'p.role', 'p.organisation', 'p.mail', 'p.language', 'p.zone', 'p.country', 'p.working_days as workingDays'])
    .where('m.project_id', '=', project)
    .where('p.id', '=', id)
    .executeTakeFirst();
  if (!row) throw new Refusal('not-found', 'There is no such person in this project.');
  return { ...row, aliases: CODECS.aliases.read(row.aliases), language: z.enum(LANGUAGES).catch('en').parse(row.language) };
}

/** Changes what an entry says. Gives what it said before, so that it can be put back. */
export async function changeDetails(ws: Workspace, project: string, id: string, to: Details): Promise<{ before: Details }> {
  return ws.transaction(async (ws) => {
    const before = await detailsOf(ws, project, id);
    const { account } = await ws.db.selectFrom('people').select('account').where('id', '=', id).executeTakeFirstOrThrow();
    // whoever signs in says themselves where they are written to, or a manager does
    if (account && id !== ws.asker.person) mustSee(ws.with({ needs: 'manage' }), project, 'project');
    await mustBeNobodyElses(ws, to.mail, id);
    const { aliases, workingDays, ...plain } = to;
    await ws.db
      .updateTable('people')
      // what came back from another address says nothing of this one
      .set({ ...plain, working_days: workingDays, aliases: CODECS.aliases.write([...new Set(aliases)]), ...(to.mail === before.mail ? {} : { bounced: null }) })
      .where('id', '=', id)
      .execute();
    return { before };
  });
}

async function mustBeNobodyElses(ws: Workspace, mail: string | null, id: string | null): Promise<void> {
  if (!mail) return;
  const other = await ws.db
    .selectFrom('people')
    .select(['id', 'name'])
    .where(sql<boolean>`lower(mail) = ${mail.toLowerCase()}`)
    .where('id', '!=', id ?? '')
    .executeTakeFirst();
  if (!other) return;
  const seen = await ws.db.selectFrom('memberships').select('person_id').where('person_id', '=', other.id).where('project_id', 'in', visible(ws)).executeTakeFirst();
  throw new Refusal('conflict', `${mail} is the address of ${seen ? other.name : 'somebody else'}.`, seen ? 'If they are the same person, merge the two entries.' : 'Check the address.');
}

/** A line of a pasted list, with whom it means where they are known. */
export interface ListedPerson extends Listed {
  known: string | null;
}

/** Reads a pasted list of people and tells who of them is known. Nothing is kept. */
export async function readList(ws: Workspace, project: string, text: string): Promise<{ people: ListedPerson[]; wrong: { line: number; why: string }[] }> {
  const everybody = await peopleOf(ws, project);
  const { people, wrong } = readPeopleList(text);
  const known = (l: Listed) => everybody.find((p) => (l.mail !== null && p.mail?.toLowerCase() === l.mail.toLowerCase()) || p.name.toLowerCase() === l.name.toLowerCase())?.name ?? null;
  return { people: people.map((l) => ({ ...l, known: known(l) })), wrong };
}

/** Adds the people of a pasted list; of those who are known only what was missing is filled in. */
export async function addList(ws: Workspace, project: string, text: string): Promise<Added> {
  return ws.transaction(async (ws) => {
    const { people } = await readList(ws, project, text);
    if (people.length === 0) throw new Refusal('bad-input', 'There is nobody in this list.', 'Type one person a line: Bram Osei <bram@example.org>, welder, Marrow Sound.');
    const added: string[] = [];
    const filled: Added['filled'] = [];
    for (const l of people) {
      const id = l.known === null ? await addPerson(ws, project, l.name) : (await peopleOf(ws, project)).find((p) => p.name === l.known)!.id;
      const now = await detailsOf(ws, project, id);
      const to = { mail: now.mail ?? l.mail, role: now.role || l.role, organisation: now.organisation || l.organisation };
      if (to.mail !== now.mail) await mustBeNobodyElses(ws, to.mail, id);
      await ws.db.updateTable('people').set(to).where('id', '=', id).execute();
      if (l.known === null) added.push(id);
      else if (to.mail !== now.mail || to.role !== now.role || to.organisation !== now.organisation) filled.push({ id, before: { mail: now.mail, role: now.role, organisation: now.organisation }, after: to });
    }
    return { added, filled };
  });
}

/** Takes the adding of a list back. Whoever has something to do with the project since stays, and is named. */
export async function takeListBack(ws: Workspace, project: string, { added, filled }: Added): Promise<{ stay: string[] }> {
  mustSee(ws, project, 'project');
  return ws.transaction(async (ws) => {
    const stay: string[] = [];
    for (const id of added) {
      const person = await ws.db.selectFrom('people as p').innerJoin('memberships as m', 'm.person_id', 'p.id').select(['p.name', 'p.account']).where('p.id', '=', id).where('m.project_id', '=', project).executeTakeFirst();
      if (!person) continue;
      if (person.account || (await usesOf(ws.db, project, id)).length) stay.push(person.name);
      else await ws.db.deleteFrom('memberships').where('project_id', '=', project).where('person_id', '=', id).execute();
    }
    for (const { id, before, after } of filled) {
      const now = await detailsOf(ws, project, id).catch(() => null);
      // what somebody has changed since is theirs
      if (!now) continue;
      const back = { mail: now.mail === after.mail ? before.mail : now.mail, role: now.role === after.role ? before.role : now.role, organisation: now.organisation === after.organisation ? before.organisation : now.organisation };
      await ws.db.updateTable('people').set(back).where('id', '=', id).execute();
    }
    return { stay };
  });
}
