import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { addDays } from '../src/core/dates/calendar.ts';
import { openDatabase } from '../src/server/store/database.ts';

export const BENCH_TODAY = '2026-03-05';

/** Numbers that look random and are the same in every run (a linear congruential generator; constants of Numerical Recipes). */
export function numbers(seed: number): (below: number) => number {
  let x = seed >>> 0;
  return (below) => {
    x = (Math.imul(x, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((x / 4_294_967_296) * below);
  };
}

const WORDS = 'plinth crane weights drawing permit berth cable trunk shed cells gangway certificate welder frame survey noise diesel switchboard training rota price spares damper engine seat deck'.split(' ');

/**
 * A workspace of some size in a database file: people, series with their sittings, commitments with what happened to
 * them. Written straight into the tables, since making fifty thousand one by one would take longer than measuring.
 */
export async function makeWorkspace(size: { meetings: number; commitments: number; people: number }): Promise<string> {
  const file = join(mkdtempSync(join(tmpdir(), 'ottik-workspace-')), 'ottik.db');
  const shaped = await openDatabase(file);
  await shaped.destroy();
  const db = new Sqlite(file);
  db.pragma('synchronous = OFF');
  const pick = numbers(7);
  const series = Math.max(1, Math.round(size.meetings / 60));
  const run = db.transaction(() => {
    const person = db.prepare("INSERT INTO people (id, name, aliases, role, mail, organisation, account) VALUES (?, ?, '[]', '', ?, '', ?)");
    const member = db.prepare('INSERT INTO memberships (project_id, person_id, sees) VALUES (?, ?, ?)');
    db.prepare("INSERT INTO people (id, name, account, mail) VALUES ('ines', 'Ines Falk', 1, 'ines@x.example')").run();
    db.prepare("INSERT INTO projects (id, name, started_on, manager_id) VALUES ('p', 'Everything', '2024-01-01', 'ines')").run();
    member.run('p', 'ines', 1);
    for (let i = 0; i < size.people; i++) {
      person.run(`p${i}`, `Person ${i} Name${i}`, `p${i}@x.example`, 0);
      member.run('p', `p${i}`, 0);
    }
    const serie = db.prepare("INSERT INTO series (id, project_id, title, short, rule, starts_on, time, minutes) VALUES (?, 'p', ?, ?, 'FREQ=WEEKLY;BYDAY=TH', '2024-01-04', '10:00', 60)");
    const sitting = db.prepare("INSERT INTO meetings (id, project_id, series_id, title, date, time, minutes, number, sifted_at, next) VALUES (?, 'p', ?, ?, ?, '10:00', 60, ?, ?, NULL)");
    const there = db.prepare('INSERT INTO attendance (meeting_id, person_id, present) VALUES (?, ?, 1)');
    let meeting = 0;
    const dates: { id: number; date: string; series: string }[] = [];
    for (let s = 0; s < series; s++) {
      serie.run(`s${s}`, `Series ${s}`, `s${s}`);
      for (let k = 0; k < 60 && meeting < size.meetings; k++) {
        meeting++;
        const date = addDays(BENCH_TODAY, -7 * (59 - k) - (s % 5));
        sitting.run(meeting, `s${s}`, `Series ${s}`, date, k + 1, `${date}T12:00:00Z`);
        for (const who of ['ines', ...Array.from({ length: 6 }, () => `p${pick(size.people)}`)]) {
          try {
            there.run(meeting, who);
          } catch {
            // the same person twice
          }
        }
        dates.push({ id: meeting, date, series: `s${s}` });
      }
    }
    const commitment = db.prepare("INSERT INTO commitments (id, project_id, number, meeting_id, series_id, text, due, state, made_on, ended_on, moved, handed_over, last_on) VALUES (?, 'p', ?, ?, ?, ?, ?, ?, ?, ?, ?, 0, ?)");
    const owner = db.prepare('INSERT INTO commitment_owners (commitment_id, person_id) VALUES (?, ?)');
    const event = db.prepare("INSERT INTO events (commitment_id, kind, on_day, at, by_person, meeting_id, data) VALUES (?, ?, ?, ?, 'ines', ?, ?)");
    for (let i = 1; i <= size.commitments; i++) {
      const m = dates[pick(dates.length)]!;
      const due = pick(20) === 0 ? null : addDays(m.date, 7 + pick(40));
      // nine of ten are over: a workspace of years
      const ended = pick(10) > 0 ? addDays(m.date, 5 + pick(50)) : null;
      const over = ended !== null && ended <= BENCH_TODAY;
      const moved = pick(4) === 0 && due !== null;
      const text = `${WORDS[pick(WORDS.length)]} ${WORDS[pick(WORDS.length)]} and the ${WORDS[pick(WORDS.length)]} number ${i}`;
      const who = pick(25) === 0 ? 'ines' : `p${pick(size.people)}`;
      const last = over ? ended : addDays(m.date, pick(20));
      commitment.run(i, i, m.id, m.series, text, moved ? addDays(due, 7) : due, over ? 'done' : 'open', m.date, over ? ended : null, moved ? 1 : 0, last);
      owner.run(i, who);
      event.run(i, 'made', m.date, `${m.date}T12:00:00Z`, m.id, JSON.stringify({ text, owner: [who], due }));
      if (moved) event.run(i, 'moved', addDays(m.date, 7), `${m.date}T12:00:00Z`, null, JSON.stringify({ due: addDays(due, 7) }));
      event.run(i, over ? 'done' : 'restated', last, `${last}T12:00:00Z`, null, '{}');
    }
  });
  run();
  db.exec('ANALYZE');
  db.close();
  return file;
}
