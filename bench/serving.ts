import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { loadDemo } from '../demo/load.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { median } from './speed.ts';

type Row = [string, string, string, string];
const root = join(import.meta.dirname, '..');
const ms = (x: number) => `${x < 10 ? x.toFixed(1) : Math.round(x)} ms`;

/** Starts the built application on a demo of its own, and stops it after. */
export async function withServer<T>(run: (url: string, file: string, started: number, pid: number, answersPort: number) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'ottik-bench-'));
  const file = join(folder, 'ottik.db');
  const db = await openDatabase(file);
  await loadDemo(db, '2026-03-05', null);
  await db.destroy();
  const [port, answers] = [await freePort(), await freePort()];
  const at = performance.now();
  const server = spawn(process.execPath, ['dist/server/entry.mjs'], {
    cwd: root,
    env: { ...process.env, NODE_ENV: 'production', PORT: String(port), HOST: '127.0.0.1', OTTIK_WORK: '', OTTIK_ANSWERS: 'answers@ottik.example', OTTIK_ANSWERS_PORT: String(answers), OTTIK_ANSWERS_DIR: join(folder, 'answers'), OTTIK_DB: file, OTTIK_TODAY: '2026-03-05' },
    stdio: 'ignore',
  });
  const url = `http://127.0.0.1:${port}`;
  while (
    !(await fetch(`${url}/`).then(
      (r) => r.ok,
      () => false,
    ))
  )
    await new Promise((r) => setTimeout(r, 5));
  const started = performance.now() - at;
  try {
    return await run(url, file, started, server.pid!, answers);
  } finally {
    server.kill();
    rmSync(folder, { recursive: true, force: true });
  }
}

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

/** Median of several runs, in milliseconds, after warm-up. */
export async function medianOf(run: () => Promise<unknown>, times = 25, warm = 5): Promise<number> {
  for (let i = 0; i < warm; i++) await run();
  const out: number[] = [];
  for (let i = 0; i < times; i++) {
    const at = performance.now();
    await run();
    out.push(performance.now() - at);
  }
  return out.sort((a, b) => a - b)[Math.floor(times / 2)]!;
}

/** The Ledger page as a browser gets it against the bare query for its rows. */
export async function ledgerAgainstQuery(): Promise<Row[]> {
  return withServer(async (url, file) => {
    const page = await medianOf(() => fetch(`${url}/ledger`).then((r) => r.text()));
    const csv = await medianOf(() => fetch(`${url}/ledger.csv`).then((r) => r.text()));
    const raw = new Sqlite(file, { readonly: true });
    const statement = raw.prepare('SELECT c.*, p.name FROM commitments c LEFT JOIN commitment_owners o ON o.commitment_id = c.id LEFT JOIN people p ON p.id = o.person_id WHERE c.project_id = ? ORDER BY c.due');
    const query = median(() => statement.all('quiet-crossing'), 25, 5);
    raw.close();
    return [
      ['Ledger page', ms(page), `raw query ${query.toFixed(2)} ms`, (page / query).toFixed(0)],
      ['Ledger page', ms(page), `its bare endpoint (CSV) ${ms(csv)}`, (page / csv).toFixed(1)],
    ];
  });
}

/** From starting the process to the first page answered, against starting Node.js with nothing to do. */
export async function startUp(): Promise<Row[]> {
  const bare = await medianOf(() => new Promise((done) => spawn(process.execPath, ['-e', '0'], { stdio: 'ignore' }).on('exit', done)), 5);
  const started = await withServer(async (_url, _file, at) => at);
  return [['Start to first page', ms(started), `bare Node.js start ${ms(bare)}`, (started / bare).toFixed(1)]];
}
