import { z } from 'zod';
import { IsoDateSchema } from '../../core/ledger/events.ts';
import { quotesOf } from '../../core/record/quotes.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { pairTwins, partTwins } from '../sift/twins.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { SUPERSEDED } from '../store/schema.ts';
import { forgetWords, recordWords } from '../store/segments.ts';
import { inTransaction } from '../store/transactions.ts';
import { detachMedia } from './media.ts';

/** How long a record is kept, and how people were told that it is taken. */
export interface Keeping {
  record: number;
  /** the day its words go; null keeps them */
  until: string | null;
  goneOn: string | null;
  /** how and when people were told; null where nobody has noted it */
  told: string | null;
  /** what was done about it, oldest first */
  history: { kind: string; note: string | null; on: string; by: string | null }[];
}

export async function keepingOf(ws: Workspace, record: number): Promise<Keeping> {
  const r = await ws.db.selectFrom('records').innerJoin('meetings', 'meetings.id', 'records.meeting_id').select(['meetings.project_id', 'records.keep_until', 'records.gone_at', 'records.told']).where('records.id', '=', record).executeTakeFirst();
  mustSee(ws, r?.project_id, 'record');
  const history = await ws.db.selectFrom('record_events as e').leftJoin('people as p', 'p.id', 'e.by_person').select(['e.kind', 'e.note', 'e.on_day', 'p.name']).where('e.record_id', '=', record).orderBy('e.id').execute();
  return { record, until: r!.keep_until, goneOn: r!.gone_at?.slice(0, 10) ?? null, told: r!.told, history: history.map((h) => ({ kind: h.kind, note: h.note, on: h.on_day, by: h.name })) };
}

export const KeepingSchema = z.discriminatedUnion('do', [z.object({ do: z.literal('until'), day: IsoDateSchema }), z.object({ do: z.literal('for good') }), z.object({ do: z.literal('told'), how: z.string().trim().min(2, 'needs words').max(500) }), z.object({ do: z.literal('now') })]);

/** Puts the end of a record's keeping off, takes it away, brings it about now, or notes how people were told. */
export async function changeKeeping(ws: Workspace, record: number, change: z.infer<typeof KeepingSchema>): Promise<Keeping> {
  const now = await keepingOf(ws, record);
  if (now.goneOn && change.do !== 'told') throw new Refusal('conflict', 'The words of this record are gone.', 'What was taken from it keeps its quotes.');
  if (change.do === 'until' && change.day <= ws.today) throw new Refusal('bad-input', 'A record is kept until a day that is to come.');
  await ws.transaction(async (ws) => {
    const note = async (kind: string, words: string | null) => void (await ws.db.insertInto('record_events').values({ record_id: record, kind, note: words, on_day: ws.today, at: new Date().toISOString(), by_person: ws.asker.person }).execute());
    switch (change.do) {
      case 'told':
        await ws.db.updateTable('records').set({ told: change.how }).where('id', '=', record).execute();
        return note('told', change.how);
      case 'now':
        await letGo(ws.db, record);
        return note('let go', null);
      default: {
        const until = change.do === 'until' ? change.day : null;
        await ws.db.updateTable('records').set({ keep_until: until }).where('id', '=', record).execute();
        return note(until ? 'kept until' : 'kept for good', until);
      }
    }
  });
  return keepingOf(ws, record);
}

/** Lets go of every record whose day has passed. Gives how many. */
export async function expireRecords(db: Db, today: string): Promise<number> {
  const due = await db.selectFrom('records').select('id').where('gone_at', 'is', null).where('keep_until', '<', today).execute();
  for (const { id } of due)
    await inTransaction(db, async (tx) => {
      await letGo(tx, id);
      await tx.insertInto('record_events').values({ record_id: id, kind: 'expired', note: null, on_day: today, at: new Date().toISOString(), by_person: null }).execute();
    });
  return due.length;
}

/**
 * Takes a record's words away. The quotes that commitments, decisions and questions rest on stay; finds that nobody
 * took are emptied, since their words are the record's.
 */
async function letGo(tx: Db, record: number): Promise<void> {
  const words = await recordWords(tx, record);
  const places: { segment: number; from: number; to: number }[] = [];
  const add = (json: string) => {
    for (const p of CODECS.places.read(json)) if (p.record === record) places.push(p);
  };
  for (const e of await tx.selectFrom('events').select('evidence').where('evidence', 'like', `%"record":${record},%`).execute()) add(e.evidence);
  for (const s of await tx.selectFrom('statements').select('evidence').where('evidence', 'like', `%"record":${record},%`).execute()) add(s.evidence);
  const finds = await tx.selectFrom('finds').select(['id', 'data', 'verdict']).where('record_id', '=', record).execute();
  for (const f of finds) {
    const find = CODECS.find.read(f.data);
    if (f.verdict === 'taken') continue;
    await tx
      .updateTable('finds')
      .set({ reader: SUPERSEDED, data: CODECS.find.write({ ...find, text: '…', about: [], duePhrase: null, evidence: [], clues: [], reason: '' }) })
      .where('id', '=', f.id)
      .execute();
  }
  await tx
    .updateTable('records')
    .set({ quotes: CODECS.quotes.write({ count: words.segments.length, segments: quotesOf(words, places) }), bytes: Buffer.alloc(0), gone_at: new Date().toISOString(), file_name: null })
    .where('id', '=', record)
    .execute();
  for (const table of ['own_finds', 'model_answers', 'model_gists'] as const) await tx.deleteFrom(table).where('record_id', '=', record).execute();
  await detachMedia(tx, record);
  // what another record of the meeting says too stands for itself from now on
  const { meeting_id } = await tx.selectFrom('records').select('meeting_id').where('id', '=', record).executeTakeFirstOrThrow();
  await partTwins(tx, record);
  await pairTwins(tx, meeting_id);
  forgetWords();
}
