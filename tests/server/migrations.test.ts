import { sql } from 'kysely';
import { describe, expect, it } from 'vitest';
import { checkLedger } from '../../src/server/ledger/check.ts';
import { fillEverySeries } from '../../src/server/meetings/series.ts';
import { bringTo, type Db, openDatabase } from '../../src/server/store/database.ts';

/** A database as it was before merged commitments had a state of their own: two merged away, one of them reopened and dropped, one plainly dropped. */
async function olderDatabase(): Promise<Db> {
  const db = await openDatabase(':memory:', '006-several-records');
  const run = (text: string) => sql.raw(text).execute(db);
  await run(`INSERT INTO projects (id, name, started_on) VALUES ('p', 'Quay', '2026-01-05')`);
  await run(`INSERT INTO people (id, name) VALUES ('ines', 'Ines')`);
  const names = ['kept', 'merged', 'merged, then taken back', 'dropped', 'merged, reopened, dropped'];
  for (const [i, text] of names.entries()) {
    const state = i === 0 || i === 2 ? 'open' : 'dropped';
    await run(`INSERT INTO commitments (id, project_id, number, text, state, made_on, ended_on, moved, handed_over, last_on) VALUES (${i + 1}, 'p', ${i + 1}, '${text}', '${state}', '2026-03-01', ${state === 'open' ? 'NULL' : "'2026-03-02'"}, 0, 0, '${i === 3 || i === 4 ? '2026-03-02' : '2026-03-01'}')`);
  }
  let id = 0;
  const event = (commitment: number, kind: string, data: object) => run(`INSERT INTO events (id, commitment_id, kind, on_day, at, by_person, data, evidence) VALUES (${++id}, ${commitment}, '${kind}', '${kind === 'made' ? '2026-03-01' : '2026-03-02'}', '2026-03-02T10:00:00Z', 'ines', '${JSON.stringify(data)}', '[]')`);
  for (const [i, text] of names.entries()) await event(i + 1, 'made', { text });
  await event(2, 'merged', { into: 1 });
  await event(3, 'merged', { into: 1 });
  await event(3, 'undone', { undoes: id });
  await event(4, 'dropped', {});
  await event(5, 'merged', { into: 1 });
  await event(5, 'reopened', {});
  await event(5, 'dropped', {});
  return db;
}

describe('a database of an earlier shape', () => {
  it('tells merged commitments from dropped ones once it is brought to the newest', async () => {
    const db = await olderDatabase();
    await bringTo(db);
    const states = await db.selectFrom('commitments').select(['id', 'state']).orderBy('id').execute();
    expect(states.map((s) => s.state)).toEqual(['open', 'merged', 'open', 'dropped', 'dropped']);
    // what is stored is what the events say, which is how the state of each was worked out before
    expect((await checkLedger(db)).differences).toEqual([]);
    await db.destroy();
  });
  it('keeps what an earlier Ottik kept twice, and keeps nothing twice from then on', async () => {
    const db = await openDatabase(':memory:', '010-people-merged');
    const run = (text: string) => sql.raw(text).execute(db);
    await run(`INSERT INTO projects (id, name, started_on) VALUES ('p', 'Quay', '2026-01-05')`);
    await run(`INSERT INTO people (id, name) VALUES ('ines', 'Ines')`);
    for (const id of [1, 2]) await run(`INSERT INTO meetings (id, project_id, title, date) VALUES (${id}, 'p', 'Quay', '2026-02-0${id}')`);
    const record = (meeting: number) => run(`INSERT INTO records (meeting_id, format, encoding, layout, bytes, sha256, brought_at, brought_by, voices) VALUES (${meeting}, 'txt', 'utf-8', '', x'00', 'same', '2026-02-01', 'ines', '{}')`);
    const letter = () => run(`INSERT INTO letters (project_id, meeting_id, kind, subject, body, language, state, created_at, by_person, from_name, from_mail) VALUES ('p', 1, 'round-up', '', '', 'en', 'draft', '2026-02-01', 'ines', 'Ines', 'ines@x.example')`);
    for (const meeting of [1, 2]) {
      await record(meeting);
      await letter();
    }
    await bringTo(db);
    expect(await db.selectFrom('records').select('id').execute()).toHaveLength(2);
    expect(await db.selectFrom('letters').select('id').execute()).toHaveLength(2);
    await run(`INSERT INTO meetings (id, project_id, title, date) VALUES (3, 'p', 'Quay', '2026-02-03')`);
    await expect(record(3)).rejects.toThrow('kept already');
    await letter();
    await expect(letter()).rejects.toThrow('UNIQUE');
    await run("UPDATE letters SET state = 'withdrawn' WHERE id = 3");
    await letter();
    await db.destroy();
  });
  it('keeps its rows when it is brought there twice', async () => {
    const db = await olderDatabase();
    await bringTo(db);
    await bringTo(db);
    expect(await db.selectFrom('events').select('id').execute()).toHaveLength(12);
    await db.destroy();
  });
  it('still knows what was settled and judged before a forgetting', async () => {
    const db = await openDatabase(':memory:', '007-merged-and-columns');
    const run = (text: string) => sql.raw(text).execute(db);
    // the numbers and times of three tables are all that counts here
    await run('PRAGMA foreign_keys = OFF');
    for (const minute of [10, 30]) await run(`INSERT INTO find_changes (find_id, verdict, at, by_person) VALUES (1, 'passed', '2026-03-02T10:${minute}:00Z', 'ines')`);
    await run(`INSERT INTO find_judgements (find_id, by_person, "right", at) VALUES (1, 'bram', 0, '2026-03-02T10:40:00Z'), (1, 'ines', 1, '2026-03-02T10:15:00Z')`);
    await run(`INSERT INTO learned_resets (project_id, at, by_person) VALUES ('p', '2026-03-02T10:20:00Z', 'ines')`);
    await bringTo(db);
    const reset = await db.selectFrom('learned_resets').selectAll().executeTakeFirstOrThrow();
    expect((await db.selectFrom('find_changes').select('at').where('id', '>', reset.after_change).execute()).map((c) => c.at)).toEqual(['2026-03-02T10:30:00Z']);
    expect((await db.selectFrom('find_judgements').select('by_person').where('id', '>', reset.after_judgement).execute()).map((j) => j.by_person)).toEqual(['bram']);
    await db.destroy();
  });
  it('keeps how its series meet, which letters were wanted, and whom meetings are for', async () => {
    const db = await openDatabase(':memory:', '016-model-reader');
    const run = (text: string) => sql.raw(text).execute(db);
    await run("INSERT INTO projects (id, name, started_on) VALUES ('p', 'Quay', '2026-01-05'), ('q', 'Pier', '2026-01-05')");
    await run("INSERT INTO people (id, name, letters) VALUES ('ines', 'Ines', 'all'), ('dele', 'Dele', 'none')");
    await run("INSERT INTO memberships (project_id, person_id, sees) VALUES ('p', 'ines', 1), ('p', 'dele', 0), ('q', 'dele', 0)");
    await run("INSERT INTO series (id, project_id, title, short, weekday, every_weeks, time, minutes, place) VALUES ('a', 'p', 'Works', 'works', 2, 2, '10:00', 60, ''), ('b', 'p', 'Board', 'board', 7, 1, '09:00', 30, '')");
    await run("INSERT INTO meetings (id, project_id, series_id, title, date, visibility) VALUES (1, 'p', 'a', 'Works', '2026-02-03', 'attendees'), (2, 'p', 'a', 'Works', '2026-02-17', 'project'), (3, 'p', NULL, 'Visit', '2026-02-04', 'project')");
    await bringTo(db);
    expect(await db.selectFrom('series').select(['id', 'rule', 'starts_on', 'visibility']).orderBy('id').execute()).toEqual([
      { id: 'a', rule: 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU', starts_on: '2026-02-03', visibility: 'project' },
      { id: 'b', rule: 'FREQ=WEEKLY;BYDAY=SU', starts_on: '2000-01-01', visibility: 'project' },
    ]);
    expect(await db.selectFrom('meetings').select(['id', 'slot', 'visibility']).orderBy('id').execute()).toEqual([
      { id: 1, slot: '2026-02-03', visibility: 'attendees' },
      { id: 2, slot: '2026-02-17', visibility: 'project' },
      { id: 3, slot: null, visibility: 'project' },
    ]);
    expect(await db.selectFrom('letter_wishes').selectAll().orderBy('project_id').execute()).toEqual([
      { project_id: 'p', person_id: 'dele', letters: 'none' },
      { project_id: 'q', person_id: 'dele', letters: 'none' },
    ]);
    expect(await fillEverySeries(db, '2026-03-05')).toBe(16);
    await db.destroy();
  });
});
