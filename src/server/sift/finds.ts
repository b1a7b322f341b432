import { RecordError } from '../../core/record/model.ts';
import type { Find, Finds } from '../../core/sift/find.ts';
import { adjust, traitsOf } from '../../core/sift/learned.ts';
import type { SiftInput } from '../../core/sift/reading.ts';
import { type Elsewhere, seenIn } from '../../core/sift/twins.ts';
import { ledgerRows } from '../ledger/commitments.ts';
import { peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { DOUBTED, SUPERSEDED } from '../store/schema.ts';
import { spokenRecord } from '../store/segments.ts';
import { inTransaction } from '../store/transactions.ts';
import { habitsOf } from './learned.ts';
import { siftRecord } from './run.ts';
import { pairTwins } from './twins.ts';

/** How the key of a find begins that somebody wrote down in the meeting as what it is. */
export const WRITTEN = 'written:';

/** A find as it is kept: what was proposed, what became of it. */
export interface KeptFind extends Find {
  id: number;
  record: number;
  verdict: 'open' | 'taken' | 'passed';
  /** reference of what it became, or of the commitment it is about */
  ref: string | null;
  reader: string;
  /** the other records of the meeting that say it too */
  also: Elsewhere[];
  /** number of the last thing a person did with it; what is done next is refused where that has changed meanwhile */
  seen: number;
  /** who settled it */
  by: string | null;
  /** what Sift alone thinks of it, where that was moved by what was learned from earlier finds */
  unadjusted: number | null;
  /** what the asker said of it: right, wrong, or nothing */
  right: boolean | null;
}

/** Reads a kept record into finds with the quick reader and keeps them; finds that were judged already stay as they are. */
export async function siftMeeting(ws: Workspace, meeting: number, record: number): Promise<void> {
  await keepOwnFinds(ws.db, meeting, record, await siftRecord(await siftInput(ws, meeting, record)));
}

/** Keeps what one of Sift's own readers found, also by itself: what the model reader finds later is joined with that. */
export async function keepOwnFinds(db: Db, meeting: number, record: number, found: Finds): Promise<void> {
  await inTransaction(db, async (tx) => {
    if (found.reader === 'model') throw new Error('the model reader is not one of Sift’s own');
    const values = { reader: found.reader, finds: CODECS.foundBy.write(found.finds), at: new Date().toISOString() };
    await tx
      .insertInto('own_finds')
      .values({ record_id: record, ...values })
      .onConflict((c) => c.column('record_id').doUpdateSet(values))
      .execute();
    await keepFinds(tx, meeting, record, found);
  });
}

/** What Sift's own reader last found in a record; read anew where that was not kept. */
export async function ownFinds(ws: Workspace, meeting: number, record: number): Promise<Find[]> {
  const kept = await ws.db.selectFrom('own_finds').select('finds').where('record_id', '=', record).executeTakeFirst();
  return kept ? CODECS.foundBy.read(kept.finds) : (await siftRecord(await siftInput(ws, meeting, record))).finds;
}

/** Sifts a record whose sifting was broken off after it was kept: it has no finds, and its meeting does not count as sifted. */
export async function siftWhatWaits(ws: Workspace, meeting: number, record: number): Promise<void> {
  const { sifted_at } = await ws.db.selectFrom('meetings').select('sifted_at').where('id', '=', meeting).executeTakeFirstOrThrow();
  if (sifted_at !== null || (await ws.db.selectFrom('finds').select('id').where('record_id', '=', record).executeTakeFirst())) return;
  await siftMeeting(ws, meeting, record).catch((error: unknown) => {
    // what is beyond its limits is beyond them again; its words are shown without finds
    if (!(error instanceof RecordError)) throw error;
  });
}

/** Everything Sift is given of a kept record: its words, the people, the meeting's dates and what was open then. */
export async function siftInput(ws: Workspace, meeting: number, recordId: number): Promise<SiftInput> {
  const m = await ws.db.selectFrom('meetings').selectAll().where('id', '=', meeting).executeTakeFirst();
  mustSee(ws, m?.project_id, 'meeting');
  const people = await peopleOf(ws, m!.project_id);
  const present = (await ws.db.selectFrom('attendance').select('person_id').where('meeting_id', '=', meeting).where('present', '=', 1).execute()).map((a) => a.person_id);
  const open = (await ledgerRows(ws, { project: m!.project_id, state: 'open', lives: false })).filter((r) => r.madeOn < m!.date || (r.madeOn === m!.date && r.meeting !== meeting));
  return {
    record: await spokenRecord(ws.db, recordId, people),
    people,
    meeting: { date: m!.date, next: m!.next, present, author: m!.author_id },
    open: open.map((o) => ({ id: String(o.id), text: o.text, owner: o.owner.map((p) => p.id), due: o.due, madeOn: o.madeOn })),
  };
}

/**
 * Keeps what a reader found in a record. Finds that a person has touched stay as they are and nothing is proposed a
 * second time where one of them stands; a find that both readers have keeps its id, so that a page that shows it does
 * not lose it.
 */
export async function keepFinds(db: Db, meeting: number, recordId: number, { finds, reader }: Finds): Promise<void> {
  await inTransaction(db, async (tx) => {
    const kept = await tx
      .selectFrom('finds')
      .select((eb) => ['id', 'key', 'kind', 'data', 'verdict', eb.exists(eb.selectFrom('find_changes').select('find_changes.id').whereRef('find_id', '=', 'finds.id')).as('touched'), 'reader'])
      .where('record_id', '=', recordId)
      .execute();
    const settled = kept.filter((k) => k.touched || k.verdict !== 'open' || k.reader === 'hand');
    const free = new Map(kept.filter((k) => !settled.includes(k)).map((k) => [k.key, k.id]));
    const taken = new Set(settled.flatMap((k) => [k.key, ...statesOf(CODECS.find.read(k.data))]));
    // of a line somebody wrote down as what it is no reader says anything else
    const written = new Set(settled.filter((k) => k.key.startsWith(WRITTEN)).flatMap((k) => CODECS.find.read(k.data).evidence.map((e) => e.segment)));
    for (const [position, f] of finds.entries()) {
      if (f.update === null && f.evidence.some((e) => e.role === 'states' && written.has(e.segment))) continue;
      if (taken.has(f.key) || statesOf(f).some((s) => taken.has(s))) continue;
      const values = { kind: f.kind, data: CODECS.find.write(f), position, reader };
      const id = free.get(f.key);
      if (id === undefined)
        await tx
          .insertInto('finds')
          .values({ meeting_id: meeting, record_id: recordId, key: f.key, ...values })
          .execute();
      else await tx.updateTable('finds').set(values).where('id', '=', id).execute();
      free.delete(f.key);
    }
    // what was shown and is no longer believed stays, marked, until somebody settles it; a record that was put right is read anew
    const shown = new Set(kept.filter((k) => k.reader === 'quick' || k.reader === DOUBTED || (reader === 'model' && k.reader !== SUPERSEDED)).map((k) => k.id));
    for (const id of free.values()) {
      await tx
        .updateTable('finds')
        .set({ reader: reader !== 'quick' && shown.has(id) ? DOUBTED : SUPERSEDED })
        .where('id', '=', id)
        .execute();
    }
    await pairTwins(tx, meeting);
    await stamp(tx, meeting);
  });
}

/** The place a find rests on, with its kind; none for an update, which its key already tells from all others. */
function statesOf(f: Find): string[] {
  return f.update ? [] : f.evidence.filter((e) => e.role === 'states').map((e) => `${f.kind}@${e.segment}:${e.from}`);
}

/** A meeting counts as sifted when no find waits any more. */
export async function stamp(tx: Db, meeting: number): Promise<void> {
  const { n } = await tx
    .selectFrom('finds')
    .select(({ fn }) => fn.countAll<number>().as('n'))
    .where('meeting_id', '=', meeting)
    .where('reader', '!=', SUPERSEDED)
    .where('verdict', '=', 'open')
    .where('twin_of', 'is', null)
    .executeTakeFirstOrThrow();
  await tx
    .updateTable('meetings')
    .set({ sifted_at: n === 0 ? new Date().toISOString() : null })
    .where('id', '=', meeting)
    .execute();
}

export async function findsOf(ws: Workspace, meeting: number): Promise<KeptFind[]> {
  const m = await ws.db.selectFrom('meetings').select('project_id').where('id', '=', meeting).executeTakeFirst();
  mustSee(ws, m?.project_id, 'meeting');
  const rows = await ws.db.selectFrom('finds').selectAll().where('meeting_id', '=', meeting).where('reader', '!=', SUPERSEDED).orderBy('position').orderBy('id').execute();
  const changes = await ws.db.selectFrom('find_changes as c').innerJoin('finds', 'finds.id', 'c.find_id').leftJoin('people', 'people.id', 'c.by_person').select(['c.find_id', 'c.id', 'people.name']).where('finds.meeting_id', '=', meeting).orderBy('c.id').execute();
  const last = new Map(changes.map((c) => [c.find_id, c]));
  const habits = rows.some((r) => r.verdict === 'open') ? await habitsOf(ws.db, m!.project_id) : [];
  const judged = await ws.db.selectFrom('find_judgements as j').innerJoin('finds as f', 'f.id', 'j.find_id').select(['j.find_id', 'j.right']).where('f.meeting_id', '=', meeting).where('j.by_person', '=', ws.asker.person).execute();
  const rights = new Map(judged.map((j) => [j.find_id, j.right === 1]));
  const out = new Map<number, KeptFind>();
  for (const r of rows.filter((x) => x.twin_of === null)) {
    const data = CODECS.find.read(r.data);
    const open = r.verdict === 'open';
    const confidence = open ? adjust(data.confidence, traitsOf(data), habits) : data.confidence;
    out.set(r.id, {
      ...data,
      about: data.about,
      id: r.id,
      record: r.record_id,
      verdict: r.verdict as KeptFind['verdict'],
      reader: r.reader,
      ref: await refOf(ws.db, r.id, data),
      also: [],
      seen: last.get(r.id)?.id ?? 0,
      by: open ? null : (last.get(r.id)?.name ?? null),
      confidence,
      unadjusted: confidence === data.confidence ? null : data.confidence,
      right: rights.get(r.id) ?? null,
    });
  }
  for (const r of rows) {
    if (r.twin_of === null) continue;
    const { evidence, clues } = CODECS.find.read(r.data);
    out.get(r.twin_of)?.also.push({ record: r.record_id, evidence, clues });
  }
  return [...out.values()];
}

/** The finds that stand in one record of a meeting, as they are seen beside it. */
export async function findsIn(ws: Workspace, meeting: number, record: number): Promise<KeptFind[]> {
  return (await findsOf(ws, meeting)).map((f) => seenIn(f, record)).filter((f) => f.record === record);
}

async function refOf(db: Db, find: number, data: Find): Promise<string | null> {
  if (data.update) {
    const c = await db.selectFrom('commitments').select('number').where('id', '=', Number(data.update.open)).executeTakeFirst();
    return c ? `C-${c.number}` : null;
  }
  const change = await lastChange(db, find);
  if (change?.event_id) {
    const c = await db.selectFrom('events').innerJoin('commitments', 'commitments.id', 'events.commitment_id').select('number').where('events.id', '=', change.event_id).executeTakeFirst();
    return c ? `C-${c.number}` : null;
  }
  if (change?.statement_id) {
    const s = await db.selectFrom('statements').select(['number', 'kind']).where('id', '=', change.statement_id).executeTakeFirst();
    return s ? `${s.kind === 'decision' ? 'D' : 'Q'}-${s.number}` : null;
  }
  return null;
}

/** The last time a find was taken, passed or put back. */
export const lastChange = (db: Db, find: number) => db.selectFrom('find_changes').selectAll().where('find_id', '=', find).where('verdict', 'in', ['taken', 'passed', 'open']).orderBy('id', 'desc').limit(1).executeTakeFirst();

/** One find as it is kept now. */
export async function keptFind(ws: Workspace, meeting: number, id: number): Promise<KeptFind> {
  return (await findsOf(ws, meeting)).find((f) => f.id === id)!;
}
