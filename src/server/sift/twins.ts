import type { Find } from '../../core/sift/find.ts';
import { twinOf } from '../../core/sift/twins.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { SUPERSEDED } from '../store/schema.ts';

/**
 * Finds of a meeting that are said in two of its records become one: the later record's stands behind the earlier
 * record's and gives it its places, and owner and date where it has none. A find that somebody has judged or reshaped
 * stays what they made of it, and stands before what another record says, be that the earlier one.
 */
export async function pairTwins(tx: Db, meeting: number): Promise<void> {
  const rows = (
    await tx
      .selectFrom('finds')
      .select((eb) => ['id', 'record_id', 'data', 'verdict', 'reader', 'twin_of', eb.exists(eb.selectFrom('find_changes').select('find_changes.id').whereRef('find_id', '=', 'finds.id')).as('touched')])
      .where('meeting_id', '=', meeting)
      .where('reader', '!=', SUPERSEDED)
      .orderBy('record_id')
      .orderBy('id')
      .execute()
  ).map((r) => ({ ...r, find: CODECS.find.read(r.data), free: !r.touched && r.verdict === 'open' && r.reader !== 'hand' }));
  if (new Set(rows.map((r) => r.record_id)).size < 2) return;
  const merged = (r: (typeof rows)[number]) => !!r.touched && r.twin_of !== null;
  const mains = rows.filter((r) => !merged(r) && !r.free);
  const taken = new Set<string>();
  for (const r of rows) {
    if (merged(r)) continue;
    if (mains.includes(r)) {
      if (r.twin_of !== null) await tx.updateTable('finds').set({ twin_of: null }).where('id', '=', r.id).execute();
      continue;
    }
    const open = mains.filter((m) => (m.record_id < r.record_id || (!m.free && m.record_id !== r.record_id)) && !taken.has(`${m.id} ${r.record_id}`));
    const found = twinOf(
      r.find,
      open.map((m) => ({ ...m.find, row: m })),
    );
    const main = found?.row ?? null;
    if (main) taken.add(`${main.id} ${r.record_id}`);
    else mains.push(r);
    if (r.twin_of !== (main?.id ?? null))
      await tx
        .updateTable('finds')
        .set({ twin_of: main?.id ?? null })
        .where('id', '=', r.id)
        .execute();
    if (main?.free) await complete(tx, main, r.find);
  }
}

/** What the one record leaves open the other may say. */
async function complete(tx: Db, main: { id: number; find: Find }, twin: Find): Promise<void> {
  const { find } = main;
  if (find.kind !== 'action') return;
  const owner = find.owner.length === 0 && twin.owner.length > 0;
  const due = find.due === null && twin.due !== null;
  if (!owner && !due) return;
  main.find = { ...find, ...(owner ? { owner: twin.owner, ownerHow: twin.ownerHow } : {}), ...(due ? { due: twin.due, duePhrase: twin.duePhrase } : {}) };
  await tx
    .updateTable('finds')
    .set({ data: CODECS.find.write(main.find) })
    .where('id', '=', main.id)
    .execute();
}

/** Finds that stood behind one of a record that has left the list stand for themselves again. */
export async function partTwins(tx: Db, record: number): Promise<void> {
  await tx
    .updateTable('finds')
    .set({ twin_of: null })
    .where('twin_of', 'in', ({ selectFrom }) => selectFrom('finds as main').select('main.id').where('main.record_id', '=', record).where('main.reader', '=', SUPERSEDED))
    .execute();
}
