import { rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { daysBetween } from '../src/core/dates/calendar.ts';
import { agesOf } from '../src/core/measures/ages.ts';
import { flowOf } from '../src/core/measures/flow.ts';
import { forecastOf } from '../src/core/measures/forecast.ts';
import { keptBy } from '../src/core/measures/kept.ts';
import { counts, type Measured } from '../src/core/measures/measured.ts';
import { slipsOf } from '../src/core/measures/slips.ts';
import { survivalOf } from '../src/core/measures/survival.ts';
import { measured } from '../src/server/ledger/measured.ts';
import { workspaceOf } from '../src/server/people/workspace.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { medianOf } from './serving.ts';
import { BENCH_TODAY, makeWorkspace } from './workspace.ts';

type Row = [string, string, string, string];

/** Every figure the core computes, once. */
function figures(all: readonly Measured[]): void {
  flowOf(all, '2024-01-01', BENCH_TODAY);
  agesOf(all, BENCH_TODAY);
  for (const by of ['month', 'owner', 'series'] as const) keptBy(all, by, BENCH_TODAY);
  survivalOf(all.filter(counts).map((c) => ({ days: Math.max(0, daysBetween(c.madeOn, c.endedOn ?? BENCH_TODAY)), ended: c.state === 'done' })));
  slipsOf(all);
  forecastOf(all, BENCH_TODAY);
}

async function times(commitments: number): Promise<{ core: number; read: number }> {
  const file = await makeWorkspace({ meetings: 2000, commitments, people: 200 });
  const db = await openDatabase(file);
  try {
    const ws = (await workspaceOf(db, 'ines', BENCH_TODAY)).with({ project: 'p' });
    const of = { project: 'p', series: null, person: null };
    const all = await measured(ws, of);
    return { core: await medianOf(async () => figures(all), 5, 1), read: await medianOf(() => measured(ws, of), 5, 1) };
  } finally {
    await db.destroy();
    rmSync(dirname(file), { recursive: true, force: true });
  }
}

/** All measures of 50,000 commitments, against reading them and against a tenth of them. */
export async function measuresBench(commitments = 50_000): Promise<Row[]> {
  const whole = await times(commitments);
  const tenth = await times(commitments / 10);
  const ms = (x: number) => `${Math.round(x)} ms`;
  return [
    [`All measures of ${commitments} commitments`, ms(whole.core), `reading them from the database: ${ms(whole.read)}`, (whole.core / whole.read).toFixed(2)],
    ['the same against a tenth of them', ms(whole.core), ms(tenth.core), (whole.core / tenth.core).toFixed(2)],
  ];
}
