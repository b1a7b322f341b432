import { z } from 'zod';
import { duplicatePairs } from '../../core/ledger/duplicates.ts';
import { isOpen } from '../../core/ledger/state.ts';
import type { Workspace } from '../people/workspace.ts';
import { mustSee } from '../people/workspace.ts';
import { Refusal } from '../refusal.ts';
import { eventsByCommitment, type LedgerRow, ledgerRows, makeCommitment, recordEvent } from './commitments.ts';

export const MergeSchema = z.object({ merge: z.object({ keep: z.number().int(), others: z.array(z.number().int()).min(1, 'needs another commitment').max(200) }) });

/** Lines as they stand now, with the events to take back, newest first. */
export interface Reshaped {
  rows: LedgerRow[];
  events: number[];
}

/**
 * Merges commitments that are one: the others end and say into which, the one that is kept says what went into it. Both
 * histories stay whole, and the trail of the one tells the other's too.
 */
export async function mergeCommitments(ws: Workspace, { merge: { keep, others } }: z.infer<typeof MergeSchema>): Promise<Reshaped> {
  const events = await ws.transaction(async (ws) => {
    const rows = await ws.db
      .selectFrom('commitments')
      .select(['id', 'number', 'project_id', 'state'])
      .where('id', 'in', [keep, ...others])
      .execute();
    const kept = rows.find((r) => r.id === keep);
    mustSee(ws, kept?.project_id, 'commitment');
    if (!isOpen(kept!.state as 'open')) throw new Refusal('conflict', `C-${kept!.number} is ${kept!.state}.`, 'Reopen it first, or keep another one.');
    const out: number[] = [];
    for (const id of new Set(others)) {
      const other = rows.find((r) => r.id === id);
      if (id === keep || other?.project_id !== kept!.project_id) throw new Refusal('bad-input', 'Only commitments of one project are merged, and not one with itself.');
      if (!isOpen(other.state as 'open')) throw new Refusal('conflict', `C-${other.number} is ${other.state}.`, 'Reopen it first, or leave it out.');
      out.unshift(await recordEvent(ws, id, { kind: 'merged', on: ws.today, meeting: null, data: { into: keep, reason: `the same as C-${kept!.number}` }, evidence: [] }));
      out.unshift(await recordEvent(ws, keep, { kind: 'merged', on: ws.today, meeting: null, data: { took: id, reason: `C-${other.number} is the same` }, evidence: [] }));
    }
    return out;
  });
  return { rows: await ledgerRows(ws, { state: 'all', ids: [keep, ...others] }), events };
}

export const SplitSchema = z.object({ split: z.object({ id: z.number().int(), parts: z.array(z.string().trim().min(2, 'needs words').max(2000)).min(2, 'needs two parts').max(20) }) });

/** Splits a commitment into parts: it keeps the first, the others are made anew with its owner, date and words. */
export async function splitCommitment(ws: Workspace, { split: { id, parts } }: z.infer<typeof SplitSchema>): Promise<Reshaped> {
  const made: number[] = [];
  const events = await ws.transaction(async (ws) => {
    const c = await ws.db.selectFrom('commitments').select(['number', 'project_id', 'state', 'due', 'meeting_id', 'series_id']).where('id', '=', id).executeTakeFirst();
    mustSee(ws, c?.project_id, 'commitment');
    if (!isOpen(c!.state as 'open')) throw new Refusal('conflict', `C-${c!.number} is ${c!.state}.`, 'Reopen it first.');
    const owner = (await ws.db.selectFrom('commitment_owners').select('person_id').where('commitment_id', '=', id).execute()).map((o) => o.person_id);
    const twice = await ws.db
      .selectFrom('commitments')
      .select('number')
      .where('project_id', '=', c!.project_id)
      .where('id', '>', id)
      .where('text', 'in', parts.slice(1))
      .where(({ exists, selectFrom }) => exists(selectFrom('events as e').select('e.id').whereRef('e.commitment_id', '=', 'commitments.id').where('e.kind', '=', 'made').where('e.data', 'like', `%split from C-${c!.number}"%`)))
      .where('state', '!=', 'withdrawn')
      .executeTakeFirst();
    if (twice) throw new Refusal('conflict', `C-${c!.number} was split into these already.`, `See C-${twice.number}.`);
    const [first] = (await eventsByCommitment(ws.db, [id])).get(id) ?? [];
    const [own, ...rest] = parts;
    const out = [await recordEvent(ws, id, { kind: 'reworded', on: ws.today, meeting: null, data: { text: own!, reason: `split into ${parts.length}` }, evidence: [] })];
    for (const text of rest) {
      const part = await makeCommitment(ws, c!.project_id, { meeting: c!.meeting_id, series: c!.series_id }, { on: ws.today, meeting: null, data: { text, owner, due: c!.due, reason: `split from C-${c!.number}` }, evidence: first?.evidence ?? [] });
      made.push(part.id);
      out.unshift(part.event);
    }
    return out;
  });
  return { rows: await ledgerRows(ws, { state: 'all', ids: [id, ...made] }), events };
}

/** Open commitments of a project that may be the same, most alike first, but for those somebody said differ. */
export async function duplicatesOf(ws: Workspace, project: string): Promise<{ keep: LedgerRow; other: LedgerRow; like: number }[]> {
  mustSee(ws, project, 'project');
  const rows = await ledgerRows(ws, { project, state: 'open', lives: false });
  const by = new Map(rows.map((r) => [r.id, r]));
  const differ = new Set((await ws.db.selectFrom('differing').select(['one', 'other']).execute()).map((d) => `${d.one} ${d.other}`));
  return duplicatePairs(rows.map((r) => ({ id: r.id, text: r.text, owner: r.owner.map((o) => o.id), due: r.due })))
    .filter((p) => !differ.has(`${p.keep} ${p.other}`))
    .slice(0, 50)
    .map((p) => ({ keep: by.get(p.keep)!, other: by.get(p.other)!, like: p.like }));
}

export const DifferSchema = z.object({ differ: z.object({ keep: z.number().int(), other: z.number().int() }) });

/** Says that two commitments are not the same, so that they are not shown as that again. */
export async function sayTheyDiffer(ws: Workspace, { differ: { keep, other } }: z.infer<typeof DifferSchema>): Promise<void> {
  for (const id of [keep, other]) {
    const c = await ws.db.selectFrom('commitments').select('project_id').where('id', '=', id).executeTakeFirst();
    mustSee(ws, c?.project_id, 'commitment');
  }
  await ws.db
    .insertInto('differing')
    .values({ one: Math.min(keep, other), other: Math.max(keep, other), by_person: ws.asker.person })
    .onConflict((c) => c.doNothing())
    .execute();
}

export const SendSchema = z.object({ send: z.object({ ids: z.array(z.number().int()).min(1, 'needs a commitment').max(500), project: z.string().max(140) }) });

/**
 * Sends commitments to another project: each goes on there under a new reference, with its owner and date, and ends here
 * saying where it went. Its history stays in the project it happened in, and is told only to those who may see both.
 */
export async function sendToProject(ws: Workspace, { send: { ids, project } }: z.infer<typeof SendSchema>): Promise<Reshaped & { refs: string[] }> {
  mustSee(ws, project, 'project');
  const refs: string[] = [];
  const events = await ws.transaction(async (ws) => {
    const names = new Map((await ws.db.selectFrom('projects').select(['id', 'name']).execute()).map((p) => [p.id, p.name]));
    const out: number[] = [];
    for (const id of new Set(ids)) {
      const c = await ws.db.selectFrom('commitments').select(['number', 'project_id', 'state', 'text', 'due']).where('id', '=', id).executeTakeFirst();
      mustSee(ws, c?.project_id, 'commitment');
      if (c!.project_id === project) throw new Refusal('conflict', `C-${c!.number} is in ${names.get(project)} already.`);
      if (!isOpen(c!.state as 'open')) throw new Refusal('conflict', `C-${c!.number} is ${c!.state}.`, 'Reopen it first.');
      const owner = (await ws.db.selectFrom('commitment_owners').select('person_id').where('commitment_id', '=', id).execute()).map((o) => o.person_id);
      // whoever holds it goes along, as somebody outside
      if (owner.length)
        await ws.db
          .insertInto('memberships')
          .values(owner.map((person_id) => ({ project_id: project, person_id, sees: 0 })))
          .onConflict((x) => x.doNothing())
          .execute();
      const made = await makeCommitment(ws, project, { meeting: null, series: null }, { on: ws.today, meeting: null, data: { text: c!.text, owner, due: c!.due, reason: `from C-${c!.number} of ${names.get(c!.project_id)}` }, evidence: [] });
      refs.push(made.ref);
      out.unshift(made.event);
      out.unshift(await recordEvent(ws, made.id, { kind: 'merged', on: ws.today, meeting: null, data: { took: id, reason: `C-${c!.number} of ${names.get(c!.project_id)} came here` }, evidence: [] }));
      out.unshift(await recordEvent(ws, id, { kind: 'merged', on: ws.today, meeting: null, data: { into: made.id, reason: `went to ${names.get(project)} as ${made.ref}` }, evidence: [] }));
    }
    return out;
  });
  return { rows: await ledgerRows(ws, { state: 'all', ids }), events, refs };
}
