import { useEffect, useState } from 'react';
import { stepInWords } from '../../core/routines/sentences.ts';
import type { LoggedRun } from '../../server/routines/runs.ts';
import { type RunAct, runActs } from '../routines/routines-keys.ts';
import { runStands } from '../routines/routines-state.ts';
import { get, post, wentWrong } from './api.ts';

/** How often it is looked again while a routine is under way, in milliseconds. */
const LOOK_EVERY = 3000;

/** Routines of a meeting on its pages: what each offers, waits for, or failed at, with what can be done. */
export default function RoutinesBar({ first, meeting }: { first: LoggedRun[]; meeting: number }) {
  const [runs, setRuns] = useState(first);
  const [said, setSaid] = useState<string | null>(null);
  const going = runs.some((r) => r.state === 'running' || (r.state === 'waiting' && !r.word));
  useEffect(() => {
    if (!going) return;
    const timer = setInterval(() => {
      if (!document.hidden)
        get<{ runs: LoggedRun[] }>(`/api/routine-runs?meeting=${meeting}`).then(
          // what ends while it is looked at stays until the page is left, and says how it ended
          (now) => setRuns((was) => was.map((r) => now.runs.find((n) => n.id === r.id) ?? { ...r, state: r.state === 'offered' ? r.state : 'done' })),
          () => {},
        );
    }, LOOK_EVERY);
    return () => clearInterval(timer);
  }, [going, meeting]);
  const act = async (run: LoggedRun, what: RunAct) => {
    try {
      const { run: now, told } = await post<{ run: LoggedRun; told: string }>(`/api/routine-runs/${run.id}`, { do: what.act });
      setRuns((was) => was.map((r) => (r.id === now.id ? now : r)));
      setSaid(told || null);
    } catch (error) {
      const { head, rest } = wentWrong(error);
      setSaid([head, rest].filter(Boolean).join(' '));
    }
  };
  return (
    <section className="routines-bar" aria-label="Routines">
      <ul>
        {runs.map((run) => (
          <li key={run.id}>
            <a className="fl" href="/routines">
              Routine
            </a>
            <b>{run.name}</b>
            <span className={run.state === 'failed' ? 'late' : 'moss'}>{run.state === 'offered' ? run.steps.map((s) => stepInWords(s.step)).join(', ') : run.state === 'done' ? 'done' : runStands(run)}</span>
            {runActs(run.state, run.word, false)
              .filter((a) => a.act !== 'stop' && (a.act !== 'go on' || run.word) && (a.act !== 'past' || run.state === 'failed'))
              .map((a) => (
                <button key={a.act} type="button" className="may" onClick={() => void act(run, a)}>
                  {a.label}
                </button>
              ))}
          </li>
        ))}
      </ul>
      {said && <p role="status">{said}</p>}
    </section>
  );
}
