import Sqlite from 'better-sqlite3';
import { sql } from 'kysely';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { marksOf } from '../../../src/core/find/highlight.ts';
import { readFindQuery } from '../../../src/core/find/query.ts';
import { jot } from '../../../src/server/day/jottings.ts';
import { catchUp, healIndex } from '../../../src/server/find/index.ts';
import { find } from '../../../src/server/find/search.ts';
import { enterCommitment } from '../../../src/server/ledger/changes.ts';
import { findPage } from '../../../src/server/pages/find.ts';
import { inSight } from '../../../src/server/people/out-of-sight.ts';
import { type Workspace, workspaceOf } from '../../../src/server/people/workspace.ts';
import { keepRecord } from '../../../src/server/records/bringing-in.ts';
import { changeKeeping } from '../../../src/server/records/retention.ts';
import { log } from '../../../src/server/store/log.ts';
import { bytes, demoWorld, TODAY } from '../world.ts';

let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

const texts = async (q: string, of = ws) => (await find(of, q)).groups.flatMap((g) => g.hits.map((h) => h.pieces.map((p) => p.text).join('')));

describe('finding', () => {
  it('over all that was said, decided, promised, sent and jotted, grouped by where it stands', async () => {
    const found = await find(ws, 'dry corner');
    expect(new Set(found.facets.kind.map((k) => k.key))).toEqual(new Set(['said', 'commitment', 'letter', 'jotting']));
    expect(found.groups[0]!.title).toBe('Weekly works call, no. 1');
    const said = found.groups.flatMap((g) => g.hits).find((h) => h.kind === 'said' && h.who?.id === 'wim')!;
    expect(said.pieces.filter((p) => p.hit).map((p) => p.text)).toEqual(['dry', 'corner']);
    // a click from the moment
    expect(said.href).toMatch(/^\/meetings\/\d+\/sift\?record=\d+#s\d+$/);
  });
  it('a phrase over the border of two cues, a beginning, words near each other, one or the other, without', async () => {
    expect(await texts('"witness the factory test"')).toHaveLength(1);
    expect((await texts('transf*')).length).toBeGreaterThan(0);
    expect((await texts('anchors near tuesday')).length).toBeGreaterThan(0);
    const both = (await find(ws, 'welder or insurance')).total;
    expect(both).toBe((await find(ws, 'welder')).total + (await find(ws, 'insurance')).total);
    expect((await find(ws, 'diesel -hoist')).total).toBeLessThan((await find(ws, 'diesel')).total);
  });
  it('by who, where, what kind and when', async () => {
    for (const h of (await find(ws, 'weights who:bram')).groups.flatMap((g) => g.hits)) expect(h.who?.id).toBe('bram');
    expect((await find(ws, 'kind:decision')).facets.kind.map((k) => k.key)).toEqual(['decision']);
    expect((await find(ws, 'in:steering cells')).facets.in.map((f) => f.name)).toEqual(['Steering committee']);
    for (const g of (await find(ws, 'plinth since:"last week"')).groups) expect(g.on >= '2026-02-23').toBe(true);
    for (const g of (await find(ws, 'paper project:quiet')).groups) expect(g.project).toBe('quiet-crossing');
    expect((await find(ws, 'paper')).groups.some((g) => g.project === 'tide-tables')).toBe(true);
    expect((await find(ws, 'who:nobody-here plinth')).total).toBe(0);
  });
  it('by a reference', async () => {
    expect((await find(ws, 'C-2 kind:commitment')).groups[0]!.hits[0]!.ref).toBe('C-2');
  });
  it('what somebody said is found by their name beside a word of it', async () => {
    const found = await find(ws, 'plinth Dele');
    expect(found.groups.flatMap((g) => g.hits).some((h) => h.who?.id === 'dele' && !/dele/i.test(h.pieces.map((p) => p.text).join('')))).toBe(true);
  });
  it('a slip of the hand is put right and said; words that are together nowhere are looked for one by one', async () => {
    const slip = await find(ws, 'plnith');
    expect(slip.meant).toEqual([{ typed: 'plnith', taken: 'plinth' }]);
    expect(slip.total).toBeGreaterThan(3);
    const loose = await find(ws, 'plinth insurance');
    expect(loose).toMatchObject({ loosened: true });
    expect((await find(ws, 'xylophone')).total).toBe(0);
  });
  it('the newest first, where that is asked', async () => {
    const days = (await find(ws, 'cells', { order: 'newest' })).groups.map((g) => g.on);
    expect(days).toEqual([...days].sort().reverse());
  });
  it.each(['"', 'AND', '*', 'a:b', '(((', 'x"*"y', 'near near near', '-', '-a', "'; DROP TABLE passages; --", '\u0000', 'text:plinth', 'NEAR("a" "b")', '^plinth', '{text beside}: x'])('%j is looked for as it is, and breaks nothing', async (q) => {
    await expect(find(ws, q)).resolves.toMatchObject({ groups: expect.any(Array) });
  });
});

describe('the index', () => {
  it('grows with what is written, and forgets what is let go', async () => {
    await jot(ws, ws.project, { text: 'The zeppelin arrives on Tuesday' });
    expect(await texts('zeppelin')).toEqual(['The zeppelin arrives on Tuesday']);
    await enterCommitment(ws, ws.project, { text: 'Moor the zeppelin', owner: ['wim'], due: null });
    expect((await find(ws, 'zeppelins')).total).toBe(2);
    const kept = await keepRecord(
      ws,
      { project: ws.project, fileName: 'z.txt', meeting: null, series: null, title: 'Airship talk', date: '2026-03-04', author: 'ines', voices: {} },
      bytes('Ines Falk: The zeppelin needs a mast by Friday.\nBram Osei: I will build the mast.\nInes Falk: Good.\nBram Osei: The hull is sound.'),
    );
    expect((await find(ws, 'zeppelin')).total).toBe(3);
    const record = (await ws.db.selectFrom('records').select('id').where('meeting_id', '=', kept.meeting).executeTakeFirstOrThrow()).id;
    await changeKeeping(ws, record, { do: 'now' });
    // before anything is read in anew
    expect(await ws.db.selectFrom('passages').select('id').where('kind', '=', 'said').where('source', '=', record).execute()).toEqual([]);
    expect((await texts('mast kind:said')).filter((t) => /mast/i.test(t))).toEqual([]);
  });
  it('heals: a broken index is built anew, what is missing is read in, what has no source goes', async () => {
    await catchUp(ws.db);
    const before = (await find(ws, 'plinth')).total;
    await sql`INSERT INTO passages_fts (passages_fts) VALUES ('delete-all')`.execute(ws.db);
    expect((await find(ws, 'plinth')).total).toBe(0);
    expect(await healIndex(ws.db)).toEqual(['the index of words did not agree with the passages']);
    expect((await find(ws, 'plinth')).total).toBe(before);
    await ws.db.deleteFrom('passages').where('kind', '=', 'commitment').execute();
    await sql`INSERT INTO passages (project_id, kind, source, on_day, text) VALUES ('quiet-crossing', 'decision', 999999, '2026-03-01', 'a plinth of gold')`.execute(ws.db);
    expect(await healIndex(ws.db)).toEqual(['1 passages of decision had no source']);
    expect((await find(ws, 'plinth')).total).toBe(before);
  });
  it('a change during the reading is not missed', async () => {
    await ws.db.insertInto('passage_queue').values({ kind: 'commitment', source: 1 }).execute();
    const [row] = await ws.db.selectFrom('passage_queue').selectAll().execute();
    await ws.db
      .updateTable('passage_queue')
      .set({ n: row!.n + 1 })
      .where('source', '=', 1)
      .execute();
    await ws.db.deleteFrom('passage_queue').where('kind', '=', 'commitment').where('source', '=', 1).where('n', '=', row!.n).execute();
    expect(await ws.db.selectFrom('passage_queue').selectAll().execute()).toHaveLength(1);
    expect(await catchUp(ws.db)).toBe(0);
  });
  it('marks the words the engine’s own highlighting marks (SQLite, FTS5 auxiliary function highlight)', async () => {
    await catchUp(ws.db);
    for (const q of ['plinth', 'promise', 'train', '"dry corner"', 'transf*', 'weights or cells', 'anchors near tuesday', 'drawing']) {
      const terms = readFindQuery(q, TODAY).all.flat();
      const match = { plinth: '"plinth"', promise: '"promise"', train: '"train"', '"dry corner"': '"dry corner"', 'transf*': '"transf"*', 'weights or cells': '"weights" OR "cells"', 'anchors near tuesday': 'NEAR("anchors" "tuesday", 10)', drawing: '"drawing"' }[q]!;
      const rows = (await sql<{ text: string; marked: string }>`SELECT p.text, highlight(passages_fts, 0, '[[', ']]') AS marked FROM passages_fts JOIN passages p ON p.id = passages_fts.rowid WHERE passages_fts MATCH ${`text : (${match})`}`.execute(ws.db)).rows;
      expect(rows.length).toBeGreaterThan(0);
      for (const r of rows) {
        const ours = marksOf(r.text, terms).map((m) => r.text.slice(m.from, m.to).toLowerCase());
        const theirs = [...r.marked.matchAll(/\[\[(.*?)\]\]/gs)].map((m) => m[1]!.toLowerCase());
        // the engine marks only the nearest of NEAR’s words; ours has them all
        if (q.includes('near')) expect(ours).toEqual(expect.arrayContaining(theirs));
        else expect(ours).toEqual(theirs);
      }
    }
  });
  it('weighs by BM25 as it is defined (Robertson and Zaragoza 2009; k1 1.2 and b 0.75 as in SQLite’s documentation of FTS5)', () => {
    const db = new Sqlite(':memory:');
    db.exec("CREATE VIRTUAL TABLE t USING fts5 (x); INSERT INTO t VALUES ('the plinth is wet'), ('plinth plinth and the rain on the plinth'), ('rain'), ('a dry corner of the shed')");
    const docs = ['the plinth is wet', 'plinth plinth and the rain on the plinth', 'rain', 'a dry corner of the shed'].map((d) => d.split(' '));
    const average = docs.reduce((n, d) => n + d.length, 0) / docs.length;
    const holds = docs.filter((d) => d.includes('plinth')).length;
    // SQLite floors an idf that would be negative at 1e-6
    const idf = Math.max(1e-6, Math.log((docs.length - holds + 0.5) / (holds + 0.5)));
    const worked = (d: string[]) => {
      const f = d.filter((w) => w === 'plinth').length;
      return idf * ((f * 2.2) / (f + 1.2 * (1 - 0.75 + (0.75 * d.length) / average)));
    };
    const rows = db.prepare("SELECT rowid, bm25(t) AS score FROM t WHERE t MATCH 'plinth' ORDER BY rowid").all() as { rowid: number; score: number }[];
    for (const r of rows) expect(-r.score).toBeCloseTo(worked(docs[r.rowid - 1]!), 9);
    db.close();
  });
});

describe('who finds what', () => {
  it('a meeting out of sight is in no search, no count, no correction and no letter', async () => {
    const walk = await ws.db.selectFrom('meetings').select('id').where('title', '=', 'Yard walk with Bram').executeTakeFirstOrThrow();
    await ws.db.updateTable('meetings').set({ visibility: 'attendees' }).where('id', '=', walk.id).execute();
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'hanne').execute();
    await ws.db.updateTable('memberships').set({ sees: 1 }).where('person_id', '=', 'hanne').execute();
    const hanne = await inSight(await workspaceOf(ws.db, 'hanne', TODAY));
    expect((await find(ws, 'corroded')).total).toBeGreaterThan(0);
    for (const q of ['corroded', 'corrodde', '"photographs of the seat"', 'in:"yard walk"']) {
      const seen = await find(hanne, q);
      expect(seen.total, q).toBe(0);
      expect(seen.meant, q).toEqual([]);
      expect(seen.facets.in, q).toEqual([]);
    }
    expect((await find(hanne, 'plinth')).total).toBeGreaterThan(0);
  });
  it('jottings are found by whoever wrote them alone', async () => {
    const hanne = await inSight(await workspaceOf(ws.db, 'hanne', TODAY));
    expect((await find(ws, 'corridor')).total).toBe(1);
    expect((await find(hanne, 'corridor')).total).toBe(0);
  });
});

describe('while much is still to be read in', () => {
  it('that nothing was found is not said to be nothing on record', async () => {
    const db = ws.db;
    const asked = { q: 'who owns the plinth?', order: null, open: null, typing: false };
    const before = await findPage(ws, asked);
    expect(before.behind).toBe(0);
    expect(before.answered).toMatchObject({ answer: { missing: null } });
    // a reader that never gets through stands for an archive that takes long
    log.level = 'silent';
    await sql`CREATE TRIGGER slow BEFORE INSERT ON passages WHEN new.kind = 'commitment' BEGIN SELECT RAISE(ABORT, 'not yet'); END`.execute(db);
    await jot(ws, ws.project, { text: 'A marlinspike for the shed' });
    await db.deleteFrom('passages').where('kind', '=', 'commitment').execute();
    await sql`INSERT OR IGNORE INTO passage_queue (kind, source) SELECT 'commitment', id FROM commitments`.execute(db);
    const during = await findPage(ws, asked);
    expect(during.behind).toBeGreaterThan(0);
    expect(during.answered).toMatchObject({ answer: { lines: [], missing: expect.stringMatching(/^Nothing found yet: \d+ /) } });
    // and what can be read in is
    expect((await find(ws, 'marlinspike')).total).toBe(1);
    await sql`DROP TRIGGER slow`.execute(db);
    log.level = 'warn';
    expect((await findPage(ws, asked)).answered).toMatchObject({ answer: { missing: null } });
  });
});
