import type { RunChange } from '../../server/routines/runs.ts';
import { currentRoutine, currentRun, type RoutinesState } from './routines-state.ts';

/** What a key of the Routines page does. */
export type RoutinesAct = 'down' | 'up' | 'edit' | 'new' | 'switch' | 'try' | 'remove' | 'open' | 'leave' | { run: RunChange };

export interface RoutinesKey {
  key: string;
  does: string;
  line?: string;
  act: RoutinesAct;
}

/** The keys that do something as things stand: the foot of the page, the sheet of keys and the buttons come from here. */
export function routinesKeys(state: RoutinesState): RoutinesKey[] {
  if (state.draft || state.choosing || state.trial) return [{ key: 'Escape', does: 'leave it; nothing is kept', line: 'Leave', act: 'leave' }];
  const routine = currentRoutine(state);
  const run = currentRun(state);
  const { mayChange } = state.shown;
  return [
    { key: 'j', does: 'the next line', act: 'down' },
    { key: 'k', does: 'the line before', act: 'up' },
    ...(mayChange ? [{ key: 'n', does: 'a new routine', line: 'New', act: 'new' as const }] : []),
    ...(routine && mayChange
      ? ([
          { key: 'e', does: 'edit the routine', line: 'Edit', act: 'edit' },
          { key: 'o', does: routine.state === 'on' ? 'switch it off' : 'switch it on', line: routine.state === 'on' ? 'Off' : 'On', act: 'switch' },
        ] as const)
      : []),
    ...(routine ? [{ key: 't', does: 'try it on a past meeting; nothing is kept or sent', line: 'Try', act: 'try' as const }] : []),
    ...(routine && mayChange ? [{ key: 'x', does: 'remove the routine; its log stays, what is under way stops', act: 'remove' as const }] : []),
    ...(run ? [{ key: 'Enter', does: 'the steps of the run', line: 'Steps', act: 'open' as const }, ...runActs(run.state, run.word, took(run)).map(({ key, label, does, act }) => ({ key, does, line: label, act: { run: act } }))] : []),
  ];
}

const took = (run: { steps: readonly { tries: readonly { finds: number }[] }[] }) => run.steps.some((s) => s.tries.some((t) => t.finds > 0));

export interface RunAct {
  key: string;
  label: string;
  does: string;
  act: RunChange;
}

/** What can be done with a run as it stands. */
export function runActs(state: string, word: boolean, took: boolean): RunAct[] {
  const back: RunAct[] = took ? [{ key: 'b', label: 'Put finds back', does: 'put back the finds it took', act: 'take back' }] : [];
  switch (state) {
    case 'offered':
      return [
        { key: 'g', label: 'Run it', does: 'run what is offered', act: 'accept' },
        { key: 'x', label: 'Not this time', does: 'leave what is offered', act: 'leave' },
      ];
    case 'waiting':
      return [{ key: 'g', label: word ? 'Go on' : 'Look again', does: word ? 'let the run go on' : 'look at once whether it can go on', act: 'go on' }, { key: 'l', label: 'Leave the step out', does: 'go on without this step', act: 'past' }, { key: 'x', label: 'Stop', does: 'stop the run', act: 'stop' }, ...back];
    case 'failed':
      return [{ key: 'g', label: 'Run again', does: 'run again from the step that failed', act: 'again' }, { key: 'l', label: 'Leave the step out', does: 'go on without this step', act: 'past' }, ...back];
    case 'stopped':
      return [{ key: 'g', label: 'Run again', does: 'go on from the step it was stopped at', act: 'again' }, ...back];
    case 'running':
      return [{ key: 'x', label: 'Stop', does: 'stop the run after this step', act: 'stop' }];
    default:
      return back;
  }
}
