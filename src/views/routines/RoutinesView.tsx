import { useEffect, useReducer, useState } from 'react';
import { readyMade } from '../../core/routines/ready-made.ts';
import { HAS_MEETING, type Routine } from '../../core/routines/routine.ts';
import { routineInWords } from '../../core/routines/sentences.ts';
import type { RoutinesShown } from '../../server/pages/routines.ts';
import type { DryRun } from '../../server/routines/dry-run.ts';
import type { KeptRoutine, RoutineChange } from '../../server/routines/routines.ts';
import type { LoggedRun, RunChange } from '../../server/routines/runs.ts';
import { get, post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { RoutineFields } from './RoutineFields.tsx';
import { RoutineLine } from './RoutineLine.tsx';
import { RunLine } from './RunLine.tsx';
import { type RoutinesAct, routinesKeys } from './routines-keys.ts';
import { current, currentRoutine, currentRun, goesOn, routinesReducer } from './routines-state.ts';
import { TrialPart } from './TrialPart.tsx';

/** How often the log is looked at again, in milliseconds: while a run is under way, and while one may begin. */
const LOOK_EVERY = { running: 3000, on: 20_000 };

type Kept = RoutinesShown & { id: number };

/** Routines: sentences that say what Ottik does by itself, and the log of what it did. */
export default function RoutinesView({ first }: { first: RoutinesShown }) {
  const [state, tell] = useReducer(routinesReducer, { shown: first, at: null, draft: null, choosing: first.routines.length === 0 && first.mayChange, trial: null, open: [] });
  const [said, setSaid] = useState<Said | null>(null);
  const { shown, draft, trial } = state;
  const nameOf = (id: string) => shown.people.find((p) => p.id === id)?.name ?? id;
  const titleOf = (id: string) => shown.series.find((s) => s.id === id)?.title ?? 'a series that is gone';
  const at = current(state);
  const wrong = (error: unknown) => setSaid(wentWrong(error));

  const going = goesOn(state);
  useEffect(() => {
    if (going === null) return;
    const timer = setInterval(() => {
      if (!document.hidden)
        get<LoggedRun[]>('/api/routine-runs').then(
          (runs) => tell({ do: 'runs', runs }),
          () => {},
        );
    }, LOOK_EVERY[going]);
    return () => clearInterval(timer);
  }, [going]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another line is looked at
  useEffect(() => {
    document.querySelector('[data-line=on]')?.scrollIntoView({ block: 'nearest' });
  }, [state.at]);

  const change = async (body: RoutineChange, told: Said, undo?: (id: number) => RoutineChange | null) => {
    try {
      const kept = await post<Kept>('/api/routines', body);
      tell({ do: 'shown', shown: kept, ...(body.do === 'remove' ? {} : { at: { of: 'routine' as const, id: kept.id } }) });
      const back = undo?.(kept.id);
      setSaid({ ...told, ...(back ? { undo: () => void change(back, { head: 'Taken back' }) } : {}) });
    } catch (error) {
      wrong(error);
    }
  };
  const keep = (on: boolean) => {
    if (!draft) return;
    const before = shown.routines.find((r) => r.id === draft.id);
    void change({ do: 'keep', id: draft.id, revision: draft.revision, routine: draft.routine, ...(draft.id === null ? { on } : {}) }, { head: draft.id === null && on ? `“${draft.routine.name}” is on` : 'Saved' }, (id) =>
      before ? { do: 'keep', id, revision: draft.revision + 1, routine: before.routine } : { do: 'remove', id },
    );
  };
  const turn = (r: KeptRoutine) =>
    void change({ do: 'switch', id: r.id, on: r.state !== 'on' }, { head: `“${r.routine.name}” is ${r.state === 'on' ? 'off' : 'on'}`, rest: r.state === 'on' ? 'what is under way goes on' : 'from now on; what happened before starts nothing' }, (id) => ({ do: 'switch', id, on: r.state === 'on' }));
  const remove = (r: KeptRoutine) => void change({ do: 'remove', id: r.id }, { head: `“${r.routine.name}” is removed`, rest: 'its log stays; what was under way is stopped' }, (id) => ({ do: 'put back', id }));
  const tryOn = async (routine: Routine, meeting: number | null) => {
    tell({ do: 'try', trial: { routine, meeting, came: null } });
    try {
      tell({ do: 'try', trial: { routine, meeting, came: await post<DryRun>('/api/routines/try', { do: 'try', routine, meeting }) } });
    } catch (error) {
      tell({ do: 'leave' });
      wrong(error);
    }
  };
  const tryIt = (routine: Routine) => void tryOn(routine, HAS_MEETING.has(routine.when.on) ? (shown.held[0]?.id ?? null) : null);
  const runAct = async (run: LoggedRun, act: RunChange) => {
    try {
      const { run: now, told } = await post<{ run: LoggedRun; told: string }>(`/api/routine-runs/${run.id}`, { do: act });
      tell({ do: 'run', run: now });
      setSaid({ head: told || `${now.name}: ${now.state}` });
    } catch (error) {
      wrong(error);
      get<LoggedRun[]>('/api/routine-runs').then(
        (runs) => tell({ do: 'runs', runs }),
        () => {},
      );
    }
  };
  const act = (what: RoutinesAct) => {
    const routine = currentRoutine(state);
    const run = currentRun(state);
    if (typeof what === 'object') return run && void runAct(run, what.run);
    switch (what) {
      case 'down':
        return tell({ do: 'step', by: 1 });
      case 'up':
        return tell({ do: 'step', by: -1 });
      case 'new':
        return tell({ do: 'choose' });
      case 'leave':
        return tell({ do: 'leave' });
      case 'open':
        return run && tell({ do: 'open', run: run.id });
      case 'edit':
        return routine && tell({ do: 'write', draft: { id: routine.id, revision: routine.revision, routine: routine.routine } });
      case 'switch':
        return routine && turn(routine);
      case 'try':
        return routine && tryIt(routine.routine);
      default:
        return routine && remove(routine);
    }
  };
  const writing = draft && <RoutineFields routine={draft.routine} isNew={draft.id === null} shown={shown} nameOf={nameOf} onChange={(routine) => tell({ do: 'draft', routine })} onKeep={keep} onTry={() => tryIt(draft.routine)} onLeave={() => tell({ do: 'leave' })} />;
  const trying = trial && <TrialPart trial={trial} held={shown.held} onMeeting={(meeting) => void tryOn(trial.routine, meeting)} onLeave={() => tell({ do: 'leave' })} />;
  return (
    <div className="routines">
      {state.choosing && (
        <section className="ready" aria-label="Ready-made routines">
          <p className="fl">
            Begin with<span>and change it</span>
          </p>
          <ul>
            {readyMade(shown.me, shown.today).map((r) => (
              <li key={r.name}>
                <button type="button" onClick={() => tell({ do: 'write', draft: { id: null, revision: 0, routine: { ...r, name: freeName(r.name, shown) } } })}>
                  <b>{r.name}</b>
                  <span className="sentence small">{routineInWords(r, { nameOf })}</span>
                </button>
              </li>
            ))}
          </ul>
          {shown.routines.length > 0 && (
            <p className="acts">
              <button type="button" className="may" onClick={() => tell({ do: 'leave' })}>
                Cancel <kbd>Esc</kbd>
              </button>
            </p>
          )}
        </section>
      )}
      {draft?.id === null && (
        <section className="ready" aria-label="New routine">
          <p className="fl">New routine</p>
          {writing}
          {trying}
        </section>
      )}
      <ul className="list" aria-label="Routines">
        {shown.routines.map((kept) =>
          draft?.id === kept.id ? (
            <li key={kept.id} className="routine at">
              <span className="fl">{kept.state}</span>
              {writing}
              {trying}
            </li>
          ) : (
            <RoutineLine key={kept.id} kept={kept} today={shown.today} current={at?.of === 'routine' && at.id === kept.id && !draft && !state.choosing} mayChange={shown.mayChange} nameOf={nameOf} titleOf={titleOf} onAt={() => tell({ do: 'at', at: { of: 'routine', id: kept.id } })} onAct={(what) => act(what)}>
              {!draft && at?.of === 'routine' && at.id === kept.id && trying}
            </RoutineLine>
          ),
        )}
      </ul>
      <section className="log" aria-label="Log of runs">
        <h2 className="lh">
          What they did<span>{shown.runs.length === 0 ? 'nothing yet' : 'the latest first'}</span>
        </h2>
        {shown.runs.length === 0 && <p className="moss">Each run will stand here with its steps, what came of each, and what failed.</p>}
        <ul>
          {shown.runs.map((run) => (
            <RunLine key={run.id} run={run} today={shown.today} current={at?.of === 'run' && at.id === run.id} open={state.open.includes(run.id)} nameOf={nameOf} onAt={() => tell({ do: 'at', at: { of: 'run', id: run.id } })} onOpen={() => tell({ do: 'open', run: run.id })} onAct={(a) => void runAct(run, a.act)} />
          ))}
        </ul>
        {shown.runs.length > 0 && shown.runs.length % 40 === 0 && (
          <button type="button" className="may" onClick={() => get<LoggedRun[]>(`/api/routine-runs?before=${shown.runs.at(-1)!.id}`).then((runs) => (runs.length ? tell({ do: 'runs', runs }) : setSaid({ head: 'These are all' })), wrong)}>
            Earlier runs
          </button>
        )}
      </section>
      <Foot said={said} keys={routinesKeys(state).map(({ act: what, ...k }) => ({ ...k, run: () => void act(what) }))} />
    </div>
  );
}

/** A ready-made name, with a number where it is taken. */
function freeName(name: string, { routines }: RoutinesShown): string {
  const taken = (n: string) => routines.some((r) => r.routine.name.toLowerCase() === n.toLowerCase());
  let out = name;
  for (let k = 2; taken(out); k++) out = `${name} ${k}`;
  return out;
}
