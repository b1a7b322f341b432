import { type RawBuilder, sql } from 'kysely';
import { addDays, type IsoDate } from '../../core/dates/calendar.ts';
import { carriedOver } from '../../core/ledger/due.ts';
import type { CommitmentState } from '../../core/ledger/state.ts';
import { type FlowPoint, flowOf } from '../../core/measures/flow.ts';
import type { Measured } from '../../core/measures/measured.ts';
import type { Workspace } from '../people/workspace.ts';
import { visible } from '../people/workspace.ts';

/** What is measured: null measures all of it. */
export interface MeasuredOf {
  project: string | null;
  series: string | null;
  person: string | null;
  /** without what ended before this day */
  endedFrom?: IsoDate;
}

/** Every commitment of a project, a series or a person, as measuring needs it; three queries, however many there are. */
export async function measured(ws: Workspace, of: MeasuredOf): Promise<Measured[]> {
  const projects = of.project === null ? visible(ws) : visible(ws).filter((p) => p === of.project);
  if (projects.length === 0) return [];
  let query = ws.db.selectFrom('commitments as c').select(['c.id', 'c.number', 'c.project_id', 'c.series_id', 'c.state', 'c.made_on', 'c.ended_on', 'c.due', 'c.moved', 'c.undated']).where('c.project_id', 'in', projects).where('c.state', '!=', 'withdrawn').orderBy('c.id');
  if (of.series !== null) query = query.where('c.series_id', '=', of.series);
  if (of.person !== null) query = query.where('c.id', 'in', ws.db.selectFrom('commitment_owners').select('commitment_id').where('person_id', '=', of.person));
  if (of.endedFrom !== undefined) query = query.where((eb) => eb.or([eb('c.ended_on', 'is', null), eb('c.ended_on', '>=', of.endedFrom!)]));
  const rows = await query.execute();
  // what is narrowed is asked for by number; of all of it that would take longer than reading all
  const narrow = of.series !== null || of.person !== null || of.endedFrom !== undefined;
  const these = narrow ? sql<boolean>`c.id IN (SELECT value FROM json_each(${JSON.stringify(rows.map((r) => r.id))}))` : sql<boolean>`1`;
  const owners = new Map<number, string[]>();
  for (const o of await ws.db.selectFrom('commitment_owners as o').innerJoin('commitments as c', 'c.id', 'o.commitment_id').select(['o.commitment_id as id', 'o.person_id as person']).where('c.project_id', 'in', projects).where(these).execute()) push(owners, o.id, o.person);
  const dues = await datesOf(ws, projects, these);
  const held = new Map<string, string[]>();
  for (const m of await ws.db.selectFrom('meetings').select(['series_id', 'date']).where('project_id', 'in', projects).where('series_id', 'is not', null).where('sifted_at', 'is not', null).orderBy('date').execute()) push(held, m.series_id!, m.date);
  return rows.map((c) => {
    const owner = owners.get(c.id) ?? [];
    const state = c.state as CommitmentState;
    const loose = (state === 'open' || state === 'blocked') && (owner.length === 0 || (c.due === null && c.undated === 0));
    return { id: c.id, ref: `C-${c.number}`, project: c.project_id, series: c.series_id, owner, state, madeOn: c.made_on, endedOn: c.ended_on, due: c.due, dues: dues.get(c.id) ?? [{ on: c.made_on, due: c.due }], moved: c.moved, carried: carriedOver(c.made_on, c.ended_on, held.get(c.series_id ?? '') ?? []), loose };
  });
}

/** Twelve weeks, for a small chart. */
const RECENT = 83;

/** What was open and late of something over the last twelve weeks. */
export async function recentFlow(ws: Workspace, of: MeasuredOf): Promise<FlowPoint[]> {
  const from = addDays(ws.today, -RECENT);
  return flowOf(await measured(ws, { ...of, endedFrom: from }), from, ws.today);
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/**
 * The dates of those commitments whose date was moved, from the day each was given; what was taken back does not count. The
 * others have the one they were made with.
 */
async function datesOf(ws: Workspace, projects: readonly string[], these: RawBuilder<boolean>): Promise<Map<number, { on: IsoDate; due: IsoDate | null }[]>> {
  const columns = ['e.id', 'e.commitment_id as commitment', 'e.kind', 'e.on_day as on', sql<string | null>`json_extract(e.data, '$.due')`.as('due'), sql<string | null>`json_type(e.data, '$.due')`.as('says'), sql<number | null>`json_extract(e.data, '$.undoes')`.as('undoes')] as const;
  const events = ws.db
    .selectFrom('events as e')
    .innerJoin('commitments as c', 'c.id', 'e.commitment_id')
    .select(columns)
    .where('c.project_id', 'in', [...projects])
    .orderBy('e.id');
  const changed = await events.where(these).where('e.kind', 'in', ['moved', 'handed over', 'undone']).execute();
  const ids = JSON.stringify([...new Set(changed.filter((e) => e.says !== null).map((e) => e.commitment))]);
  const made = await events.where('e.kind', '=', 'made').where(sql<boolean>`e.commitment_id IN (SELECT value FROM json_each(${ids}))`).execute();
  const undone = new Set(changed.flatMap((e) => e.undoes ?? []));
  const out = new Map<number, { on: IsoDate; due: IsoDate | null }[]>();
  for (const e of [...made, ...changed]) if (!undone.has(e.id) && (e.kind === 'made' || e.says !== null)) push(out, e.commitment, { on: e.on, due: e.due });
  return out;
}
