import { sql } from 'kysely';
import { indexed } from '../../core/find/highlight.ts';
import { PASSAGE_KINDS, type PassageKind } from '../../core/find/query.ts';
import { stem } from '../../core/language/words.ts';
import { whole } from '../people/out-of-sight.ts';
import type { Db } from '../store/database.ts';
import { log } from '../store/log.ts';
import { inTransaction } from '../store/transactions.ts';
import { type NewPassage, READERS } from './readers.ts';

/** Rows of one source that are written at once; SQLite binds at most 32,766 values. */
const AT_ONCE = 400;
/** A search waits so long for what has changed, in milliseconds; the rest is read in beside. */
const BEFORE_A_SEARCH = 250;

/**
 * Reads in what has changed since the last time: triggers queue every row whose words are new, see the migration.
 * @param within milliseconds after which the rest stays queued
 * @returns how many are still queued
 */
export async function catchUp(db: Db, within = Number.POSITIVE_INFINITY): Promise<number> {
  const all = whole(db);
  const until = performance.now() + within;
  const tried = new Set<string>();
  while (performance.now() < until) {
    const batch = await all
      .selectFrom('passage_queue')
      .selectAll()
      // what answers are made of goes first
      .orderBy(sql`kind NOT IN ('commitment', 'decision', 'question')`)
      .limit(AT_ONCE)
      .execute();
    if (batch.length === 0) return 0;
    // what cannot be written now stays in the queue, and keeps nothing else from being read in
    const fresh = batch.filter((row) => !tried.has(`${row.kind} ${row.source}`));
    if (fresh.length === 0) break;
    for (const { kind, source, n } of fresh) {
      tried.add(`${kind} ${source}`);
      await readIn(all, kind, source, n).catch((error: unknown) => log.warn(error, `${kind} ${source} is not in the find index yet`));
      if (performance.now() > until) break;
    }
  }
  return (await all.selectFrom('passage_queue').select(all.fn.countAll<number>().as('n')).executeTakeFirstOrThrow()).n;
}

/** What a row says takes the place of what it said before. A row that cannot be read leaves nothing, and stops nothing. */
async function readIn(db: Db, kind: PassageKind, source: number, change: number): Promise<void> {
  let passages: NewPassage[] = [];
  try {
    passages = await READERS[kind](db, source);
  } catch (error) {
    log.warn(error, `${kind} ${source} could not be read into the find index`);
  }
  await inTransaction(db, async (tx) => {
    await tx.deleteFrom('passages').where('kind', '=', kind).where('source', '=', source).execute();
    for (let k = 0; k < passages.length; k += AT_ONCE) {
      await tx
        .insertInto('passages')
        .values(passages.slice(k, k + AT_ONCE).map((p) => ({ ...p, kind, source })))
        .execute();
    }
    await keepWords(tx, passages);
    await tx.deleteFrom('passage_queue').where('kind', '=', kind).where('source', '=', source).where('n', '=', change).execute();
  });
}

async function keepWords(tx: Db, passages: readonly NewPassage[]): Promise<void> {
  const words = new Set(passages.flatMap((p) => indexed(p.text).map((t) => t.word)));
  if (words.size) await sql`INSERT OR IGNORE INTO passage_words SELECT value FROM json_each(${JSON.stringify([...words])})`.execute(tx);
}

let busy: Promise<number> | null = null;

/**
 * The same before a search, which waits no longer than it must: several that come at once wait for one.
 * @param within milliseconds
 * @returns how much is not in yet: while it is not 0, what is not found may still be there
 */
export async function freshen(db: Db, within = BEFORE_A_SEARCH): Promise<number> {
  const until = performance.now() + within;
  let left = await slice(db);
  while (left > 0 && performance.now() < until) left = await slice(db);
  return left;
}

function slice(db: Db): Promise<number> {
  busy ??= catchUp(db, BEFORE_A_SEARCH)
    .catch((error: unknown) => {
      log.warn(error, 'the find index is behind');
      return 1;
    })
    .finally(() => {
      busy = null;
    });
  return busy;
}

/** Words that nobody says any more are no longer what somebody may have meant. It reads all words, and is for the night. */
export async function forgetWords(db: Db): Promise<void> {
  const all = whole(db);
  const stems = new Set((await sql<{ term: string }>`SELECT term FROM passages_terms`.execute(all)).rows.map((r) => r.term));
  const gone = (await all.selectFrom('passage_words').select('word').execute()).filter((w) => !stems.has(stem(w.word)));
  if (gone.length) await sql`DELETE FROM passage_words WHERE word IN (SELECT value FROM json_each(${JSON.stringify(gone.map((w) => w.word))}))`.execute(all);
}

/** Where the rows of each kind are, and which of them can be found. */
const SOURCES: Readonly<Record<PassageKind, string>> = {
  said: 'SELECT id FROM records WHERE replaced_by IS NULL',
  decision: "SELECT id FROM statements WHERE kind = 'decision'",
  question: "SELECT id FROM statements WHERE kind = 'question'",
  commitment: 'SELECT id FROM commitments',
  minutes: 'SELECT max(id) AS id FROM minutes_versions GROUP BY meeting_id',
  letter: "SELECT id FROM letters WHERE state IN ('sent', 'part sent')",
  answer: 'SELECT id FROM replies',
  jotting: 'SELECT id FROM jottings WHERE removed_at IS NULL',
};

/**
 * Looks whether the index has all it should, and mends it: words of passages that are not in it are indexed anew, what has no
 * passage is queued, and passages of rows that are no more go. It compares numbers, which takes a moment also where there is
 * much: comparing word by word takes as long as indexing, and keeps everybody waiting meanwhile.
 * @returns what was found wrong, in words for the log
 */
export async function healIndex(db: Db): Promise<string[]> {
  const all = whole(db);
  const wrong: string[] = [];
  const { rows } = await sql<{ same: number }>`SELECT (SELECT count(*) FROM passages_fts_docsize) = (SELECT count(*) FROM passages) AS same`.execute(all);
  if (!rows[0]?.same) {
    wrong.push('the index of words did not agree with the passages');
    await sql`INSERT INTO passages_fts (passages_fts) VALUES ('rebuild')`.execute(all);
  }
  for (const kind of PASSAGE_KINDS) {
    const sources = sql.raw(SOURCES[kind]);
    const missing = await sql`INSERT OR IGNORE INTO passage_queue (kind, source) SELECT ${kind}, id FROM (${sources}) WHERE id NOT IN (SELECT source FROM passages WHERE kind = ${kind})`.execute(all);
    const over = await sql`DELETE FROM passages WHERE kind = ${kind} AND source NOT IN (SELECT id FROM (${sources}))`.execute(all);
    if (over.numAffectedRows) wrong.push(`${over.numAffectedRows} passages of ${kind} had no source`);
    if (missing.numAffectedRows) log.debug(`${missing.numAffectedRows} of ${kind} are read into the find index`);
  }
  return wrong;
}
