import { sql } from 'kysely';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeCommitment, undoChange } from '../../src/server/ledger/changes.ts';
import { ledgerRows } from '../../src/server/ledger/commitments.ts';
import { trailOf } from '../../src/server/ledger/trail.ts';
import { meetingRows, waitingMeetings } from '../../src/server/meetings/meetings.ts';
import { askerFor } from '../../src/server/people/asker.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { keepRecord } from '../../src/server/records/bringing-in.ts';
import { previewRecord } from '../../src/server/records/preview.ts';
import { findsOf } from '../../src/server/sift/finds.ts';
import { markFind, passFind, reopenFind, takeFind } from '../../src/server/sift/judging.ts';
import { openDatabase } from '../../src/server/store/database.ts';
import { recordWords } from '../../src/server/store/segments.ts';
import { bytes, demoWorld, TODAY } from './world.ts';

let ws: Workspace;
beforeAll(async () => {
  ws = await demoWorld();
});
afterAll(() => ws.db.destroy());

const project = 'quiet-crossing';
const base = { project, fileName: null, meeting: null, series: null, author: null, voices: {} };

describe('the demo', () => {
  it('has two series, six weeks of meetings, commitments in every state, and one record to sift', async () => {
    const rows = await ledgerRows(ws, { project, state: 'all' });
    expect(new Set(rows.map((r) => r.state))).toEqual(new Set(['open', 'blocked', 'done']));
    expect(rows.filter((r) => r.state === 'open' && r.due !== null && r.due < TODAY).length).toBeGreaterThan(0);
    expect(rows.some((r) => r.owner.length === 0)).toBe(true);
    const waiting = await waitingMeetings(ws, project);
    expect(waiting).toHaveLength(1);
    expect(waiting[0]).toMatchObject({ title: 'Weekly works call', date: TODAY, number: 6 });
    expect((await meetingRows(ws, { project })).filter((m) => m.series === 'works' && m.date <= TODAY)).toHaveLength(6);
  });
  it('recognises what was open in the record that waits', async () => {
    const [waiting] = await waitingMeetings(ws, project);
    const updates = (await findsOf(ws, waiting!.id)).filter((f) => f.update);
    const rows = await ledgerRows(ws, { project, state: 'all' });
    const about = updates.map((u) => rows.find((r) => String(r.id) === u.update!.open)!.text);
    expect(about.some((t) => /plinth/i.test(t))).toBe(true);
    expect(about.some((t) => /diesel/i.test(t) || /welder/i.test(t))).toBe(true);
  });
});

describe('from a record to the Ledger and back', () => {
  it('takes an action: reference, event, evidence, owner and date as edited', async () => {
    const { meeting } = await keepRecord(
      ws,
      { ...base, title: 'Quay walk', date: '2026-03-04', voices: { Bram: { person: 'bram', name: null }, Zoe: { person: null, name: 'Zoe Lind' } } },
      bytes('Bram: Morning.\nZoe: Can you send the crane papers?\nBram: Yes, I will send the crane papers by Friday.\nZoe: Thanks.\nBram: Good.'),
    );
    const finds = await findsOf(ws, meeting);
    const action = finds.find((f) => f.kind === 'action')!;
    expect(action).toBeDefined();
    const taken = await takeFind(ws, action.id, { text: 'Send the crane papers', owner: ['bram', 'new:Ada Holm'], due: '2026-03-09' });
    expect(taken.ref).toMatch(/^C-\d+$/);
    const row = (await ledgerRows(ws, { project })).find((r) => r.ref === taken.ref)!;
    expect(row).toMatchObject({ text: 'Send the crane papers', due: '2026-03-09', state: 'open', madeOn: '2026-03-04' });
    expect(row.owner.map((o) => o.name)).toEqual(['Ada Holm', 'Bram Osei']);
    const trail = await trailOf(ws, project, Number(taken.ref!.slice(2)), async (r) => (await recordWords(ws.db, r)).segments);
    expect(trail.events).toHaveLength(1);
    expect(trail.events[0]!.said.some((s) => s.text.includes('crane papers'))).toBe(true);
    await expect(takeFind(ws, action.id, {})).rejects.toThrow(/taken already/);

    const back = await reopenFind(ws, action.id);
    expect(back.verdict).toBe('open');
    expect((await ledgerRows(ws, { project, state: 'all' })).some((r) => r.ref === taken.ref)).toBe(false);
    const again = await takeFind(ws, action.id, {});
    expect(Number(again.ref!.slice(2))).toBe(Number(taken.ref!.slice(2)) + 1);
  });
  it('passes a find, brings it back, and marks one by hand', async () => {
    const { meeting } = await keepRecord(ws, { ...base, title: 'Memo', date: '2026-03-04', author: 'ines' }, bytes('Okay, memo.\nThe rope locker needs a new lock.\nI will write to the owner of the quay on Monday.'));
    const record = (await ws.db.selectFrom('records').select('id').where('meeting_id', '=', meeting).executeTakeFirstOrThrow()).id;
    const marked = await markFind(ws, meeting, { record, segment: 1, from: 0, to: 15, kind: 'question', text: 'Does the rope locker need a lock?' });
    expect(marked).toMatchObject({ kind: 'question', verdict: 'open', reader: 'hand' });
    expect((await passFind(ws, marked.id)).verdict).toBe('passed');
    expect((await reopenFind(ws, marked.id)).verdict).toBe('open');
    expect((await takeFind(ws, marked.id, {})).ref).toMatch(/^Q-\d+$/);
    await expect(markFind(ws, meeting, { record, segment: 99, from: 0, to: 3, kind: 'action', text: 'xx' })).rejects.toThrow(/not in the record/);
  });
  it('takes an update, and refuses one of what is done already', async () => {
    const [waiting] = await waitingMeetings(ws, project);
    const update = (await findsOf(ws, waiting!.id)).find((f) => f.update?.kind === 'done');
    expect(update).toBeDefined();
    const taken = await takeFind(ws, update!.id, {});
    const row = (await ledgerRows(ws, { project, state: 'all' })).find((r) => r.ref === taken.ref)!;
    expect(row).toMatchObject({ state: 'done', endedOn: TODAY });
    await reopenFind(ws, update!.id);
    await changeCommitment(ws, row.id, { do: 'done' });
    await expect(takeFind(ws, update!.id, {})).rejects.toThrow(/done already/);
  });
});

describe('changes by hand', () => {
  it('are events, and are taken back by events', async () => {
    const row = (await ledgerRows(ws, { project })).find((r) => r.due !== null && r.state === 'open')!;
    const moved = await changeCommitment(ws, row.id, { do: 'move', due: '2026-04-01' });
    expect(moved.row).toMatchObject({ due: '2026-04-01', moved: row.moved + 1 });
    const back = await undoChange(ws, moved.event);
    expect(back.row).toMatchObject({ due: row.due, moved: row.moved });
    await expect(undoChange(ws, moved.event)).rejects.toThrow(/taken back already/);
    const done = await changeCommitment(ws, row.id, { do: 'done' });
    expect(done.row.state).toBe('done');
    await expect(changeCommitment(ws, row.id, { do: 'move', due: null })).rejects.toThrow(/is done/);
    expect((await changeCommitment(ws, row.id, { do: 'reopen' })).row.state).toBe('open');
  });
  it('refuse an owner nobody knows, and change nothing then', async () => {
    const row = (await ledgerRows(ws, { project }))[0]!;
    await expect(changeCommitment(ws, row.id, { do: 'hand over', owner: ['nobody-at-all'] })).rejects.toThrow(/Nobody here/);
    expect((await ledgerRows(ws, { project }))[0]).toEqual(row);
  });
});

describe('what the database holds to', () => {
  it('events are never changed and never deleted', async () => {
    await expect(ws.db.updateTable('events').set({ kind: 'done' }).where('id', '=', 1).execute()).rejects.toThrow(/never changed/);
    await expect(ws.db.deleteFrom('events').execute()).rejects.toThrow(/never deleted/);
    await expect(ws.db.deleteFrom('find_changes').execute()).rejects.toThrow(/never deleted/);
  });
  it('records are kept as they came', async () => {
    await expect(
      ws.db
        .updateTable('records')
        .set({ bytes: Buffer.from('x') })
        .execute(),
    ).rejects.toThrow(/as they came/);
  });
  it('foreign keys hold', async () => {
    await expect(ws.db.insertInto('commitment_owners').values({ commitment_id: 1, person_id: 'nobody' }).execute()).rejects.toThrow(/FOREIGN KEY/);
  });
  it('writes ahead in a file', async () => {
    const file = `/tmp/ottik-test-${process.pid}.db`;
    const other = await openDatabase(file);
    const { rows } = await sql<{ journal_mode: string }>`PRAGMA journal_mode`.execute(other);
    expect(rows[0]!.journal_mode).toBe('wal');
    await other.destroy();
  });
});

describe('who may see what', () => {
  it('people without an account ask nothing', async () => {
    await expect(askerFor(ws.db, 'bram')).rejects.toThrow(/no such account/);
  });
  it('a member of the small project sees nothing of the large one', async () => {
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'olu').execute();
    await ws.db.updateTable('memberships').set({ sees: 1 }).where('person_id', '=', 'olu').execute();
    const olu = await workspaceOf(ws.db, 'olu', TODAY);
    const rows = await ledgerRows(olu, { state: 'all' });
    expect(rows.length).toBeGreaterThan(0);
    expect(rows.every((r) => r.project === 'tide-tables')).toBe(true);
    expect(await ledgerRows(olu, { project, state: 'all' })).toEqual([]);
    const [waiting] = await waitingMeetings(ws, project);
    await expect(findsOf(olu, waiting!.id)).rejects.toThrow(/no such meeting/);
    const foreign = (await ledgerRows(ws, { project }))[0]!;
    await expect(changeCommitment(olu, foreign.id, { do: 'done' })).rejects.toThrow(/no such commitment/);
    await expect(keepRecord(olu, { ...base, title: 'x', date: TODAY }, bytes('a\nb'))).rejects.toThrow(/no such project/);
  });
});

describe('bad input', () => {
  const keep = (over: object, text: Uint8Array) => keepRecord(ws, { ...base, title: 'Bad', date: '2026-03-04', ...over }, text);
  const counts = async () =>
    Promise.all(
      (['meetings', 'records', 'finds', 'people'] as const).map(
        async (t) =>
          (
            await ws.db
              .selectFrom(t)
              .select(({ fn }) => fn.countAll<number>().as('n'))
              .executeTakeFirstOrThrow()
          ).n,
      ),
    );
  it.each([
    ['an empty file', {}, new Uint8Array(), /empty/],
    ['a binary file', {}, Uint8Array.from({ length: 600 }, (_, i) => i % 7), /not a text file/],
    ['captions without a cue', { fileName: 'x.vtt' }, bytes('WEBVTT\n\nnothing'), /no cue/],
    ['a day before the project began', { date: '2024-01-01' }, bytes('Ines: hello\nBram: hi\nInes: x'), /before the project began/],
    ['a day that has not come', { date: '2026-03-09' }, bytes('Ines: hello\nBram: hi\nInes: y'), /is in the future/],
    ['a series that is not there', { series: 'nope' }, bytes('Ines: hello\nBram: hi\nInes: z'), /no such series/],
    ['a name that is none', { voices: { Q: { person: null, name: '12' } } }, bytes('Q: hello\nBram: hi\nQ: zz'), /not a name/],
  ])('%s is refused and nothing is half-saved', async (_, over, text, words) => {
    const before = await counts();
    await expect(keep(over, text)).rejects.toThrow(words);
    expect(await counts()).toEqual(before);
  });
  it('the same record twice is told apart from a new one', async () => {
    await keep({ title: 'Once' }, bytes('Ines: only once\nBram: yes\nInes: good'));
    await expect(keep({ title: 'Twice' }, bytes('Ines: only once\nBram: yes\nInes: good'))).rejects.toThrow(/brought in already/);
  });
  it('Latin-1 and UTF-16 are read, and said', async () => {
    expect(await previewRecord(ws, project, Buffer.from('Ines: Gr\xfc\xdfe\nBram: ja\nInes: gut', 'latin1'), 'a.txt')).toMatchObject({ encoding: 'windows-1252', layout: 'Name: words' });
    expect((await previewRecord(ws, project, Buffer.from('\uFEFFInes: hello\nBram: hi\nInes: so', 'utf16le'), 'a.txt')).encoding).toBe('utf-16le');
  });
  it('a script in a record stays words', async () => {
    const { meeting } = await keep({ title: 'Script' }, bytes('Ines: <script>alert(1)</script> is what he wrote\nBram: ha\nInes: I will tell him by Friday.'));
    const record = (await ws.db.selectFrom('records').select('id').where('meeting_id', '=', meeting).executeTakeFirstOrThrow()).id;
    expect((await recordWords(ws.db, record)).segments[0]!.text).toBe('<script>alert(1)</script> is what he wrote');
  });
  it('five megabytes are sifted', async () => {
    const line = (i: number) => `Ines: So this is line ${i} and we talk about the ferry and the weather for a while.`;
    const { meeting } = await keep({ title: 'Long' }, bytes(Array.from({ length: 60_000 }, (_, i) => line(i)).join('\n')));
    expect(meeting).toBeGreaterThan(0);
  }, 120_000);
  it('a preview guesses the meeting it belongs to and keeps nothing', async () => {
    const before = await counts();
    const p = await previewRecord(ws, project, bytes('WEBVTT\n\n00:01.000 --> 00:02.000\n<v Bram Osei>Hi\n\n00:03.000 --> 00:04.000\n<v Stranger>Ho'), 'weekly-works-call-2026-03-05.vtt');
    expect(p).toMatchObject({ format: 'vtt', series: 'works', guess: { title: 'Weekly works call', date: TODAY, dateFrom: 'the file name' } });
    expect(p.voices).toEqual([
      { label: 'Bram Osei', turns: 1, person: 'bram' },
      { label: 'Stranger', turns: 1, person: null },
    ]);
    expect(await counts()).toEqual(before);
  });
});
