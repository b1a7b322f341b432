import { sql } from 'kysely';
import { addDays } from '../../core/dates/calendar.ts';
import { type CountryChoice, countryChoices } from '../../core/dates/countries.ts';
import { type Heat, heatOf } from '../../core/ledger/heat.ts';
import { countsAsLoose, countsAsOpen, figuresOf, isLate } from '../../core/ledger/predicates.ts';
import type { LetterRules } from '../../core/letters/rules.ts';
import { type LedgerRow, ledgerRows } from '../ledger/commitments.ts';
import { type RegisterRow, registerOf } from '../ledger/registers.ts';
import { planOf } from '../letters/plan.ts';
import { rulesOf } from '../letters/rules.ts';
import { type SeriesRow, seriesRows } from '../meetings/meetings.ts';
import { type Choice, choicesOf, peopleOf } from '../people/people.ts';
import { projectsOf } from '../people/projects.ts';
import type { Workspace } from '../people/workspace.ts';
import { keepDaysOf } from '../records/bringing-in.ts';

export interface ProjectView {
  id: string;
  name: string;
  heat: Heat;
  open: number;
  late: number;
}

export interface ProjectProps {
  today: string;
  current: ProjectView;
  others: ProjectView[];
  series: SeriesRow[];
  /** open commitments by how long they have been open, in weeks */
  ages: { weeks: string; count: number; late: number }[];
  owners: { id: string; name: string; open: number; late: number; loose: number }[];
  decisions: RegisterRow[];
  changed: { ref: string; text: string; kind: string; on: string; who: string }[];
  letters: { today: number; fortnight: number };
  hottest: LedgerRow[];
  /** how it works: what whoever runs it can change */
  settled: { project: string; name: string; archived: boolean; keepDays: number; country: string; workingDays: string; rules: LetterRules; people: Choice[]; countries: CountryChoice[] };
}

const heatInput = (r: LedgerRow) => ({ owner: r.owner.map((o) => o.id), due: r.due, lastOn: r.lastOn, carried: r.carried, moved: r.moved, waiting: r.state === 'blocked', undated: r.undated });
const AGES: [string, number][] = [
  ['this week', 7],
  ['1 to 2 weeks', 14],
  ['2 to 4 weeks', 28],
  ['4 to 8 weeks', 56],
  ['longer', Number.POSITIVE_INFINITY],
];

/** A project: what needs attention and why, what is open by age and owner, what changed, what was decided. */
export async function projectPage(ws: Workspace): Promise<ProjectProps> {
  const all = await projectsOf(ws);
  const views: ProjectView[] = [];
  let rows: LedgerRow[] = [];
  for (const p of all) {
    const own = (await ledgerRows(ws, { project: p.id, state: 'open', lives: false })).filter((r) => countsAsOpen(r, ws.today));
    if (p.id === ws.project) rows = own;
    views.push({ id: p.id, name: p.name, heat: heatOf(own.map(heatInput), ws.today), ...figuresOf(own, ws.today) });
  }
  const [row, rules, people, keepDays, series, decisions, plan, events] = await Promise.all([
    ws.db.selectFrom('projects').select(['country', 'working_days', 'archived_at']).where('id', '=', ws.project).executeTakeFirstOrThrow(),
    rulesOf(ws.db, ws.project),
    peopleOf(ws, ws.project),
    keepDaysOf(ws.db, ws.project),
    seriesRows(ws, ws.project),
    registerOf(ws, ws.project, 'decision'),
    planOf(ws.db, ws.project, ws.today),
    ws.db
      .selectFrom('events as e')
      .innerJoin('commitments as c', 'c.id', 'e.commitment_id')
      .innerJoin('people as p', 'p.id', 'e.by_person')
      .select(['c.number', 'c.text', 'e.kind', 'e.on_day', 'p.name'])
      .where('c.project_id', '=', ws.project)
      .where('c.state', '!=', 'withdrawn')
      .where('e.on_day', '>', addDays(ws.today, -7))
      // what was taken back did not happen
      .where(sql<boolean>`NOT EXISTS (SELECT 1 FROM events u WHERE u.commitment_id = e.commitment_id AND u.kind = 'undone' AND json_extract(u.data, '$.undoes') = e.id)`)
      .where('e.kind', 'in', ['made', 'moved', 'handed over', 'blocked', 'done', 'dropped', 'reopened'])
      .orderBy('e.on_day', 'desc')
      .orderBy('e.id', 'desc')
      .limit(40)
      .execute(),
  ]);
  const age = (r: LedgerRow) => Math.round((Date.parse(ws.today) - Date.parse(r.madeOn)) / 86_400_000);
  const owners = new Map<string, ProjectProps['owners'][number]>();
  for (const r of rows) {
    for (const o of r.owner.length ? r.owner : [{ id: 'nobody', name: 'Nobody yet' }]) {
      const x = owners.get(o.id) ?? { id: o.id, name: o.name, open: 0, late: 0, loose: 0 };
      x.open++;
      if (isLate(r, ws.today)) x.late++;
      if (countsAsLoose(r, ws.today)) x.loose++;
      owners.set(o.id, x);
    }
  }
  let below = -1;
  const points = (r: LedgerRow) => heatOf([heatInput(r)], ws.today).points;
  return {
    today: ws.today,
    current: views.find((v) => v.id === ws.project)!,
    others: views.filter((v) => v.id !== ws.project && !all.some((p) => p.id === v.id && p.archived)).sort((a, b) => b.heat.points - a.heat.points),
    series,
    ages: AGES.map(([weeks, to]) => {
      const own = rows.filter((r) => age(r) > below && age(r) <= to);
      below = to;
      return { weeks, count: own.length, late: own.filter((r) => isLate(r, ws.today)).length };
    }),
    owners: [...owners.values()].sort((a, b) => b.late - a.late || b.open - a.open),
    decisions: decisions.slice(0, 6),
    changed: events.map((e) => ({ ref: `C-${e.number}`, text: e.text, kind: e.kind, on: e.on_day, who: e.name })),
    letters: { today: plan.letters.filter((l) => l.day === ws.today && !l.held).length, fortnight: plan.letters.length },
    settled: { project: ws.project, name: views.find((v) => v.id === ws.project)?.name ?? '', archived: row.archived_at !== null, keepDays, country: row.country, workingDays: row.working_days, rules, people: choicesOf(people, ws.asker), countries: countryChoices() },
    hottest: rows.toSorted((a, b) => points(b) - points(a)).slice(0, 6),
  };
}
