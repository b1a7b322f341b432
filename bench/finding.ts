import { rmSync } from 'node:fs';
import { dirname } from 'node:path';
import Sqlite from 'better-sqlite3';
import { find } from '../src/server/find/search.ts';
import { workspaceOf } from '../src/server/people/workspace.ts';
import { openDatabase } from '../src/server/store/database.ts';
import { BENCH_TODAY, makeWorkspace, numbers } from './workspace.ts';

type Row = [string, string, string, string];

/** Words of a meeting, in passages of so many. */
const [A_MEETING, A_PASSAGE] = [8000, 20];
const VOCABULARY = 20_000;

/** A made-up word for each number, so that there are as many as people use in a year of meetings. */
function wordAt(n: number): string {
  const [heads, tails] = [
    ['b', 'd', 'f', 'g', 'h', 'k', 'l', 'm', 'n', 'p', 'r', 's', 't', 'v', 'st', 'br', 'cl', 'tr'],
    ['a', 'e', 'i', 'o', 'u', 'an', 'el', 'or', 'ut', 'ish'],
  ];
  let out = '';
  for (let x = n + 180; x > 0; x = Math.floor(x / 180)) out += heads[x % 18]! + tails[Math.floor(x / 18) % 10]!;
  return out;
}

/** Fills the find index of a workspace with talk in which words come as often as they do in talk: the n-th by 1/n (G. K. Zipf, 1949). */
export function fill(file: string, meetings: number): void {
  const db = new Sqlite(file);
  db.pragma('synchronous = OFF');
  const pick = numbers(11);
  const words = Array.from({ length: VOCABULARY }, (_, i) => wordAt(i));
  // the inverse of Zipf's law by sampling: exp of a uniform number over the logarithm of the rank
  const zipf = () => words[Math.min(VOCABULARY - 1, Math.floor(Math.exp((pick(1_000_000) / 1_000_000) * Math.log(VOCABULARY))))]!;
  const triggers = db.prepare("SELECT name, sql FROM sqlite_master WHERE type = 'trigger' AND name LIKE 'passages_%'").all() as { name: string; sql: string }[];
  for (const t of triggers) db.exec(`DROP TRIGGER ${t.name}`);
  const put = db.prepare("INSERT INTO passages (project_id, kind, source, meeting_id, person_id, on_day, start, cuts, text) SELECT 'p', 'said', ?, ?, ?, date, ?, ?, ? FROM meetings WHERE id = ?");
  db.transaction(() => {
    for (let m = 1; m <= meetings; m++)
      for (let k = 0; k < A_MEETING / A_PASSAGE; k++) {
        const text = Array.from({ length: A_PASSAGE }, zipf).join(' ');
        put.run(m, m, `p${pick(40)}`, k * 9, `${k}:0`, text, m);
      }
    db.exec('DELETE FROM passage_queue');
  })();
  db.exec("INSERT INTO passages_fts (passages_fts) VALUES ('rebuild')");
  db.exec('INSERT OR IGNORE INTO passage_words SELECT term FROM passages_terms');
  for (const t of triggers) db.exec(t.sql);
  db.close();
}

/** What people type: words of something that was said, the very common ones left out; one in five is misspelt, begun, a phrase or narrowed. */
export function questions(file: string, many: number): string[] {
  const db = new Sqlite(file, { readonly: true });
  const pick = numbers(5);
  const { n } = db.prepare('SELECT max(id) AS n FROM passages').get() as { n: number };
  const text = db.prepare('SELECT text FROM passages WHERE id = ?').pluck();
  const rare = (w: string, rank: number) => w !== wordAt(rank) || rank > 40;
  const out = Array.from({ length: many }, (_, i) => {
    const said = (text.get(1 + pick(n)) as string).split(' ').filter((w) => rare(w, 0) && w.length > 4);
    const at = pick(Math.max(1, said.length - 2));
    const [a, b] = [said[at] ?? 'bana', said[at + 1] ?? 'dana'];
    return [a, `${a} ${b}`, `${a.slice(0, 3)}*`, `"${a} ${b}"`, `${a.slice(0, 2)}${a[3] ?? ''}${a[2] ?? ''}${a.slice(4)}`, `${a} who:"Person 3"`, `${a} since:"last month"`, `${a} ${b}`, a, `${a} near ${b}`][i % 10]!;
  });
  db.close();
  return out;
}

const p95 = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!;

async function measured(meetings: number, many: number): Promise<{ ours: number; bare: number }> {
  const file = await makeWorkspace({ meetings, commitments: 500, people: 60 });
  fill(file, meetings);
  const asked = questions(file, many);
  const db = await openDatabase(file);
  const bare = new Sqlite(file, { readonly: true });
  try {
    const ws = await workspaceOf(db, 'ines', BENCH_TODAY);
    const match = bare.prepare('SELECT rowid FROM passages_fts WHERE passages_fts MATCH ? ORDER BY rank LIMIT 80');
    const [ours, plain]: [number[], number[]] = [[], []];
    for (const q of asked.slice(0, 20)) await find(ws, q);
    for (const q of asked) {
      let at = performance.now();
      await find(ws, q);
      ours.push(performance.now() - at);
      at = performance.now();
      match.all(
        (q.replace(/\S+:\S*(?: \d+"|".*")?/g, '').match(/[a-z]+/g) ?? ['bana'])
          .filter((w) => w !== 'near')
          .map((w) => `"${w}"`)
          .join(' '),
      );
      plain.push(performance.now() - at);
    }
    return { ours: p95(ours), bare: p95(plain) };
  } finally {
    bare.close();
    await db.destroy();
    rmSync(dirname(file), { recursive: true, force: true });
  }
}

/** Searching 2,000 meetings of 8,000 words each, against the database engine's own ranking of the same words, and against a tenth of the meetings. */
export async function finding(meetings = 2000, many = 200): Promise<Row[]> {
  const whole = await measured(meetings, many);
  const tenth = await measured(meetings / 10, many);
  const ms = (x: number) => `${x < 10 ? x.toFixed(1) : Math.round(x)} ms`;
  return [
    [`Find in ${meetings} meetings of ${A_MEETING} words, 95th percentile`, ms(whole.ours), `the bare FTS5 query, ranked: ${ms(whole.bare)}`, (whole.ours / whole.bare).toFixed(2)],
    ['the same against a tenth of the meetings', ms(whole.ours), ms(tenth.ours), (whole.ours / tenth.ours).toFixed(2)],
  ];
}
