import { startOfWeek } from '../../core/dates/calendar.ts';
import { calendarPath } from '../ledger/calendar.ts';
import { type LedgerCounts, type LedgerRow, ledgerCounts, ledgerRows } from '../ledger/commitments.ts';
import { type SavedView, viewsOf } from '../ledger/views.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import { projectsOf } from '../people/projects.ts';
import type { Workspace } from '../people/workspace.ts';

export interface LedgerProps {
  rows: LedgerRow[];
  /** how many there are; the page asks for the others when these are shown */
  all: number;
  people: Choice[];
  series: { id: string; short: string }[];
  today: string;
  me: string;
  views: SavedView[];
  /** the projects it shows, by id; several where all are asked for */
  projects: Record<string, string>;
  /** other projects a commitment can be sent to */
  others: { id: string; name: string }[];
  start: { owner: string; state: string; series: string; due: string; text: string };
  /** how lines are grouped, as the address says it */
  by: string | null;
  /** the columns the address asks for */
  columns: string | null;
}

/** What is shown at once: the open ones that come first. */
const FIRST = 200;

/** Everything the Ledger shows first, with the filter of the address and exact counts. */
export async function ledgerPage(ws: Workspace, q: URLSearchParams) {
  const mine = await projectsOf(ws);
  const every = mine.filter((p) => q.get('projects') === 'all' || p.id === ws.project);
  const [several, rows, people, series, views] = await Promise.all([
    Promise.all(every.map((p) => ledgerCounts(ws, p.id, startOfWeek(ws.today)))),
    ledgerRows(ws, { ...(every.length > 1 ? {} : { project: ws.project }), state: 'open', limit: FIRST }),
    peopleOf(ws, ws.project),
    ws.db.selectFrom('series').select(['id', 'short']).where('project_id', '=', ws.project).orderBy('short').execute(),
    viewsOf(ws, ws.project),
  ]);
  const counts = several.reduce(together);
  const view: LedgerProps = {
    projects: Object.fromEntries(every.map((p) => [p.id, p.name])),
    others: mine.filter((p) => p.id !== ws.project).map(({ id, name }) => ({ id, name })),
    rows,
    all: counts.all,
    series,
    today: ws.today,
    me: ws.asker.person,
    views,
    people: choicesOf(people, ws.asker),
    start: { owner: q.get('owner') ?? '', state: q.get('state') ?? 'open', series: q.get('series') ?? '', due: q.get('due') ?? '', text: (q.get('text') ?? '').slice(0, 200) },
    by: q.get('by'),
    columns: q.get('columns'),
  };
  return { view, calendar: await calendarPath(ws), ...counts };
}

/** The figures in the title of the Ledger: of one project, or of all that the asker sees. */
export async function ledgerFigures(ws: Workspace, project: string, everywhere: boolean): Promise<LedgerCounts> {
  const ids = everywhere ? (await projectsOf(ws)).map((p) => p.id) : [project];
  return (await Promise.all(ids.map((id) => ledgerCounts(ws, id, startOfWeek(ws.today))))).reduce(together);
}

/** The counts of two projects as one. */
function together(a: LedgerCounts, b: LedgerCounts): LedgerCounts {
  return Object.fromEntries((Object.keys(a) as (keyof LedgerCounts)[]).map((k) => [k, a[k] + b[k]])) as unknown as LedgerCounts;
}
