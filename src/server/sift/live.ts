import type { Db } from '../store/database.ts';
import { SUPERSEDED } from '../store/schema.ts';

/**
 * What a meeting's finds were last changed by, as a word that changes with every change. Read from the database, so that
 * it tells of changes made through another process too.
 */
export async function stampOf(db: Db, meeting: number): Promise<string> {
  const [changes, finds, said] = await Promise.all([
    db
      .selectFrom('find_changes as c')
      .innerJoin('finds as f', 'f.id', 'c.find_id')
      .select(({ fn }) => fn.max('c.id').as('n'))
      .where('f.meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('finds')
      .select(({ fn }) => [fn.countAll<number>().as('n'), fn.max('id').as('last')])
      .where('meeting_id', '=', meeting)
      .where('reader', '!=', SUPERSEDED)
      .executeTakeFirstOrThrow(),
    db
      .selectFrom('find_judgements as j')
      .innerJoin('finds as f', 'f.id', 'j.find_id')
      .select(({ fn }) => [fn.countAll<number>().as('n'), fn.max('j.id').as('last')])
      .where('f.meeting_id', '=', meeting)
      .executeTakeFirstOrThrow(),
  ]);
  return [changes.n ?? 0, finds.n, finds.last ?? 0, said.n, said.last ?? 0].join('.');
}
