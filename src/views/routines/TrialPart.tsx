import { HAS_MEETING } from '../../core/routines/routine.ts';
import { Pick } from '../parts/Pick.tsx';
import type { Trial } from './routines-state.ts';
import { SaidLines } from './SaidLines.tsx';

interface Props {
  trial: Trial;
  held: readonly { id: number; words: string }[];
  onMeeting(meeting: number): void;
  onLeave(): void;
}

/** What a routine would have done. */
export function TrialPart({ trial, held, onMeeting, onLeave }: Props) {
  const { came, meeting, routine } = trial;
  return (
    <section className="trial" aria-label="Trial" aria-live="polite">
      <p className="lh">
        What “{routine.name}” would have done
        <span>nothing of this is kept or sent</span>
      </p>
      {HAS_MEETING.has(routine.when.on) && held.length > 0 && (
        <p className="n13">
          Tried on <Pick label="Meeting" value={String(meeting ?? '')} options={held.map((m) => [String(m.id), m.words] as const)} onPick={(id) => onMeeting(Number(id))} />
        </p>
      )}
      {came === null ? (
        <p className="moss">Trying it…</p>
      ) : (
        <>
          {came.not && <p className="soon n13">{came.not} Its steps are tried all the same.</p>}
          <ol className="tries">
            {came.steps.map((s, n) => (
              <li key={n}>
                <span className="n">{n + 1}</span>
                <span className="what">{s.words}</span>
                <ul>
                  <li className={s.failed ? 'late' : ''}>
                    <span className="moss">{s.failed ? 'fails' : ''}</span>
                    <SaidLines said={s.said} details={s.details} />
                  </li>
                </ul>
              </li>
            ))}
          </ol>
          {came.steps.length < routine.steps.length && <p className="moss n13">The steps after it were not tried.</p>}
        </>
      )}
      <p className="acts">
        <button type="button" className="may" onClick={onLeave}>
          Close <kbd>Esc</kbd>
        </button>
      </p>
    </section>
  );
}
