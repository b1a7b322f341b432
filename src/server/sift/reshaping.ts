import { z } from 'zod';
import type { Evidence, Find } from '../../core/sift/find.ts';
import { samePeople } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { CODECS } from '../store/codecs.ts';
import type { Db } from '../store/database.ts';
import { SUPERSEDED } from '../store/schema.ts';
import { type KeptFind, keptFind } from './finds.ts';
import { bringBack, findRow, markFind, mustBeAsSeen } from './judging.ts';

/** What a person says a find really is, before taking it. */
export const ReshapeSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('kind'), kind: z.enum(['action', 'decision', 'question']) }),
  /** news of this open commitment, or of none: then it is an action of its own */
  z.object({ do: z.literal('about'), open: z.number().int().nullable() }),
  /** says the same as another find, which it swallows */
  z.object({ do: z.literal('merge'), with: z.number().int() }),
  /** these words are a job, a decision or a question of their own */
  z.object({ do: z.literal('split'), segment: z.number().int().min(0), from: z.number().int().min(0), to: z.number().int().min(1), text: z.string().trim().min(2, 'needs words').max(2000) }),
  /** takes the last of these back */
  z.object({ do: z.literal('put back'), /** the find that was split off and goes again */ split: z.number().int().optional() }),
]);
export type Reshape = z.infer<typeof ReshapeSchema>;

/** @returns the find, and the one it swallowed, gave back or was split from it, as they are now */
export async function reshapeFind(ws: Workspace, id: number, change: Reshape, seen?: number): Promise<{ find: KeptFind; other: KeptFind | null }> {
  return ws.transaction(async (ws) => {
    const row = await findRow(ws, id);
    await mustBeAsSeen(ws.db, id, seen);
    if (row.verdict !== 'open') throw new Refusal('conflict', 'This find is settled already.', 'Bring it back first.');
    await bringBack(ws.db, id);
    const find = CODECS.find.read(row.data);
    let other: number | null = null;
    if (change.do === 'put back') {
      other = await putBack(ws, id);
      if (change.split !== undefined) await takeSplitAway(ws, row, change.split);
    } else {
      let now: Find;
      if (change.do === 'kind') now = ofKind(find, change.kind);
      else if (change.do === 'about') now = await aboutOpen(ws.db, row.project, row.id, find, change.open);
      else if (change.do === 'split') now = without(find, change);
      else {
        other = change.with;
        now = await swallow(ws, row, find, change.with);
      }
      await keep(ws, id, now, row.data, other);
      if (change.do === 'split') other = await splitOff(ws, row, find, change);
    }
    return { find: await keptFind(ws, row.meeting_id, id), other: other === null ? null : ((await keptFind(ws, row.meeting_id, other)) ?? null) };
  });
}

function ofKind(find: Find, kind: 'action' | 'decision' | 'question'): Find {
  if (find.kind === kind) throw new Refusal('conflict', `This is ${kind === 'action' ? 'an' : 'a'} ${kind} already.`);
  return { ...find, kind, update: null, ...(kind === 'action' ? {} : { owner: [], ownerHow: null, due: null, duePhrase: null }) };
}

async function aboutOpen(tx: Db, project: string, id: number, find: Find, open: number | null): Promise<Find> {
  if (open === null) {
    if (!find.update) throw new Refusal('conflict', 'This is no news of a commitment.');
    return { ...find, kind: 'action', update: null };
  }
  const c = await tx.selectFrom('commitments').select(['text', 'due', 'state', 'number']).where('id', '=', open).where('project_id', '=', project).executeTakeFirst();
  if (!c) throw new Refusal('not-found', 'There is no such commitment in this project.');
  const same = await tx.selectFrom('finds as f').innerJoin('finds as mine', 'mine.record_id', 'f.record_id').select('f.data').where('mine.id', '=', id).where('f.id', '!=', id).where('f.kind', '=', 'update').where('f.verdict', '!=', 'passed').where('f.reader', '!=', SUPERSEDED).execute();
  if (same.some((s) => CODECS.find.read(s.data).update?.open === String(open))) throw new Refusal('conflict', `Another find is news of C-${c.number} already.`, 'Merge the two, or pass one.');
  const owners = await tx.selectFrom('commitment_owners').select('person_id').where('commitment_id', '=', open).execute();
  const before = find.update;
  const moved = before?.kind === 'moved' || (!before && find.due !== null);
  return { ...find, kind: 'update', text: c.text, owner: owners.map((o) => o.person_id), due: moved ? find.due : c.due, update: { open: String(open), kind: before?.kind ?? (moved ? 'moved' : 'progress'), due: moved ? find.due : null, owner: before?.owner ?? null } };
}

type Split = Extract<Reshape, { do: 'split' }>;

const overlaps = (e: { segment: number; from: number; to: number }, s: Split) => e.segment === s.segment && e.from < s.to && s.from < e.to;

/** A find without the places that are split off; where they are all it has, it keeps them, since both stand there. */
function without(find: Find, split: Split): Find {
  if (find.update) throw new Refusal('bad-input', 'News of a commitment is not split.', 'Say first that it is news of none.');
  const rest = find.evidence.filter((e) => !overlaps(e, split));
  if (rest.length === 0) return find;
  return { ...find, evidence: rest.some((e) => e.role === 'states') ? rest : [{ ...rest[0]!, role: 'states' }, ...rest.slice(1)], clues: find.clues.filter((c) => !overlaps(c, split)) };
}

/** The find that the split words make: of the same kind, owner and date, to be looked at for itself. */
async function splitOff(ws: Workspace, row: { record_id: number; meeting_id: number }, find: Find, split: Split): Promise<number> {
  const made = await markFind(ws, row.meeting_id, { record: row.record_id, kind: find.kind as 'action', segment: split.segment, from: split.from, to: split.to, text: split.text });
  const data: Find = { ...find, key: made.key, text: split.text, about: [], evidence: made.evidence, clues: find.clues.filter((c) => overlaps(c, split)), confidence: 1, reason: `Split from another find by ${ws.asker.name}.` };
  await ws.db
    .updateTable('finds')
    .set({ data: CODECS.find.write(data) })
    .where('id', '=', made.id)
    .execute();
  return made.id;
}

async function takeSplitAway(ws: Workspace, row: { record_id: number; meeting_id: number }, split: number): Promise<void> {
  const made = await findRow(ws, split);
  const { reader } = await ws.db.selectFrom('finds').select('reader').where('id', '=', split).executeTakeFirstOrThrow();
  if (made.record_id !== row.record_id || reader !== 'hand') throw new Refusal('bad-input', 'That find was not split from this one.');
  if (made.verdict === 'taken') throw new Refusal('conflict', 'The find that was split off is taken.', 'Take that back first.');
  await ws.db
    .updateTable('finds')
    .set({ reader: SUPERSEDED, key: `gone:${split}` })
    .where('id', '=', split)
    .execute();
}

async function swallow(ws: Workspace, row: { id: number; record_id: number; meeting_id: number }, find: Find, withId: number): Promise<Find> {
  const other = await findRow(ws, withId);
  if (other.meeting_id !== row.meeting_id) throw new Refusal('bad-input', 'The two finds are not of one meeting.');
  if (other.verdict !== 'open') throw new Refusal('conflict', 'The other find is settled already.', 'Bring it back first.');
  const swallowed = CODECS.find.read(other.data);
  const places = new Map<string, Evidence>();
  for (const e of [...find.evidence, ...swallowed.evidence.map((e) => ({ ...e, role: e.role === 'states' ? ('repeats' as const) : e.role }))]) {
    const key = `${e.segment}:${e.from}:${e.to}`;
    if (!places.has(key)) places.set(key, e);
  }
  // of another record it stands behind this one from now on, with its own places
  const elsewhere = other.record_id !== row.record_id;
  await ws.db
    .updateTable('finds')
    .set(elsewhere ? { twin_of: row.id } : { verdict: 'passed' })
    .where('id', '=', withId)
    .execute();
  return {
    ...find,
    ...(elsewhere ? {} : { evidence: [...places.values()].sort((a, b) => a.segment - b.segment || a.from - b.from), clues: [...find.clues, ...swallowed.clues].slice(0, 12) }),
    owner: find.owner.length ? find.owner : swallowed.owner,
    ownerHow: find.owner.length ? find.ownerHow : swallowed.ownerHow,
    due: find.due ?? swallowed.due,
    duePhrase: find.due ? find.duePhrase : swallowed.duePhrase,
  };
}

async function keep(ws: Workspace, id: number, now: Find, before: string, other: number | null): Promise<void> {
  await ws.db
    .updateTable('finds')
    .set({ kind: now.kind, data: CODECS.find.write(now) })
    .where('id', '=', id)
    .execute();
  const change = { verdict: 'reshaped', at: new Date().toISOString(), by_person: ws.asker.person, event_id: null, statement_id: null };
  await ws.db
    .insertInto('find_changes')
    .values({ find_id: id, ...change, before, swallowed: other })
    .execute();
  if (other !== null)
    await ws.db
      .insertInto('find_changes')
      .values({ find_id: other, ...change, verdict: 'passed', before: null, swallowed: null })
      .execute();
}

async function putBack(ws: Workspace, id: number): Promise<number | null> {
  const changes = await ws.db.selectFrom('find_changes').select(['before', 'swallowed', 'verdict']).where('find_id', '=', id).where('verdict', 'in', ['reshaped', 'put back']).orderBy('id', 'desc').execute();
  // every “put back” answers one reshaping before it
  let answered = 0;
  const last = changes.find((c) => {
    if (c.verdict === 'put back') answered++;
    else if (answered > 0) answered--;
    else return true;
    return false;
  });
  if (!last?.before) throw new Refusal('conflict', 'There is nothing to put back on this find.');
  const [was, who] = [CODECS.find.read(last.before), await samePeople(ws.db)];
  const find: Find = { ...was, owner: [...new Set(was.owner.map(who))] };
  await ws.db
    .updateTable('finds')
    .set({ kind: find.kind, data: CODECS.find.write(find) })
    .where('id', '=', id)
    .execute();
  if (last.swallowed !== null) await ws.db.updateTable('finds').set({ verdict: 'open', twin_of: null }).where('id', '=', last.swallowed).execute();
  await ws.db.insertInto('find_changes').values({ find_id: id, verdict: 'put back', at: new Date().toISOString(), by_person: ws.asker.person, event_id: null, statement_id: null, before: null, swallowed: null }).execute();
  return last.swallowed;
}

/** Says of a find that it is right or wrong, whatever becomes of it; null takes that back. */
export async function judgeFind(ws: Workspace, id: number, right: boolean | null): Promise<KeptFind> {
  const row = await findRow(ws, id);
  await ws.db.transaction().execute(async (tx) => {
    // said anew it gets a new number, so that whoever listens hears it and a forgetting before it does not count
    await tx.deleteFrom('find_judgements').where('find_id', '=', id).where('by_person', '=', ws.asker.person).execute();
    if (right !== null)
      await tx
        .insertInto('find_judgements')
        .values({ find_id: id, by_person: ws.asker.person, right: right ? 1 : 0, at: new Date().toISOString() })
        .execute();
  });
  return keptFind(ws, row.meeting_id, id);
}
