import type { LoggedRun } from '../../server/routines/runs.ts';

const GAP = 18;

/** A run as a thread: a knot for each step done, hollow where it waits, frayed where it failed, ticks for what is ahead. */
export function RunThread({ run }: { run: LoggedRun }) {
  const width = GAP * run.steps.length + 4;
  const stopped = run.state === 'stopped' || run.state === 'left';
  return (
    <svg className={`run-thread ${run.state}`} viewBox={`0 0 ${width} 14`} width={width} height={14} role="img" aria-label={`${Math.min(run.step, run.steps.length)} of ${run.steps.length} steps done`}>
      <path className="ahead" d={`M${GAP / 2} 7H${width - GAP / 2 - 4}`} />
      {run.step > 0 && <path className="drawn" d={`M${GAP / 2} 7H${GAP / 2 + GAP * Math.min(run.step, run.steps.length - 1)}`} />}
      {run.steps.map((_, n) => {
        const x = GAP / 2 + GAP * n;
        const done = n < run.step;
        const here = n === run.step;
        if (done) return <circle key={n} className="knot" cx={x} cy={7} r={4} />;
        if (here && run.state === 'failed') return <path key={n} className="fray" d={`M${x - 3} 7L${x + 3} 2.5M${x - 3} 7H${x + 4}M${x - 3} 7L${x + 3} 11.5`} />;
        if (here && !stopped && run.state !== 'offered') return <circle key={n} className="hollow" cx={x} cy={7} r={3.5} />;
        return <path key={n} className="tick" d={`M${x} 4V10`} />;
      })}
    </svg>
  );
}
