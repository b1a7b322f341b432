import type { Kysely } from 'kysely';

/** A letter may answer something that came back: it goes into the thread of that mail, and the mail shows that it was answered. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await db.schema
    .alterTable('letters')
    .addColumn('reply_id', 'integer', (c) => c.references('replies.id'))
    .execute();
  // a letter tells how things stand on a day; composed again on another one unless somebody has put it into their own words
  await db.schema.alterTable('letters').addColumn('composed_on', 'text').execute();
  // what has happened since is told by the number of the last thing it knows of, and not by the clock
  await db.schema.alterTable('letters').addColumn('as_of', 'integer').execute();
  await db.schema
    .alterTable('letters')
    .addColumn('edited', 'integer', (c) => c.notNull().defaultTo(0))
    .execute();
}
