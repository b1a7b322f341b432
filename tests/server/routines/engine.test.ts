import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { recordEvent } from '../../../src/server/ledger/commitments.ts';
import { workspaceOf } from '../../../src/server/people/workspace.ts';
import { advance, begin, notice, resumeRuns } from '../../../src/server/routines/engine.ts';
import { changeRoutine, routinesOf } from '../../../src/server/routines/routines.ts';
import { askable, changeRun, runAsked } from '../../../src/server/routines/runs.ts';
import { passFind, takeFind } from '../../../src/server/sift/judging.ts';
import { arrives, goes, type House, house, made, NOON, on, plus, routine, runs } from './house.ts';

// files share one process: what is switched off here is on again after it
const reader = process.env.OTTIK_CLOSE_READER;
beforeAll(() => {
  process.env.OTTIK_CLOSE_READER = 'off';
});
afterAll(() => {
  if (reader === undefined) delete process.env.OTTIK_CLOSE_READER;
  else process.env.OTTIK_CLOSE_READER = reader;
});

let h: House;
beforeEach(async () => {
  h = await house();
});

const POST = { do: 'post', text: 'It is {{ meeting.title }}' } as const;

describe('what starts a routine', () => {
  it('is a record that arrives after it was switched on, once', async () => {
    await arrives(h, 1);
    await on(h, routine({ on: 'record' }, [POST]));
    await goes(h, plus(1));
    expect(h.out.posts).toEqual([]);
    await arrives(h, 2);
    for (const minute of [2, 3, 4]) await goes(h, plus(minute));
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Yard huddle 2']);
    expect((await runs(h)).map((r) => [r.state, r.about])).toEqual([['done', 'record of Yard huddle 2, Thu 5 Mar']]);
  });
  it('is the end of a meeting, once its time is over, and not of a cancelled one', async () => {
    await on(h, routine({ on: 'end' }, [POST]), new Date('2026-03-12T08:00:00Z'));
    await goes(h, new Date('2026-03-12T09:30:00Z'));
    expect(h.out.posts).toHaveLength(0);
    await goes(h, new Date('2026-03-12T23:00:00Z'));
    await goes(h, new Date('2026-03-12T23:10:00Z'));
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Weekly works call']);
    await h.ws.db.updateTable('meetings').set({ cancelled_at: NOON.toISOString() }).where('date', '=', '2026-03-19').execute();
    await goes(h, new Date('2026-03-20T12:00:00Z'));
    expect(h.out.posts).toHaveLength(1);
  });
  it('is an answer, for those of the series it is kept to', async () => {
    const id = await on(h, routine({ on: 'answer' }, [{ do: 'post', text: '{{ answer.from }}: {{ answer.subject }}' }], { series: 'works' }));
    // as if the answers of the demo had come since
    await h.ws.db.updateTable('routines').set({ after_reply: 0 }).where('id', '=', id).execute();
    await goes(h, plus(1));
    expect(h.out.posts.length).toBeGreaterThan(2);
    expect(h.out.posts.every((p) => !/Out of office|Undelivered/.test(p.text))).toBe(true);
  });
  it('is a commitment that has become so many working days late; a new date begins anew, and the same lateness never twice', async () => {
    const c = await h.ws.db.selectFrom('commitments').select(['id', 'number']).where('project_id', '=', h.ws.project).where('state', '=', 'open').orderBy('id', 'desc').executeTakeFirstOrThrow();
    const due = (day: string) => h.ws.db.updateTable('commitments').set({ due: day }).where('id', '=', c.id).execute();
    await due('2026-03-06');
    await on(h, routine({ on: 'late', days: 3 }, [{ do: 'post', text: '{{ commitment.ref }}' }]));
    const told = () => h.out.posts.filter((p) => p.text === `C-${c.number}`).length;
    // Friday: Monday is the first working day after, Wednesday the third
    await goes(h, new Date('2026-03-10T12:00:00Z'));
    expect(told()).toBe(0);
    for (const day of ['11', '12', '13']) await goes(h, new Date(`2026-03-${day}T12:00:00Z`));
    expect(told()).toBe(1);
    await due('2026-03-13');
    await goes(h, new Date('2026-03-18T12:00:00Z'));
    expect(told()).toBe(2);
  });
  it('is the clock: so often, and of what was missed the last one', async () => {
    await on(h, routine({ on: 'time', text: 'every Friday at 10:00, three times', from: '2026-03-05' }, [{ do: 'post', text: '{{ today }}' }]));
    await goes(h, new Date('2026-03-06T07:00:00Z'));
    expect(h.out.posts).toHaveLength(0);
    await goes(h, new Date('2026-03-06T11:00:00Z'));
    await goes(h, new Date('2026-03-06T11:01:00Z'));
    expect(h.out.posts).toHaveLength(1);
    // two Fridays without Ottik
    await goes(h, new Date('2026-03-21T11:00:00Z'));
    expect((await runs(h)).map((r) => r.about)).toEqual(['Fri 20 Mar 10:00, made up for later', 'Fri 6 Mar 10:00, made up for later']);
    await goes(h, new Date('2026-03-27T12:00:00Z'));
    await goes(h, new Date('2026-04-03T12:00:00Z'));
    expect(h.out.posts).toHaveLength(3);
    expect((await routinesOf(h.ws))[0]).toMatchObject({ state: 'off', next: null });
  });
  it('is only what happens in a meeting it is kept to', async () => {
    await on(h, routine({ on: 'record' }, [POST], { kind: 'series' }));
    await on(h, routine({ on: 'record' }, [POST], { name: 'Two', kind: 'two' }));
    await arrives(h, 1);
    await goes(h, plus(1));
    expect((await runs(h)).map((r) => r.name)).toEqual(['Two']);
  });
  it('is what its person may see, and nothing where they are not in the project any more', async () => {
    await on(h, routine({ on: 'record' }, [POST]));
    const { meeting } = await arrives(h, 1);
    await h.ws.db.updateTable('meetings').set({ visibility: 'attendees' }).where('id', '=', meeting).execute();
    await h.ws.db.deleteFrom('attendance').where('meeting_id', '=', meeting).where('person_id', '=', 'ines').execute();
    await goes(h, plus(1));
    expect(h.out.posts).toEqual([]);
    await h.ws.db.updateTable('memberships').set({ sees: 0 }).where('person_id', '=', 'ines').where('project_id', '=', h.ws.project).execute();
    await arrives({ ...h, ws: h.ws }, 2).catch(() => undefined);
    await notice(h.ws.db, plus(2));
    expect(await h.ws.db.selectFrom('routines').select(['state', 'paused_why']).executeTakeFirstOrThrow()).toEqual({ state: 'paused', paused_why: 'Ines Falk no longer works in this project.' });
  });
});

describe('the steps of a run', () => {
  it('go from a record to a drafted round-up, with a person settling the finds between', async () => {
    await on(h, made('Round-up after every record'));
    const { meeting } = await arrives(h);
    let [run] = await runs(h);
    for (let minute = 1; minute < 20 && run?.step !== 1; minute++) {
      await goes(h, plus(minute));
      await new Promise((go) => setTimeout(go, 20));
      [run] = await runs(h);
    }
    expect(run).toMatchObject({ state: 'waiting', step: 1 });
    expect(run!.steps[0]!.tries[0]!.said).toMatch(/^\d finds? of the quick reader alone \(.*\), \d to settle$/);
    expect(run!.steps[1]!.tries).toMatchObject([{ state: 'waiting', said: expect.stringMatching(/^\d finds? to be settled$/) }]);
    for (const f of await h.ws.db.selectFrom('finds').select(['id', 'kind']).where('meeting_id', '=', meeting).where('verdict', '=', 'open').execute()) await (f.kind === 'action' ? takeFind(h.ws, f.id, {}) : passFind(h.ws, f.id));
    await goes(h, plus(30));
    [run] = await runs(h);
    expect(run).toMatchObject({ state: 'done' });
    expect(run!.steps[1]!.tries).toHaveLength(1);
    expect(await h.ws.db.selectFrom('letters').select(['kind', 'state']).where('meeting_id', '=', meeting).execute()).toEqual([{ kind: 'round-up', state: 'draft' }]);
  });
  it('take what is sure and leave the rest, and all that can be put back', async () => {
    await on(h, routine({ on: 'record' }, [{ do: 'take', sure: 50 }]));
    const { meeting } = await arrives(h);
    await goes(h, plus(1));
    const verdicts = async () => (await h.ws.db.selectFrom('finds').select(['verdict', 'data']).where('meeting_id', '=', meeting).where('twin_of', 'is', null).execute()).map((f) => [f.verdict, (JSON.parse(f.data) as { confidence: number }).confidence >= 0.495] as const);
    const all = await verdicts();
    expect(all.some(([verdict]) => verdict === 'taken')).toBe(true);
    expect(all.every(([verdict, sure]) => (verdict === 'taken') === sure)).toBe(true);
    const [run] = await runs(h);
    const took = run!.steps[0]!.tries[0]!;
    expect(took.said).toBe(`took ${took.finds} ${took.finds === 1 ? 'find' : 'finds'}; ${all.filter(([v]) => v === 'open').length} left to settle`);
    const { told } = await changeRun(h.ws, run!.id, 'take back', h.out, plus(2));
    expect(told).toMatch(/open again$/);
    expect((await verdicts()).every(([verdict]) => verdict === 'open')).toBe(true);
    await expect(changeRun(h.ws, run!.id, 'take back', h.out, plus(3))).rejects.toThrow('Nothing of this run can be put back');
  });
  it('issue minutes, and what is started by that', async () => {
    await on(
      h,
      routine({ on: 'record' }, [
        { do: 'minutes', act: 'issue' },
        { do: 'minutes', act: 'issue' },
      ]),
    );
    await on(h, routine({ on: 'minutes' }, [POST]));
    await arrives(h);
    await goes(h, plus(1));
    await goes(h, plus(2));
    const issued = (await runs(h)).find((r) => r.name === 'When record')!;
    expect(issued.steps.map((s) => s.tries[0]!.said)).toEqual(['version 1 issued', 'version 1 says the same already']);
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Yard huddle 1']);
  });
  it('send the round-up by the queue, once, though the step is there twice', async () => {
    await on(
      h,
      routine({ on: 'record' }, [
        { do: 'round-up', act: 'send' },
        { do: 'round-up', act: 'send' },
      ]),
    );
    const { meeting } = await arrives(h);
    await goes(h, plus(1));
    const [run] = await runs(h);
    expect(run!.steps.map((s) => s.tries[0]!.said)).toEqual(['on its way to 1 person', 'the round-up is on its way already']);
    expect(await h.ws.db.selectFrom('letters').select(['state', 'by_itself']).where('meeting_id', '=', meeting).execute()).toEqual([{ state: 'queued', by_itself: 1 }]);
    // what is done in somebody’s name stands in the audit
    expect(await h.ws.db.selectFrom('audit').select(['person_id', 'did', 'what']).orderBy('id').execute()).toEqual([1, 2].map(() => ({ person_id: 'ines', did: 'sent', what: 'routine “When record”: the round-up' })));
  });
  it('set the next meeting up, by words counted from this one, and not a second time', async () => {
    await on(
      h,
      routine({ on: 'record' }, [
        { do: 'next', when: 'a week later at 9:30' },
        { do: 'next', when: 'a week later at 9:30' },
      ]),
    );
    await arrives(h);
    await goes(h, plus(1));
    const [run] = await runs(h);
    expect(run!.steps.map((s) => s.tries[0]!.said)).toEqual(['set up for Thu 12 Mar 09:30, 2 asked to it', 'Yard huddle 1 stands on Thu 12 Mar 09:30 already']);
    expect(await h.ws.db.selectFrom('meetings').select(['date', 'time']).where('title', '=', 'Yard huddle 1').where('date', '>', '2026-03-05').execute()).toEqual([{ date: '2026-03-12', time: '09:30' }]);
  });
  it('mail an answer to those who sign in here, as each may see it', async () => {
    await on(h, routine({ on: 'time', text: 'every Friday at 10:00', from: '2026-03-05' }, [{ do: 'ask', question: 'What is late?', to: ['ines'] }]));
    await goes(h, new Date('2026-03-06T11:00:00Z'));
    expect(h.out.mails.map((m) => [m.to.name, m.subject])).toEqual([['Ines Falk', 'What is late? (Fri 6 Mar)']]);
    expect(h.out.mails[0]!.text).toMatch(/^- C-\d+ {2}/m);
    expect(h.out.mails[0]!.headers).toMatchObject({ 'Auto-Submitted': 'auto-generated' });
    await on(h, routine({ on: 'time', text: 'every Friday at 10:00', from: '2026-03-05' }, [{ do: 'ask', question: 'What is late?', to: ['bram'] }], { name: 'To Bram' }), new Date('2026-03-06T12:00:00Z'));
    await goes(h, new Date('2026-03-13T11:00:00Z'));
    expect((await runs(h)).find((r) => r.name === 'To Bram')!.steps[0]!.tries[0]!.said).toContain('does not sign in here');
  });
});

describe('what fails', () => {
  it('for the time being is tried again, later and later, and tells nobody twice', async () => {
    await on(h, routine({ on: 'record' }, [POST]));
    await arrives(h);
    h.out.fail = 2;
    await goes(h, plus(1));
    expect((await runs(h))[0]).toMatchObject({ state: 'waiting', nextTry: expect.stringMatching(/:02$/) });
    await goes(h, plus(1.5));
    expect(h.out.fail).toBe(1);
    await goes(h, plus(2.1));
    await goes(h, plus(3));
    expect(h.out.posts).toHaveLength(0);
    await goes(h, plus(8));
    expect(h.out.posts).toHaveLength(1);
    const [run] = await runs(h);
    expect([run!.state, ...run!.steps[0]!.tries.map((t) => t.state)]).toEqual(['done', 'failed', 'failed', 'done']);
  });
  it('for good waits for somebody, who has it run again from that step, and no step before it', async () => {
    await on(h, routine({ on: 'record' }, [{ do: 'minutes', act: 'issue' }, POST, { do: 'post', text: 'after' }]));
    await arrives(h);
    h.out.fail = 1;
    h.out.temporary = false;
    await goes(h, plus(1));
    let [run] = await runs(h);
    expect(run).toMatchObject({ state: 'failed', step: 1 });
    await goes(h, plus(60));
    expect(h.out.posts).toHaveLength(0);
    ({ run } = await changeRun(h.ws, run!.id, 'again', h.out, plus(61)));
    expect(run!.state).toBe('done');
    expect(run!.steps.map((s) => s.tries.map((t) => t.state))).toEqual([['done'], ['failed', 'done'], ['done']]);
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Yard huddle 1', 'after']);
  });
  it('so many times in a row pauses its routine, which says so; it starts anew from when it is switched on', async () => {
    const id = await on(h, routine({ on: 'record' }, [POST], { pauses: 2 }));
    h.out.fail = 9;
    h.out.temporary = false;
    await arrives(h, 1);
    await goes(h, plus(1));
    expect((await routinesOf(h.ws))[0]!.state).toBe('on');
    await arrives(h, 2);
    await goes(h, plus(2));
    expect((await routinesOf(h.ws))[0]).toMatchObject({ state: 'paused', pausedWhy: '2 runs in a row failed, the last one at “post to the project’s chat: “It is [title of the meeting]””: The chat channel cannot be reached.' });
    await arrives(h, 3);
    await goes(h, plus(3));
    expect(await runs(h)).toHaveLength(2);
    h.out.fail = 0;
    await changeRoutine(h.ws, { do: 'switch', id, on: true }, plus(4));
    await arrives(h, 4);
    await goes(h, plus(5));
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Yard huddle 4']);
  });
  it('is left out when somebody says so', async () => {
    await on(h, routine({ on: 'record' }, [POST, { do: 'post', text: 'after' }]));
    await arrives(h);
    h.out.fail = 1;
    h.out.temporary = false;
    await goes(h, plus(1));
    const { run, told } = await changeRun(h.ws, (await runs(h))[0]!.id, 'past', h.out, plus(2));
    expect([run.state, told, run.steps[0]!.tries.at(-1)!.said]).toEqual(['done', 'Posting to chat was left out', 'left out by Ines Falk']);
    expect(h.out.posts.map((p) => p.text)).toEqual(['after']);
  });
});

it('a run that is stopped while a step is under way stays stopped after it', async () => {
  await on(h, routine({ on: 'record' }, [POST, { do: 'post', text: 'after' }]));
  await arrives(h);
  const { post } = h.out.chat;
  h.out.chat.post = async (url, text, id) => {
    await changeRun(h.ws, (await runs(h))[0]!.id, 'stop', h.out, plus(1));
    return post(url, text, id);
  };
  await goes(h, plus(1));
  const [run] = await runs(h);
  expect([run!.state, run!.step, h.out.posts.map((p) => p.text)]).toEqual(['stopped', 1, ['It is Yard huddle 1']]);
});

describe('a stop of Ottik in the middle of a step', () => {
  const broken = async (steps: Parameters<typeof routine>[1]) => {
    const id = await on(h, routine({ on: 'record' }, steps));
    const { meeting } = await arrives(h);
    const run = (await begin(h.ws.db, { id, routine: routine({ on: 'record' }, steps) }, { key: 'record:99', about: 'record', meeting, commitment: null, reply: null }, NOON, null))!;
    await h.ws.db.insertInto('routine_steps').values({ run_id: run, position: 0, state: 'running', began_at: NOON.toISOString() }).execute();
    await resumeRuns(h.ws.db, plus(1));
    await advance(h.ws.db, h.out, run, plus(1));
    return (await runs(h)).find((r) => r.id === run)!;
  };
  it('has what stays in the house done again from its beginning', async () => {
    const run = await broken([{ do: 'minutes', act: 'issue' }]);
    expect([run.state, run.steps[0]!.tries.map((t) => t.said)]).toEqual(['done', ['version 1 issued']]);
  });
  it('does not send again what may have gone out, and says so', async () => {
    const run = await broken([POST]);
    expect(run.state).toBe('failed');
    expect(run.steps[0]!.tries[0]!.said).toContain('It may have gone out');
    expect(h.out.posts).toEqual([]);
  });
  it('cannot have a step done twice: the database refuses it', async () => {
    const run = await broken([{ do: 'minutes', act: 'issue' }]);
    await expect(h.ws.db.insertInto('routine_steps').values({ run_id: run.id, position: 0, state: 'done', began_at: NOON.toISOString() }).execute()).rejects.toThrow('UNIQUE');
  });
});

describe('a routine that is offered', () => {
  it('runs when somebody accepts it, and not when they leave it', async () => {
    await on(h, routine({ on: 'record' }, [POST, { do: 'wait', until: 'word' }, { do: 'post', text: 'after' }], { how: 'offered' }));
    await arrives(h, 1);
    await arrives(h, 2);
    await goes(h, plus(1));
    await goes(h, plus(2));
    expect(h.out.posts).toEqual([]);
    const [second, first] = await runs(h);
    expect([first!.state, second!.state]).toEqual(['offered', 'offered']);
    await changeRun(h.ws, first!.id, 'leave', h.out, plus(3));
    const { run } = await changeRun(h.ws, second!.id, 'accept', h.out, plus(3));
    expect(run).toMatchObject({ state: 'waiting', word: true });
    await goes(h, plus(4));
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Yard huddle 2']);
    await changeRun(h.ws, second!.id, 'go on', h.out, plus(5));
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Yard huddle 2', 'after']);
    await expect(changeRun(h.ws, first!.id, 'accept', h.out, plus(6))).rejects.toThrow('begun or left already');
    await expect(changeRun(h.ws, second!.id, 'go on', h.out, plus(6))).rejects.toThrow('does not wait');
  });
});

describe('a routine somebody asks for', () => {
  it('runs on the meeting that is looked at, else the last one held; twice at once it runs once', async () => {
    const id = await on(h, routine({ on: 'asked' }, [POST]));
    expect((await askable(h.ws, 6))[0]!.meeting!.id).toBe(6);
    expect((await askable(h.ws, null))[0]!.meeting).toEqual({ id: 10, words: 'Weekly works call, Thu 5 Mar' });
    const [a, b] = [await runAsked(h.ws, id, 6, h.out, NOON), await runAsked(h.ws, id, 6, h.out, plus(0.01))];
    expect(a.run.id).toBe(b.run.id);
    await runAsked(h.ws, id, 6, h.out, plus(1));
    expect(h.out.posts.map((p) => p.text)).toEqual(['It is Weekly works call', 'It is Weekly works call']);
    await expect(runAsked(h.ws, id, null, h.out, plus(2))).rejects.toThrow('needs a meeting');
  });
});

describe('keeping a routine', () => {
  it('refuses what cannot work, and says at which step', async () => {
    await expect(on(h, routine({ on: 'late', days: 2 }, [{ do: 'post', text: 'x' }, { do: 'sift' }]))).rejects.toThrow('Step 2: Sifting needs a meeting');
    await expect(on(h, routine({ on: 'record' }, [{ do: 'post', text: '{{ commitment.ref }}' }]))).rejects.toThrow('There is no {{ commitment.ref }} here');
    await on(h, routine({ on: 'record' }, [POST]));
    await expect(on(h, routine({ on: 'record' }, [POST]))).rejects.toThrow('There is a routine');
  });
  it('notices that somebody else changed it meanwhile', async () => {
    const id = await on(h, routine({ on: 'record' }, [POST]));
    const change = (revision: number) => changeRoutine(h.ws, { do: 'keep', id, revision, routine: routine({ on: 'record' }, [POST], { name: `Other ${revision}` }) }, NOON);
    await change(1);
    await expect(change(1)).rejects.toThrow('Somebody else changed this routine meanwhile');
  });
  it('is not begun by what happened before another beginning was chosen', async () => {
    const id = await on(h, routine({ on: 'minutes' }, [POST]));
    await arrives(h, 1);
    await changeRoutine(h.ws, { do: 'keep', id, revision: 1, routine: routine({ on: 'record' }, [POST]) }, plus(1));
    await goes(h, plus(2));
    expect(h.out.posts).toEqual([]);
  });
  it('is for managers: others neither change nor see those of projects that are not theirs', async () => {
    const id = await on(h, routine({ on: 'record' }, [POST]));
    await h.ws.db.updateTable('people').set({ account: 1 }).where('id', 'in', ['greta', 'bram']).execute();
    await h.ws.db.updateTable('memberships').set({ sees: 1, access: 'member' }).where('person_id', 'in', ['greta', 'bram']).execute();
    const bram = (await workspaceOf(h.ws.db, 'bram', h.ws.today)).with({ project: h.ws.project, needs: 'manage' });
    await expect(changeRoutine(bram, { do: 'switch', id, on: false }, NOON)).rejects.toThrow('Only a manager');
    const greta = (await workspaceOf(h.ws.db, 'greta', h.ws.today)).with({ project: 'tide-tables', needs: 'read' });
    await expect(changeRoutine(greta, { do: 'switch', id, on: false }, NOON)).rejects.toThrow('There is no such routine');
  });
  it('stops what is under way when it is removed: nothing goes out that nobody wants any more', async () => {
    const id = await on(h, routine({ on: 'record' }, [{ do: 'wait', until: 'settled' }, POST]));
    const { meeting } = await arrives(h, 1);
    await goes(h, plus(1));
    await changeRoutine(h.ws, { do: 'remove', id }, plus(2));
    for (const f of await h.ws.db.selectFrom('finds').select('id').where('meeting_id', '=', meeting).where('verdict', '=', 'open').execute()) await passFind(h.ws, f.id);
    await goes(h, plus(3));
    expect([(await runs(h))[0]!.state, h.out.posts]).toEqual(['stopped', []]);
  });
  it('keeps what it did when it is removed, and is put back', async () => {
    const id = await on(h, routine({ on: 'record' }, [POST]));
    await arrives(h, 1);
    await goes(h, plus(1));
    await changeRoutine(h.ws, { do: 'remove', id }, plus(2));
    expect(await routinesOf(h.ws)).toEqual([]);
    expect(await runs(h)).toHaveLength(1);
    await changeRoutine(h.ws, { do: 'put back', id }, plus(3));
    expect((await routinesOf(h.ws)).map((r) => r.state)).toEqual(['off']);
  });
});

it('a commitment that is done before it is late starts nothing', async () => {
  const c = await h.ws.db.selectFrom('commitments').select('id').where('project_id', '=', h.ws.project).where('state', '=', 'open').where('due', '>', h.ws.today).orderBy('id').executeTakeFirstOrThrow();
  await on(h, routine({ on: 'late', days: 1 }, [{ do: 'post', text: '{{ commitment.link }}' }]));
  await recordEvent(h.ws, c.id, { kind: 'done', on: h.ws.today, meeting: null, data: {}, evidence: [] });
  await goes(h, new Date('2026-06-01T12:00:00Z'));
  expect((await h.ws.db.selectFrom('routine_runs').select('commitment_id').execute()).every((r) => r.commitment_id !== c.id)).toBe(true);
});
