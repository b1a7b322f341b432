import type { Routine, Step } from '../../core/routines/routine.ts';
import type { RoutinesShown } from '../../server/pages/routines.ts';
import type { DryRun } from '../../server/routines/dry-run.ts';
import type { KeptRoutine } from '../../server/routines/routines.ts';
import type { LoggedRun } from '../../server/routines/runs.ts';

/** A line that is looked at: a routine, or a run of the log. */
export interface At {
  of: 'routine' | 'run';
  id: number;
}

/** A routine that is being written; `id` null for one that is new. */
export interface Draft {
  id: number | null;
  revision: number;
  routine: Routine;
}

/** A routine that is being tried: on which meeting, and what came of it. */
export interface Trial {
  routine: Routine;
  meeting: number | null;
  came: DryRun | null;
}

export interface RoutinesState {
  shown: RoutinesShown;
  at: At | null;
  draft: Draft | null;
  /** ready-made ones are being looked over */
  choosing: boolean;
  trial: Trial | null;
  /** runs whose steps are shown */
  open: readonly number[];
}

export type Told =
  | { do: 'shown'; shown: RoutinesShown; at?: At }
  | { do: 'runs'; runs: LoggedRun[] }
  | { do: 'run'; run: LoggedRun }
  | { do: 'step'; by: 1 | -1 }
  | { do: 'at'; at: At }
  | { do: 'write'; draft: Draft }
  | { do: 'draft'; routine: Routine }
  | { do: 'choose' }
  | { do: 'try'; trial: Trial }
  | { do: 'open'; run: number }
  | { do: 'leave' };

/** What happens on the Routines page. */
export function routinesReducer(state: RoutinesState, told: Told): RoutinesState {
  switch (told.do) {
    case 'shown':
      return { ...state, shown: told.shown, draft: null, choosing: false, trial: null, at: told.at ?? state.at };
    case 'runs':
      return { ...state, shown: { ...state.shown, runs: mergedRuns(state.shown.runs, told.runs) } };
    case 'run':
      return { ...state, shown: { ...state.shown, runs: mergedRuns(state.shown.runs, [told.run]) } };
    case 'step': {
      const lines = linesOf(state);
      const now = current(state);
      const n = lines.findIndex((l) => l.of === now?.of && l.id === now.id);
      const next = lines[Math.max(0, Math.min(lines.length - 1, n + told.by))];
      return next ? { ...state, at: next } : state;
    }
    case 'at':
      return { ...state, at: told.at };
    case 'write':
      return { ...state, draft: told.draft, choosing: false, trial: null, at: told.draft.id === null ? state.at : { of: 'routine', id: told.draft.id } };
    case 'draft':
      return state.draft ? { ...state, draft: { ...state.draft, routine: told.routine }, trial: null } : state;
    case 'choose':
      return { ...state, choosing: !state.choosing, draft: null, trial: null };
    case 'try':
      return { ...state, trial: told.trial };
    case 'open':
      return { ...state, at: { of: 'run', id: told.run }, open: state.open.includes(told.run) ? state.open.filter((id) => id !== told.run) : [...state.open, told.run] };
    default:
      // one thing at a time: first the trial, then what is being written
      return state.trial ? { ...state, trial: null } : { ...state, draft: null, choosing: false };
  }
}

/** Runs with those that changed in their place and new ones first. */
function mergedRuns(before: readonly LoggedRun[], came: readonly LoggedRun[]): LoggedRun[] {
  const all = new Map(before.map((r) => [r.id, r]));
  for (const r of came) all.set(r.id, r);
  return [...all.values()].sort((a, b) => b.id - a.id);
}

const linesOf = ({ shown }: RoutinesState): At[] => [...shown.routines.map((r) => ({ of: 'routine' as const, id: r.id })), ...shown.runs.map((r) => ({ of: 'run' as const, id: r.id }))];

/** The line that is looked at; the first one until another was chosen. */
export const current = (state: RoutinesState): At | null => {
  const lines = linesOf(state);
  return lines.find((l) => l.of === state.at?.of && l.id === state.at.id) ?? lines[0] ?? null;
};

export const currentRoutine = (state: RoutinesState): KeptRoutine | null => {
  const at = current(state);
  return at?.of === 'routine' ? (state.shown.routines.find((r) => r.id === at.id) ?? null) : null;
};

export const currentRun = (state: RoutinesState): LoggedRun | null => {
  const at = current(state);
  return at?.of === 'run' ? (state.shown.runs.find((r) => r.id === at.id) ?? null) : null;
};

/** Whether a run is under way by itself, or may begin; null where the page can be left as it is. */
export function goesOn({ shown }: RoutinesState): 'running' | 'on' | null {
  if (shown.runs.some((r) => r.state === 'running' || (r.state === 'waiting' && !r.word))) return 'running';
  return shown.routines.some((r) => r.state === 'on') ? 'on' : null;
}

/** Steps with one of them somewhere else. */
export function moved(steps: readonly Step[], n: number, by: 1 | -1): Step[] {
  const to = n + by;
  if (to < 0 || to >= steps.length) return [...steps];
  const out = [...steps];
  [out[n], out[to]] = [out[to]!, out[n]!];
  return out;
}

/** How a run stands, in words for its line. */
export function runStands(run: LoggedRun): string {
  const tries = run.steps[run.step]?.tries ?? [];
  const last = tries.at(-1);
  switch (run.state) {
    case 'waiting':
      return run.nextTry ? `failed for now, tried again at ${run.nextTry}: ${last?.said ?? ''}` : `waits for ${last?.said ?? 'its step'}`;
    case 'failed':
      return `failed: ${last?.said ?? ''}`;
    case 'done':
      return run.steps.at(-1)?.tries.at(-1)?.said ?? 'done';
    case 'stopped':
      return 'stopped';
    case 'left':
      return 'not this time';
    case 'offered':
      return 'offered';
    default:
      return 'is under way';
  }
}

/** Milliseconds as they are told: `0.4 s`, `3 min`, `2 h`, `3 days`. */
export function lasted(ms: number): string {
  if (ms < 60_000) return `${(ms / 1000).toFixed(1)} s`;
  if (ms < 3_600_000) return `${Math.round(ms / 60_000)} min`;
  return ms < 48 * 3_600_000 ? `${Math.round(ms / 3_600_000)} h` : `${Math.round(ms / 86_400_000)} days`;
}
