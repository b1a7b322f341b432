import { rmSync } from 'node:fs';
import { dirname } from 'node:path';
import Sqlite from 'better-sqlite3';
import { answers, readQuery } from '../src/core/ledger/query.ts';
import { ledgerRows } from '../src/server/ledger/commitments.ts';
import { planOf } from '../src/server/letters/plan.ts';
import { dayPage } from '../src/server/pages/day.ts';
import { ledgerPage } from '../src/server/pages/ledger.ts';
import { personPage } from '../src/server/pages/person.ts';
import { projectPage } from '../src/server/pages/project.ts';
import { weavePage } from '../src/server/pages/weave.ts';
import { workspaceOf } from '../src/server/people/workspace.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { medianOf } from './serving.ts';
import { BENCH_TODAY, makeWorkspace } from './workspace.ts';

type Row = [string, string, string, string];
const ms = (x: number) => `${x < 10 ? x.toFixed(1) : Math.round(x)} ms`;

interface Measured {
  name: string;
  own: number;
  /** the bare query for the same rows */
  bare: number;
}

const SIZE = { meetings: 2_000, commitments: 50_000, people: 300 };

/** Pages over years of work (2,000 meetings, 50,000 commitments, 300 people) against the bare query and a tenth of the size. */
export async function untilDone(): Promise<Row[]> {
  const tenth = await measure({ meetings: 200, commitments: 5_000, people: 30 });
  const whole = await measure(SIZE);
  return whole.flatMap((w, i): Row[] => [
    [`${w.name}, 50,000 commitments`, ms(w.own), `bare query ${ms(w.bare)}`, (w.own / w.bare).toFixed(1)],
    [`${w.name}, 50,000 commitments`, ms(w.own), `5,000 commitments ${ms(tenth[i]!.own)}`, (w.own / tenth[i]!.own).toFixed(1)],
  ]);
}

async function measure(size: typeof SIZE): Promise<Measured[]> {
  const file = await makeWorkspace(size);
  const db = await openDatabase(file);
  const raw = new Sqlite(file, { readonly: true });
  const ws = (await workspaceOf(db, 'ines', BENCH_TODAY)).with({ project: 'p' });
  const rows = await ledgerRows(ws, { project: 'p', state: 'all', lives: false });
  const query = readQuery('owner:name1 plinth age:>20');
  const sql = (text: string, ...values: unknown[]) => {
    const statement = raw.prepare(text);
    return () => statement.all(...values);
  };
  const open = "SELECT c.*, p.name FROM commitments c LEFT JOIN commitment_owners o ON o.commitment_id = c.id LEFT JOIN people p ON p.id = o.person_id WHERE c.project_id = 'p' AND c.state IN ('open', 'blocked') ORDER BY c.due";
  const jobs: [string, () => unknown, () => unknown][] = [
    ['Ledger, first page with counts', () => ledgerPage(ws, new URLSearchParams()), sql("SELECT state, COUNT(*), SUM(due < ?) FROM commitments WHERE project_id = 'p' GROUP BY state", BENCH_TODAY)],
    ['Ledger, every line', () => ledgerRows(ws, { project: 'p', state: 'all', lives: false }), sql(open.replace("AND c.state IN ('open', 'blocked') ", ''))],
    [
      'Ledger, a typed filter over every line',
      () => rows.filter((r) => answers(r, query, { today: BENCH_TODAY, me: 'ines' })),
      sql("SELECT c.id FROM commitments c JOIN commitment_owners o ON o.commitment_id = c.id JOIN people p ON p.id = o.person_id WHERE p.name LIKE '%name1%' AND c.text LIKE '%plinth%' AND c.made_on < date(?, '-20 days')", BENCH_TODAY),
    ],
    ['Weave of a series of 60 sittings', () => weavePage(ws, { series: 's1', person: null, order: 'owner', closed: true } as Parameters<typeof weavePage>[1]), sql("SELECT e.* FROM events e JOIN commitments c ON c.id = e.commitment_id WHERE c.series_id = 's1'")],
    ['Person', () => personPage(ws, 'p7'), sql("SELECT c.* FROM commitments c JOIN commitment_owners o ON o.commitment_id = c.id WHERE o.person_id IN ('p7', 'ines')")],
    ['Project with heat', () => projectPage(ws), sql(open)],
    ['Day sheet', () => dayPage(ws), sql(open)],
    ['Letter plan of a fortnight', () => planOf(db, 'p', BENCH_TODAY), sql(open)],
  ];
  const out: Measured[] = [];
  for (const [name, own, bare] of jobs) out.push({ name, own: await medianOf(async () => own(), 5, 1), bare: await medianOf(async () => bare(), 5, 1) });
  raw.close();
  await db.destroy();
  rmSync(dirname(file), { recursive: true, force: true });
  return out;
}
