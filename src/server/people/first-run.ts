import { z } from 'zod';
import { ReaderWishesSchema } from '../../core/letters/rules.ts';
import { Refusal } from '../refusal.ts';
import type { Db } from '../store/database.ts';
import { inTransaction } from '../store/transactions.ts';
import { beginProject, ProjectName } from './beginning.ts';
import { MailSchema, newPersonId, PersonName } from './details.ts';

/** The setting that names whoever this Ottik was set up for. */
const OWNER = 'owner';

/** What a new Ottik asks for before anything else. */
export const BeginSchema = z.object({ name: PersonName, mail: MailSchema, zone: ReaderWishesSchema.shape.zone, country: ReaderWishesSchema.shape.country, project: ProjectName });

/** Who this Ottik was set up for: the person it acts for until there are several accounts. Null before its first run. */
export async function ownerOf(db: Db): Promise<string | null> {
  const set = await db.selectFrom('settings as s').innerJoin('people as p', 'p.id', 's.value').select('p.id').where('s.name', '=', OWNER).where('p.account', '=', 1).executeTakeFirst();
  if (set) return set.id;
  // one that was begun before this was kept: whoever runs its first project, or else its first account
  const runs = await db.selectFrom('projects as r').innerJoin('people as p', 'p.id', 'r.manager_id').select('p.id').where('p.account', '=', 1).orderBy('r.started_on').orderBy('r.id').limit(1).executeTakeFirst();
  return runs?.id ?? (await db.selectFrom('people').select('id').where('account', '=', 1).orderBy('id').limit(1).executeTakeFirst())?.id ?? null;
}

/** Says for whom an Ottik is set up. */
export async function setOwner(db: Db, person: string): Promise<void> {
  await db
    .insertInto('settings')
    .values({ name: OWNER, value: person })
    .onConflict((c) => c.column('name').doUpdateSet({ value: person }))
    .execute();
}

/** The first run: a person with an account, and their first project. Both or neither; a second first run is refused. */
export async function begin(db: Db, first: z.infer<typeof BeginSchema>, today: string): Promise<{ person: string; project: string }> {
  return inTransaction(db, async (tx) => {
    if ((await ownerOf(tx)) !== null) throw new Refusal('conflict', 'This Ottik has been set up already.', 'Load the page again.');
    const person = await newPersonId(tx, first.name);
    await tx.insertInto('people').values({ id: person, name: first.name, aliases: '[]', role: '', mail: first.mail, organisation: '', account: 1, zone: first.zone, country: first.country }).execute();
    await setOwner(tx, person);
    return { person, project: await beginProject(tx, person, first.project, today) };
  });
}
