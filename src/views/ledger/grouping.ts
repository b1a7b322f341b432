import { DUE_WINDOWS, type DueWindow, dueWindow, fallsIn } from '../../core/ledger/due.ts';
import type { Grouping } from '../../core/ledger/look.ts';
import { isLoose, isPutOff } from '../../core/ledger/predicates.ts';
import { answers, namesState, type Query, type QueryContext } from '../../core/ledger/query.ts';
import { type Ending, isEnded } from '../../core/ledger/state.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';

/** The sentence and the typed words that lines are chosen by. */
export interface Filter {
  owner: string;
  state: string;
  series: string;
  due: string;
  text: string;
}

/** Everything that is open. */
export const ALL_OPEN: Filter = { owner: '', state: 'open', series: '', due: '', text: '' };

export interface Group {
  name: string;
  tone: 'late' | 'soon' | '';
  rows: LedgerRow[];
}

const WORDS: Record<string, string> = { late: 'Late', today: 'Due today', tomorrow: 'Tomorrow', 'this week': 'This week', 'next week': 'Next week', later: 'Later', 'no date': 'No date' };

const ENDINGS: Record<Ending, string> = { done: 'Done', dropped: 'Dropped', merged: 'Merged' };
const isEnding = (g: Group) => Object.values(ENDINGS).includes(g.name);

/** Rows under headings, in the order a person works through them; ended ones stand last under their own. */
export function groupRows(rows: readonly LedgerRow[], by: Grouping, today: string, projects: ReadonlyMap<string, string> = new Map()): Group[] {
  const groups = new Map<string, Group>();
  const put = (name: string, tone: Group['tone'], row: LedgerRow) => {
    const g = groups.get(name) ?? { name, tone, rows: [] };
    g.rows.push(row);
    groups.set(name, g);
  };
  if (by === 'due') for (const w of DUE_WINDOWS) groups.set(WORDS[w]!, { name: WORDS[w]!, tone: w === 'late' ? 'late' : w === 'today' || w === 'tomorrow' || w === 'no date' ? 'soon' : '', rows: [] });
  if (by === 'due') for (const name of Object.values(ENDINGS)) groups.set(name, { name, tone: '', rows: [] });
  for (const r of rows) {
    if (by === 'state') put(r.state === 'blocked' ? 'Waiting' : r.state[0]!.toUpperCase() + r.state.slice(1), '', r);
    else if (by === 'project') put(projects.get(r.project) ?? r.project, '', r);
    else if (isEnded(r.state)) put(ENDINGS[r.state], '', r);
    else if (by === 'due') put(WORDS[dueWindow(r.due, today)]!, '', r);
    else if (by === 'owner') for (const name of r.owner.length ? r.owner.map((o) => o.name) : ['Nobody yet']) put(name, name === 'Nobody yet' ? 'soon' : '', r);
    else put(r.from, '', r);
  }
  const out = [...groups.values()].filter((g) => g.rows.length);
  return by === 'due' || by === 'state' ? out : out.sort((a, b) => Number(isEnding(a)) - Number(isEnding(b)) || a.name.localeCompare(b.name));
}

/** Whether a row passes the sentence and the typed query. A query that names a state goes before the sentence. */
export function passes(r: LedgerRow, f: Omit<Filter, 'text'>, query: Query, context: QueryContext): boolean {
  const { today } = context;
  const ended = isEnded(r.state);
  const away = isPutOff(r, today);
  if (f.state === 'off' ? !away || ended || r.putOff === 'backlog' : f.state === 'backlog' ? r.putOff !== 'backlog' || ended : false) return false;
  const asked = namesState(query) || f.state === 'all' || f.state === 'ended' || f.state === 'off' || f.state === 'backlog';
  if (!namesState(query) && (f.state === 'open' ? ended : f.state === 'waiting' ? r.state !== 'blocked' : f.state === 'ended' ? !ended : f.state === 'loose' ? !isLoose(r) : false)) return false;
  if (f.owner === 'nobody' ? r.owner.length > 0 : f.owner !== '' && !r.owner.some((o) => o.id === f.owner)) return false;
  if (f.series !== '' && r.series !== f.series) return false;
  if (f.due !== '' && (ended || !fallsIn(r.due, f.due as DueWindow, today))) return false;
  return answers(r, asked && !namesState(query) ? { ...query, terms: [...query.terms, ALL] } : query, context);
}

const ALL = { key: 'is', value: 'all', not: false, typed: '' };
