import { startOfWeek } from '../../core/dates/calendar.ts';
import { isLoose, isOpen } from '../../core/ledger/state.ts';
import { type LedgerRow, ledgerRows } from '../ledger.ts';
import { type SavedView, viewsOf } from '../ledger-views.ts';
import { calendarPath } from '../own-calendar.ts';
import { type Choice, choicesOf, peopleOf } from '../people.ts';
import type { PageSession } from './page.ts';

export interface LedgerProps {
  rows: LedgerRow[];
  people: Choice[];
  series: { id: string; short: string }[];
  today: string;
  me: string;
  views: SavedView[];
  /** the next sitting, for dates such as “the next meeting” */
  next: string | null;
  start: { owner: string; state: string; series: string; due: string; text: string };
}

/** Everything the Ledger shows, with the filter of the address. */
export async function ledgerPage({ db, asker, project, today }: PageSession, q: URLSearchParams) {
  const [rows, people, series, views] = await Promise.all([ledgerRows(asker, db, { project, state: 'all' }), peopleOf(asker, db, project), db.selectFrom('series').select(['id', 'short']).where('project_id', '=', project).orderBy('short').execute(), viewsOf(asker, db, project)]);
  const open = rows.filter((r) => isOpen(r.state));
  const away = open.filter((r) => r.putOff !== null && !(r.putOff !== 'backlog' && r.putOff <= today));
  const view: LedgerProps = {
    rows,
    series,
    today,
    me: asker.person,
    views,
    next: null,
    people: choicesOf(people),
    start: { owner: q.get('owner') ?? '', state: q.get('state') ?? 'open', series: q.get('series') ?? '', due: q.get('due') ?? '', text: (q.get('text') ?? '').slice(0, 200) },
  };
  return {
    view,
    calendar: await calendarPath(db, asker),
    open: open.length,
    putOff: away.filter((r) => r.putOff !== 'backlog').length,
    backlog: away.filter((r) => r.putOff === 'backlog').length,
    late: open.filter((r) => r.due !== null && r.due < today).length,
    loose: open.filter((r) => isLoose({ owner: r.owner.map((o) => o.id), due: r.due, state: r.state })).length,
    done: rows.filter((r) => r.state === 'done').length,
    dropped: rows.filter((r) => r.state === 'dropped').length,
    doneThisWeek: rows.filter((r) => r.state === 'done' && (r.endedOn ?? '') >= startOfWeek(today)).length,
  };
}
