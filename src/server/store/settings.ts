import type { z } from 'zod';
import type { Db } from './database.ts';

/** A setting of the workspace that is kept as JSON, or null while it is not set. */
export async function setting<S extends z.ZodType>(db: Db, name: string, schema: S): Promise<z.infer<S> | null> {
  const row = await db.selectFrom('settings').select('value').where('name', '=', name).executeTakeFirst();
  return row ? schema.parse(JSON.parse(row.value)) : null;
}

/** Keeps a setting; null takes it away. */
export async function keepSetting(db: Db, name: string, value: unknown): Promise<void> {
  if (value === null) await db.deleteFrom('settings').where('name', '=', name).execute();
  else
    await db
      .insertInto('settings')
      .values({ name, value: JSON.stringify(value) })
      .onConflict((c) => c.column('name').doUpdateSet({ value: JSON.stringify(value) }))
      .execute();
}
