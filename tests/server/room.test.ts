import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { changeCommitment } from '../../src/server/ledger/changes.ts';
import { agendaOf, changeAgenda } from '../../src/server/meetings/agenda.ts';
import { endRoom } from '../../src/server/meetings/live/end.ts';
import { changeRoom, roomOf, roomStamp } from '../../src/server/meetings/live/room.ts';
import { type Workspace, workspaceOf } from '../../src/server/people/workspace.ts';
import { findsOf, keepFinds } from '../../src/server/sift/finds.ts';
import { demoWorld, TODAY } from './world.ts';

// files share one process: what is switched off here is on again after it
const reader = process.env.OTTIK_CLOSE_READER;
beforeAll(() => {
  process.env.OTTIK_CLOSE_READER = 'off';
});
afterAll(() => {
  if (reader === undefined) delete process.env.OTTIK_CLOSE_READER;
  else process.env.OTTIK_CLOSE_READER = reader;
});
const NOON = new Date(`${TODAY}T12:00:00Z`);
const plus = (minutes: number) => new Date(NOON.getTime() + minutes * 60_000);
/** the coming steering committee, and the last meeting that was held */
const [STEERING, HELD] = [13, 6];

let ws: Workspace;
beforeEach(async () => {
  ws = await demoWorld();
});

describe('the agenda of a meeting', () => {
  it('follows what is open until somebody changes it, and is kept from then on with who changed what', async () => {
    const built = await agendaOf(ws, STEERING);
    expect([built.kept, built.points[0]!.kind, built.points.at(-1)!.kind]).toEqual([false, 'review', 'read-back']);
    expect(built.review.flatMap((g) => g.rows.map((r) => r.ref)).length).toBeGreaterThan(0);
    const added = await changeAgenda(ws, STEERING, { do: 'add', title: 'Budget for the second berth', minutes: 15 }, NOON);
    expect([added.kept, added.points.at(-2)!.title, added.points.at(-2)!.by]).toEqual([true, 'Budget for the second berth', 'Ines Falk']);
    const at = added.points.length - 2;
    const first = await changeAgenda(ws, STEERING, { do: 'move', at, to: 0 }, NOON);
    expect(first.points[0]!.title).toBe('Budget for the second berth');
    await changeAgenda(ws, STEERING, { do: 'edit', at: 0, title: 'Budget', minutes: 20, note: 'Read https://plan.example first' }, NOON);
    const out = await changeAgenda(ws, STEERING, { do: 'remove', at: 0 }, NOON);
    expect(out.points.some((p) => p.title === 'Budget')).toBe(false);
    const back = await changeAgenda(ws, STEERING, { do: 'put back', point: out.removed! }, NOON);
    expect(back.points.find((p) => p.title === 'Budget')).toMatchObject({ minutes: 20, note: 'Read https://plan.example first' });
    expect(back.history.map((h) => h.what)).toEqual(['“Budget” put back', '“Budget” taken out', '“Budget for the second berth” is called “Budget”; “Budget” gets 20 min instead of 15; note on “Budget”', '“Budget for the second berth” moved to place 1', '“Budget for the second berth” added']);
  });
  it('is built anew around what people added, and has what stands every time', async () => {
    await changeAgenda(ws, STEERING, { do: 'add', title: 'Own point', minutes: 5 }, NOON);
    await changeAgenda(ws, STEERING, { do: 'standing', points: [{ title: 'Safety', minutes: 5 }] }, NOON);
    const anew = await changeAgenda(ws, STEERING, { do: 'build' }, NOON);
    expect(anew.points.map((p) => p.kind)).toEqual([...new Set(anew.points.map((p) => p.kind))].flatMap((k) => anew.points.filter((p) => p.kind === k).map(() => k)));
    expect(anew.points.map((p) => p.title)).toEqual(expect.arrayContaining(['Safety', 'Own point']));
    expect(anew.points.at(-1)!.kind).toBe('read-back');
  });
  it('has time for no more than the meeting, and says what goes without', async () => {
    for (let n = 0; n < 12; n++) await changeAgenda(ws, STEERING, { do: 'add', title: `Point ${n}`, minutes: 60 }, NOON);
    const full = await agendaOf(ws, STEERING);
    expect(full.points.reduce((n, p) => n + p.given, 0)).toBeLessThanOrEqual(full.minutes);
    expect(full.points.filter((p) => !p.fits).map((p) => p.title)).toEqual(full.without);
  });
});

describe('a meeting that is held', () => {
  const hold = async () => {
    await changeRoom(ws, STEERING, { do: 'begin', insist: true }, NOON);
    return roomOf(ws, STEERING);
  };
  const write = (text: string, at = 1, id = randomUUID()) => changeRoom(ws, STEERING, { do: 'line', id, text, point: null }, plus(at));
  it('begins on its day, or today when somebody insists, and never where it was held or is cancelled', async () => {
    await expect(changeRoom(ws, STEERING, { do: 'begin' }, NOON)).rejects.toMatchObject({ code: 'insist', message: 'This meeting is planned for Mon 30 Mar.' });
    await expect(changeRoom(ws, HELD, { do: 'begin', insist: true }, NOON)).rejects.toThrow('it has a record');
    await expect(write('too early')).rejects.toThrow('has not begun');
    const room = await hold();
    expect([room.state, room.meeting.date, room.points.length > 0]).toEqual(['running', TODAY, true]);
    // begun twice it has begun once
    expect((await changeRoom(ws, STEERING, { do: 'begin' }, plus(3))).marks.filter((m) => m.kind === 'begin')).toHaveLength(1);
  });
  it('keeps a line that is sent twice once, in the order they came, with who wrote and changed it', async () => {
    await hold();
    const id = randomUUID();
    await write('! Sam: draw the berth by Monday', 1, id);
    await write('! Sam: draw the berth by Monday', 2, id);
    const room = await write('= the berth stays', 3);
    expect(room.lines.map((l) => [l.read.kind, l.read.text, l.read.owner.join(), l.seconds, l.byName])).toEqual([
      ['action', 'Draw the berth', 'sam', 60, 'Ines Falk'],
      ['decision', 'The berth stays', '', 180, 'Ines Falk'],
    ]);
  });
  it('does not lose what two people make of one line: the second is told what the first wrote', async () => {
    await hold();
    const id = randomUUID();
    await write('! draw the berth', 1, id);
    await ws.db.updateTable('people').set({ account: 1 }).where('id', '=', 'hanne').execute();
    await ws.db.updateTable('memberships').set({ sees: 1 }).where('person_id', '=', 'hanne').execute();
    const hanne = (await workspaceOf(ws.db, 'hanne', TODAY)).with({ project: ws.project });
    await changeRoom(hanne, STEERING, { do: 'edit', id, text: '! draw the berth, Sam', revision: 1 }, plus(2));
    await expect(changeRoom(ws, STEERING, { do: 'edit', id, text: '! draw the quay', revision: 1 }, plus(3))).rejects.toThrow('Hanne Vik changed this line meanwhile: “! draw the berth, Sam”.');
    const room = await changeRoom(ws, STEERING, { do: 'edit', id, text: '! draw the quay, Sam', revision: 2 }, plus(4));
    expect(room.lines[0]).toMatchObject({ text: '! draw the quay, Sam', byName: 'Ines Falk', changedBy: 'Ines Falk', revision: 3 });
  });
  it('tells everybody of every change, and of nothing else', async () => {
    await hold();
    const id = randomUUID();
    const stamps = [await roomStamp(ws.db, STEERING)];
    const changed = async (act: () => Promise<unknown>) => {
      await act();
      stamps.push(await roomStamp(ws.db, STEERING));
    };
    await changed(() => write('! one', 1, id));
    await changed(() => changeRoom(ws, STEERING, { do: 'edit', id, text: '! two', revision: 1 }, plus(2)));
    await changed(() => changeRoom(ws, STEERING, { do: 'confirm', id, confirmed: true }, plus(2)));
    await changed(() => changeRoom(ws, STEERING, { do: 'remove', id, removed: true }, plus(2)));
    await changed(() => changeAgenda(ws, STEERING, { do: 'add', title: 'More', minutes: 5 }, plus(3)));
    const c = (await agendaOf(ws, STEERING)).review[0]!.rows[0]!.id;
    await changed(() => changeCommitment(ws, c, { do: 'done', meeting: STEERING }));
    expect(new Set(stamps).size).toBe(stamps.length);
    expect(await roomStamp(ws.db, STEERING)).toBe(stamps.at(-1));
    expect((await roomOf(ws, STEERING)).walked[c]).toMatchObject({ kind: 'done', by: 'Ines Falk' });
  });
  it('keeps what was written what it was, whatever signs its writer chooses later', async () => {
    await hold();
    await write('! call the board', 1);
    const room = await changeRoom(ws, STEERING, { do: 'legend', legend: { action: 'A', decision: 'D', question: '!', point: '-' } }, plus(2));
    expect([room.legend.question, room.lines[0]!.read.kind]).toEqual(['!', 'action']);
  });
  it('ends as a record: what is confirmed is taken and points at its line, the rest waits on Sift, and no reader says any of it twice', async () => {
    await hold();
    const [a, b, c] = [randomUUID(), randomUUID(), randomUUID()];
    await write('! Sam: draw the berth by Monday', 1, a);
    await write('= we keep the berth where it is', 2, b);
    await write('! call the board', 3, c);
    await write('? who pays for the second crane', 4);
    await write('Dele will send the permit by Friday.', 5);
    for (const id of [a, b]) await changeRoom(ws, STEERING, { do: 'confirm', id, confirmed: true }, plus(6));
    const { taken, left, room } = await endRoom(ws, STEERING, plus(50));
    expect([room.state, taken.map((t) => t[0])]).toEqual(['over', ['C', 'D']]);
    const finds = await findsOf(ws, STEERING);
    const written = finds.filter((f) => f.key.startsWith('written:'));
    expect(written.map((f) => [f.kind, f.verdict, f.text])).toEqual([
      ['action', 'taken', 'Draw the berth'],
      ['decision', 'taken', 'We keep the berth where it is'],
      ['action', 'open', 'Call the board'],
      ['question', 'open', 'Who pays for the second crane'],
    ]);
    expect(left).toBe(finds.filter((f) => f.verdict === 'open').length);
    // what was said in plain words is read as ever, and nothing else of what was written down
    const segments = written.map((f) => f.evidence[0]!.segment);
    expect(finds.filter((f) => !f.key.startsWith('written:') && f.update === null).every((f) => !f.evidence.some((e) => e.role === 'states' && segments.includes(e.segment)))).toBe(true);
    const made = await ws.db
      .selectFrom('commitments')
      .select(['text', 'due', 'meeting_id'])
      .where('number', '=', Number(taken[0]!.slice(2)))
      .where('project_id', '=', ws.project)
      .executeTakeFirstOrThrow();
    expect(made).toEqual({ text: 'Draw the berth', due: '2026-03-09', meeting_id: STEERING });
    // another reader comes to the same line later
    const action = written[2]!;
    await keepFinds(ws.db, STEERING, action.record, { reader: 'close', finds: [{ ...action, key: 'later', kind: 'decision', text: 'Call the board then' }] } as never);
    expect((await findsOf(ws, STEERING)).some((f) => f.text === 'Call the board then')).toBe(false);
    await expect(write('too late', 60)).rejects.toThrow('has ended');
    await expect(endRoom(ws, STEERING, plus(61))).rejects.toThrow('ended already');
  });
  it('puts something to the vote: everybody spreads their votes once, and what comes of it is a line with its figures', async () => {
    await hold();
    const room = await changeRoom(ws, STEERING, { do: 'vote', question: 'Where does the trunk go?', ideas: ['aft', 'over the shed'], each: 3 }, plus(1));
    const vote = room.votes[0]!.id;
    await expect(changeRoom(ws, STEERING, { do: 'vote', question: 'Another?', ideas: ['a', 'b'], each: 1 }, plus(1))).rejects.toThrow('A vote is under way');
    await expect(changeRoom(ws, STEERING, { do: 'spread', vote, marks: [3, 1] }, plus(2))).rejects.toThrow('Everybody has 3 votes');
    await changeRoom(ws, STEERING, { do: 'spread', vote, marks: [3, 0] }, plus(2));
    // thought better of: the last spread counts
    const before = await roomStamp(ws.db, STEERING);
    const spread = await changeRoom(ws, STEERING, { do: 'spread', vote, marks: [2, 1] }, plus(3));
    expect([spread.votes[0]!.ideas, spread.votes[0]!.mine, spread.votes[0]!.voters, (await roomStamp(ws.db, STEERING)) === before]).toEqual([
      [
        { text: 'aft', votes: 2 },
        { text: 'over the shed', votes: 1 },
      ],
      [2, 1],
      1,
      false,
    ]);
    const closed = await changeRoom(ws, STEERING, { do: 'close vote', vote }, plus(4));
    expect(closed.lines.map((l) => [l.read.kind, l.read.text])).toEqual([['decision', 'Where does the trunk go? aft (2 of 3 votes by 1 person; over the shed 1)']]);
    await expect(changeRoom(ws, STEERING, { do: 'spread', vote, marks: [0, 3] }, plus(5))).rejects.toThrow('This vote is closed');
    await expect(ws.db.updateTable('votes').set({ question: 'Other' }).where('id', '=', vote).execute()).rejects.toThrow('does not change');
  });
  it('without a line ends without a record', async () => {
    await hold();
    const { taken, room } = await endRoom(ws, STEERING, plus(10));
    expect([taken, room.meeting.records, room.state]).toEqual([[], 0, 'over']);
  });
  it('leaves what was not reached for the next agenda of its series', async () => {
    await changeAgenda(ws, STEERING, { do: 'add', title: 'Crane hire', minutes: 9 }, NOON);
    await hold();
    await endRoom(ws, STEERING, plus(10));
    const next = await ws.db.selectFrom('meetings').select('id').where('series_id', '=', 'steering').where('date', '>', TODAY).orderBy('date').executeTakeFirstOrThrow();
    expect((await agendaOf(ws, next.id)).points.find((p) => p.title === 'Crane hire')).toMatchObject({ kind: 'carried', minutes: 9, why: 'not reached on Thu 5 Mar' });
  });
});
