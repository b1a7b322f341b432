import type { Db } from '../store/database.ts';

/** The setting that names whoever this Ottik was set up for. */
const OWNER = 'owner';

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
