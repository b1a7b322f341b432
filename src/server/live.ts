import type { Asker } from './asker.ts';
import type { Db } from './database.ts';
import { type LedgerRow, ledgerRows } from './ledger.ts';
import { SUPERSEDED } from './schema.ts';

/** How often it is looked whether anything changed, in milliseconds: soon enough to seem at once, and next to no work. */
const LOOK_EVERY = 400;
/** A line that says nothing keeps the connection from being taken for dead. */
const BREATHE_EVERY = 20_000;

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

/** The number of the last thing that happened to any commitment: it grows with every change. */
export async function ledgerStamp(db: Db): Promise<string> {
  const { last } = await db
    .selectFrom('events')
    .select(({ fn }) => fn.max('id').as('last'))
    .executeTakeFirstOrThrow();
  return String(last ?? 0);
}

/** What happened to the lines of a Ledger after a stamp: the lines as they stand now, and those that are taken back. */
export async function ledgerSince(asker: Asker, db: Db, project: string | null, since: number): Promise<{ rows: LedgerRow[]; gone: number[]; stamp: number }> {
  const stamp = Number(await ledgerStamp(db));
  const changed = await db.selectFrom('events').select('commitment_id').distinct().where('id', '>', since).execute();
  const ids = changed.map((c) => c.commitment_id);
  const rows = ids.length ? await ledgerRows(asker, db, { ...(project === null ? {} : { project }), state: 'all', ids }) : [];
  return { rows, gone: ids.filter((id) => !rows.some((r) => r.id === id)), stamp };
}

/**
 * A stream of server-sent events (HTML Living Standard, 9.2) that names the stamp whenever it changes, until whoever
 * listens is gone.
 */
export function changesAsTheyCome(stamp: () => Promise<string>, gone: AbortSignal): ReadableStream<Uint8Array> {
  const words = new TextEncoder();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let over = false;
  const end = () => {
    over = true;
    clearTimeout(timer);
  };
  return new ReadableStream({
    start(stream) {
      let before = '';
      let spoke = Date.now();
      const say = (text: string) => {
        spoke = Date.now();
        stream.enqueue(words.encode(text));
      };
      const close = () => {
        if (over) return;
        end();
        stream.close();
      };
      const look = async () => {
        try {
          const now = await stamp();
          if (over) return;
          if (now !== before) say(`event: changed\ndata: ${now}\n\n`);
          else if (Date.now() - spoke > BREATHE_EVERY) say(': still here\n\n');
          before = now;
          timer = setTimeout(look, LOOK_EVERY);
        } catch {
          // the page asks again when the stream ends
          close();
        }
      };
      gone.addEventListener('abort', close);
      void look();
    },
    cancel: end,
  });
}
