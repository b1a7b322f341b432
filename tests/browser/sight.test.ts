import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { sql } from 'kysely';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { VISIBILITIES, type Visibility } from '../../src/core/people/rights.ts';
import type { Db } from '../../src/server/store/database.ts';
import { Application } from './application.ts';

/** A word that stands in everything that comes from one meeting, and nowhere else. */
const MARK = 'Xanthorrhoea';
/** The meeting that is looked for: Ines was at it, the other visitors were not. */
const MEETING = 9;

async function marked(db: Db): Promise<void> {
  const triggers = (await sql<{ name: string; sql: string }>`SELECT name, sql FROM sqlite_master WHERE type = 'trigger'`.execute(db)).rows;
  for (const t of triggers) await sql.raw(`DROP TRIGGER "${t.name}"`).execute(db);
  const of = 'WHERE meeting_id = 9';
  for (const change of [
    `UPDATE meetings SET title = '${MARK} meeting', visibility = 'attendees' WHERE id = 9`,
    "DELETE FROM attendance WHERE meeting_id = 9 AND person_id IN ('hanne', 'dele', 'ruth', 'greta')",
    `UPDATE commitments SET text = '${MARK} ' || text ${of}`,
    `DELETE FROM commitment_owners WHERE person_id IN ('hanne', 'dele', 'ruth', 'greta') AND commitment_id IN (SELECT id FROM commitments ${of})`,
    `INSERT OR IGNORE INTO commitment_owners SELECT id, 'ines' FROM commitments ${of}`,
    `UPDATE finds SET data = json_set(data, '$.text', '${MARK} find') ${of}`,
    `UPDATE statements SET text = '${MARK} ' || text ${of}`,
    `UPDATE events SET data = json_set(data, '$.text', '${MARK} made') WHERE commitment_id IN (SELECT id FROM commitments ${of}) AND json_extract(data, '$.text') IS NOT NULL`,
    `UPDATE letters SET subject = '${MARK} letter', body = '${MARK}' || body WHERE meeting_id = 9 OR id IN (SELECT letter_id FROM letter_items WHERE commitment_id IN (SELECT id FROM commitments ${of}))`,
    `UPDATE replies SET words = '${MARK} ' || words WHERE recipient_id IN (SELECT id FROM letter_recipients WHERE letter_id IN (SELECT id FROM letters WHERE subject = '${MARK} letter'))`,
    "UPDATE people SET account = 1 WHERE id IN ('hanne', 'dele', 'ruth', 'greta', 'bram')",
    "UPDATE memberships SET sees = 1 WHERE person_id IN ('hanne', 'dele', 'ruth', 'greta', 'bram')",
    "UPDATE memberships SET access = 'manager' WHERE person_id = 'hanne'",
    "UPDATE memberships SET access = 'guest' WHERE person_id = 'ruth'",
    "INSERT OR IGNORE INTO passage_queue (kind, source) SELECT 'commitment', id FROM commitments UNION SELECT kind, id FROM statements UNION SELECT 'letter', id FROM letters UNION SELECT 'answer', id FROM replies",
  ])
    await sql.raw(change).execute(db);
  for (const t of triggers) await sql.raw(t.sql).execute(db);
}

/** Every address that shows something, with what its parts stand for. */
const PAGES = join(import.meta.dirname, '../../src/pages');
const NOT_OF_THE_WORKSPACE = /^\/(?:begin|sign-in|invited|shared|answer|api\/auth|api\/begin|api\/invited|api\/answer)/;
/** Streams that do not end, and what takes a body only. */
const OTHERWISE = new Set(['/api/ledger-live', '/api/meetings/9/live', '/api/meetings/9/room-live']);
/** What finds the word without being it: its beginning, a slip of the hand, questions whose answers would have it. */
const SEARCHES = [
  '/find?q=xanthorrh*',
  '/api/find?q=xanthorrhaea',
  '/api/find?q=kind:commitment',
  '/api/find?q=in:yard',
  '/api/find?q=what is unresolved?',
  '/api/find?q=what is late?',
  '/api/find?q=what changed in the last 300 days?',
  '/api/find?q=what was decided?',
  '/api/find?q=what is open with Bram?',
  '/find/dossier.md?about=xanthorrhaea',
];
function addresses(): string[] {
  const files = readdirSync(PAGES, { recursive: true, encoding: 'utf8' }).filter((f) => /\.(?:astro|ts)$/.test(f));
  return files
    .map(
      (f) =>
        `/${f
          .replaceAll('\\', '/')
          .replace(/\.(?:astro|ts)$/, '')
          .replace(/(?:^|\/)index$/, '')}`,
    )
    .filter((p) => !NOT_OF_THE_WORKSPACE.test(p))
    .flatMap((p) => (p.includes('[format]') ? ['md', 'csv', 'json', 'ics'].map((f) => p.replace('[format]', f)) : [p]))
    .flatMap((p) =>
      p.includes('people/[id]')
        ? ['ines', 'bram', 'ruth'].map((id) => p.replace('[id]', id))
        : p.includes('letters/[id]')
          ? LETTERS.map((id) => p.replace('[id]', String(id)))
          : p.includes('ledger/[ref]')
            ? COMMITMENTS.map((n) => p.replace('[ref]', `C-${n}`))
            : [p.replace('records/[id]', `records/${RECORD}`).replace('[id]', String(MEETING))],
    )
    .filter((p) => !p.includes('[') && !OTHERWISE.has(p))
    .concat(SEARCHES);
}

let app: Application;
let LETTERS: number[] = [];
let COMMITMENTS: number[] = [];
let RECORD = 0;
beforeAll(async () => {
  app = await Application.start({
    env: { OTTIK_DEMO: '1' },
    prepare: async (db) => {
      await marked(db);
      LETTERS = (await db.selectFrom('letters').select('id').execute()).map((l) => l.id).slice(-12);
      COMMITMENTS = (await db.selectFrom('commitments').select('number').where('meeting_id', '=', MEETING).where('project_id', '=', 'quiet-crossing').execute()).map((c) => c.number);
      RECORD = (await db.selectFrom('records').select('id').where('meeting_id', '=', MEETING).executeTakeFirstOrThrow()).id;
    },
  });
});
afterAll(() => app.stop());

const asked = async (path: string, person: string) => {
  const response = await fetch(app.url + path, { headers: { cookie: `person=${person}; project=quiet-crossing` } });
  return { path, status: response.status, tells: (await response.text()).includes(MARK) };
};
const all = async (person: string) => {
  const out = [];
  for (const path of [...addresses(), '/weave?series=works', '/ledger?state=all', '/ledger?by=owner', '/ledger/print?by=owner']) out.push(await asked(path, person));
  return out;
};

/** Who a visitor is: at the meeting or not, and what they are in its project. */
const VISITORS = { ines: 'a manager who was at it', hanne: 'a manager who was not', dele: 'a member who was not', ruth: 'a guest who was not', greta: 'a member of another project' } as const;
type Visitor = keyof typeof VISITORS;

/** Who sees the meeting and all that comes from it, by whom it is for. */
const SEES: Readonly<Record<Visibility, readonly Visitor[]>> = {
  attendees: ['ines'],
  project: ['ines', 'hanne', 'dele'],
  workspace: ['ines', 'hanne', 'dele', 'greta'],
};

describe.each(VISIBILITIES)('a meeting for: %s', (visibility) => {
  beforeAll(async () => {
    const response = await fetch(`${app.url}/api/meetings/${MEETING}/visibility`, { method: 'POST', headers: { 'content-type': 'application/json', origin: app.url, cookie: 'person=ines; project=quiet-crossing' }, body: JSON.stringify({ visibility }) });
    expect(response.status).toBe(200);
  });
  it.each(Object.keys(VISITORS) as Visitor[])('as %s is told what the table says', async (person) => {
    const seen = await all(person);
    expect(seen.length).toBeGreaterThan(50);
    expect(seen.filter((s) => s.status >= 500)).toEqual([]);
    const telling = seen.filter((s) => s.tells).map((s) => s.path);
    if (!SEES[visibility].includes(person)) return expect([VISITORS[person], telling]).toEqual([VISITORS[person], []]);
    for (const path of ['/meetings', `/meetings/${MEETING}/sift`, `/meetings/${MEETING}/gist`, `/meetings/${MEETING}/minutes`, '/ledger?state=all', '/ledger.csv', '/ledger.json', '/find?q=xanthorrh*', '/api/find?q=kind:commitment', '/find/dossier.md?about=xanthorrhaea', `/ledger/C-${COMMITMENTS[0]}`])
      expect(telling).toContain(path);
  });
});
