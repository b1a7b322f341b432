import { ledgerRows } from '../ledger/commitments.ts';
import { type SeriesShown, seriesShown } from '../meetings/series.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import type { Workspace } from '../people/workspace.ts';

export interface SeriesProps extends SeriesShown {
  people: Choice[];
  open: number;
  today: string;
}

/** A series: what holds for it, its meetings, and how much is open in it. */
export async function seriesPage(ws: Workspace, id: string): Promise<SeriesProps> {
  const series = await seriesShown(ws, id);
  const [people, rows] = await Promise.all([peopleOf(ws, series.project), ledgerRows(ws, { project: series.project, state: 'open', series: id, lives: false })]);
  return { ...series, people: choicesOf(people, ws.asker), open: rows.length, today: ws.today };
}
