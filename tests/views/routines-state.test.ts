import { describe, expect, it } from 'vitest';
import { readyMade } from '../../src/core/routines/ready-made.ts';
import type { RoutinesShown } from '../../src/server/pages/routines.ts';
import type { LoggedRun } from '../../src/server/routines/runs.ts';
import { routinesKeys, runActs } from '../../src/views/routines/routines-keys.ts';
import { current, goesOn, lasted, moved, type RoutinesState, routinesReducer, runStands, type Told } from '../../src/views/routines/routines-state.ts';

const READY = readyMade('ines', '2026-03-05');
const run = (id: number, state: LoggedRun['state'], rest: Partial<LoggedRun> = {}): LoggedRun => ({
  id,
  routine: 1,
  name: 'One',
  about: 'record',
  meeting: 6,
  state,
  day: '2026-03-05',
  time: '12:00',
  by: null,
  step: 0,
  nextTry: null,
  word: false,
  steps: [{ step: { do: 'sift' }, tries: [{ state: 'waiting', said: 'the record', details: [], time: '12:00', took: null, finds: 0 }] }],
  ...rest,
});
const shown = (runs: LoggedRun[] = [], on: 'on' | 'off' = 'off') =>
  ({
    today: '2026-03-05',
    me: 'ines',
    mayChange: true,
    routines: READY.slice(0, 2).map((routine, n) => ({ id: n + 1, routine, state: on, person: 'ines', personName: 'Ines', next: null, pausedWhy: null, failed: 0, revision: 1 })),
    runs,
    held: [],
    series: [],
    people: [],
    readers: [],
    channel: true,
    zone: 'UTC',
    house: null,
  }) satisfies RoutinesShown as RoutinesShown;
const start = (runs: LoggedRun[] = []): RoutinesState => ({ shown: shown(runs), at: null, draft: null, choosing: false, trial: null, open: [] });
const told = (state: RoutinesState, ...acts: Told[]) => acts.reduce(routinesReducer, state);
const acts = (state: RoutinesState) => routinesKeys(state).map((k) => k.key);

describe('the Routines page', () => {
  it('steps from routines on to the log, and no further', () => {
    const s = start([run(8, 'done'), run(7, 'failed')]);
    const at = (n: number) => current(told(s, ...Array.from({ length: n }, () => ({ do: 'step', by: 1 }) as const)));
    expect([0, 1, 2, 3, 9].map((n) => at(n)!.of + at(n)!.id)).toEqual(['routine1', 'routine2', 'run8', 'run7', 'run7']);
  });
  it('writes one thing at a time, and leaves the trial before what is written', () => {
    const written = told(start(), { do: 'choose' }, { do: 'write', draft: { id: null, revision: 0, routine: READY[0]! } });
    expect([written.choosing, written.draft!.routine.name]).toEqual([false, 'Round-up after every record']);
    const tried = told(written, { do: 'try', trial: { routine: READY[0]!, meeting: 6, came: null } });
    expect(told(tried, { do: 'leave' }).draft).not.toBeNull();
    expect(told(tried, { do: 'leave' }, { do: 'leave' }).draft).toBeNull();
    // a trial is of what was written then
    expect(told(tried, { do: 'draft', routine: READY[1]! }).trial).toBeNull();
  });
  it('keeps what is being written when the log moves', () => {
    const written = told(start([run(7, 'running')]), { do: 'write', draft: { id: 1, revision: 1, routine: READY[0]! } }, { do: 'runs', runs: [run(9, 'offered'), run(7, 'done')] });
    expect(written.draft).not.toBeNull();
    expect(written.shown.runs.map((r) => [r.id, r.state])).toEqual([
      [9, 'offered'],
      [7, 'done'],
    ]);
  });
  it('looks again while something goes on, and only then', () => {
    expect([goesOn(start([run(1, 'done')])), goesOn(start([run(1, 'waiting', { word: true })])), goesOn(start([run(1, 'waiting')])), goesOn({ ...start(), shown: shown([], 'on') })]).toEqual([null, null, 'running', 'on']);
  });
});

describe('its keys', () => {
  it('are those of the line that is looked at', () => {
    const s = start([run(8, 'offered')]);
    expect(acts(s)).toEqual(['j', 'k', 'n', 'e', 'o', 't', 'x']);
    expect(acts(told(s, { do: 'at', at: { of: 'run', id: 8 } }))).toEqual(['j', 'k', 'n', 'Enter', 'g', 'x']);
    expect(acts(told(s, { do: 'choose' }))).toEqual(['Escape']);
    expect(acts({ ...s, shown: { ...s.shown, mayChange: false } })).toEqual(['j', 'k', 't']);
  });
  it.each(['offered', 'waiting', 'failed', 'stopped', 'running', 'done', 'left'] as const)('no two do the same on a run that is %s', (state) => {
    for (const took of [true, false]) {
      const keys = runActs(state, false, took).map((a) => a.key);
      expect(new Set(keys).size).toBe(keys.length);
      expect(keys.includes('b')).toBe(took && ['waiting', 'failed', 'stopped', 'done', 'left'].includes(state));
    }
  });
});

it('says how a run stands', () => {
  expect(runStands(run(1, 'waiting'))).toBe('waits for the record');
  expect(runStands(run(1, 'waiting', { nextTry: '12:05' }))).toBe('failed for now, tried again at 12:05: the record');
  expect(runStands(run(1, 'left'))).toBe('not this time');
  expect([400, 90_000, 7_200_000, 300_000_000].map(lasted)).toEqual(['0.4 s', '2 min', '2 h', '3 days']);
});

it('moves a step by one place, and none out of the list', () => {
  const steps = READY[0]!.steps;
  expect(moved(steps, 0, 1).map((s) => s.do)).toEqual(['wait', 'sift', 'round-up']);
  expect(moved(steps, 0, -1)).toEqual(steps);
});
