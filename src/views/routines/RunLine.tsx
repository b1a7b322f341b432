import { shortDay } from '../../core/language/days.ts';
import { stepInWords } from '../../core/routines/sentences.ts';
import type { LoggedRun } from '../../server/routines/runs.ts';
import { RunThread } from './RunThread.tsx';
import { type RunAct, runActs } from './routines-keys.ts';
import { lasted, runStands } from './routines-state.ts';
import { SaidLines } from './SaidLines.tsx';

interface Props {
  run: LoggedRun;
  today: string;
  current: boolean;
  open: boolean;
  nameOf(person: string): string;
  onAt(): void;
  onOpen(): void;
  onAct(act: RunAct): void;
}

/** A run in the log: what started it, how far it is, and, opened, what each step did, when and how long. */
export function RunLine({ run, today, current, open, nameOf, onAt, onOpen, onAct }: Props) {
  const acts = runActs(
    run.state,
    run.word,
    run.steps.some((s) => s.tries.some((t) => t.finds > 0)),
  );
  return (
    <li className={`run ${run.state}${current ? ' at' : ''}`} data-line={current ? 'on' : undefined} onMouseDown={onAt}>
      <span className="fl">
        {shortDay(run.day, today)}
        <span>{run.time}</span>
      </span>
      <button type="button" className="head" aria-expanded={open} onClick={onOpen}>
        <RunThread run={run} />
        <b>{run.name}</b>
        <span className="moss">{run.by ? `${run.about}, by ${run.by}` : run.about}</span>
      </button>
      <p className={`stands ${run.state === 'failed' ? 'late' : run.state === 'offered' || run.state === 'waiting' ? 'soon' : 'moss'}`}>
        {runStands(run)}
        {run.meeting !== null && (
          <a className="may" href={`/meetings/${run.meeting}/sift`}>
            meeting
          </a>
        )}
      </p>
      {current && acts.length > 0 && (
        <p className="acts">
          {acts.map((a) => (
            <button key={a.act} type="button" className="may" onClick={() => onAct(a)}>
              {a.label} <kbd>{a.key.toUpperCase()}</kbd>
            </button>
          ))}
        </p>
      )}
      {open && (
        <ol className="tries">
          {run.steps.map((s, n) => (
            <li key={n} className={n === run.step && run.state !== 'done' ? 'here' : n > run.step ? 'ahead' : ''}>
              <span className="n">{n + 1}</span>
              <span className="what">{stepInWords(s.step, nameOf)}</span>
              <ul>
                {s.tries.map((t, k) => (
                  <li key={k} className={t.state === 'failed' ? 'late' : ''}>
                    <span className="moss">
                      {t.time}
                      {t.took !== null && `, ${lasted(t.took)}`}
                    </span>
                    <SaidLines said={t.state === 'waiting' ? `waits for ${t.said}` : t.said} details={t.details} />
                  </li>
                ))}
              </ul>
            </li>
          ))}
        </ol>
      )}
    </li>
  );
}
