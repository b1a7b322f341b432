import type { Db } from './database.ts';
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

/**
 * A stream of server-sent events (HTML Living Standard, 9.2) that names the stamp whenever it changes, until whoever
 * listens is gone.
 */
export function changesAsTheyCome(db: Db, meeting: number, gone: AbortSignal): ReadableStream<Uint8Array> {
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
          const now = await stampOf(db, meeting);
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
