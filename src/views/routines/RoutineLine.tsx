import type { ReactNode } from 'react';
import { shortDay } from '../../core/language/days.ts';
import { HAS_MEETING } from '../../core/routines/routine.ts';
import { stepInWords, whenInWords } from '../../core/routines/sentences.ts';
import type { KeptRoutine } from '../../server/routines/routines.ts';

interface Props {
  kept: KeptRoutine;
  today: string;
  current: boolean;
  mayChange: boolean;
  nameOf(person: string): string;
  titleOf(series: string): string;
  onAt(): void;
  onAct(act: 'edit' | 'switch' | 'try' | 'remove'): void;
  /** what it would have done, where it is being tried */
  children?: ReactNode;
}

/** A routine as a sentence, with how it stands in the margin. */
export function RoutineLine({ kept, today, current, mayChange, nameOf, titleOf, onAt, onAct, children }: Props) {
  const { routine, state, next } = kept;
  return (
    <li className={`routine ${state}${current ? ' at' : ''}`} data-line={current ? 'on' : undefined} onMouseDown={onAt}>
      <span className="fl">
        <i className="switch" aria-hidden="true" />
        {state}
        {next && (
          <span>
            {shortDay(next.day, today)} {next.time}
          </span>
        )}
      </span>
      <h3>{routine.name}</h3>
      <p className="sentence">
        When {whenInWords(routine, titleOf)}, {routine.when.on === 'asked' ? 'Ottik will' : routine.how === 'offered' ? 'Ottik offers to' : 'Ottik will by itself'}{' '}
        {routine.steps.map((step, n) => (
          <span key={n}>
            <sup>{n + 1}</sup>
            {stepInWords(step, nameOf)}
            {n < routine.steps.length - 1 ? ', ' : '.'}
          </span>
        ))}
      </p>
      {kept.pausedWhy && (
        <p className="late n13">
          Paused: {kept.pausedWhy} {mayChange && 'Switch it on once that is mended; what happened meanwhile is not caught up.'}
        </p>
      )}
      {current && (
        <p className="acts">
          {mayChange && (
            <>
              <button type="button" className="may" onClick={() => onAct('edit')}>
                Edit <kbd>E</kbd>
              </button>
              <button type="button" className="may" onClick={() => onAct('switch')}>
                {state === 'on' ? 'Switch off' : 'Switch on'} <kbd>O</kbd>
              </button>
            </>
          )}
          <button type="button" className="may" onClick={() => onAct('try')}>
            {HAS_MEETING.has(routine.when.on) ? 'Try on a past meeting' : 'Try it now'} <kbd>T</kbd>
          </button>
          {mayChange && (
            <button type="button" className="may" onClick={() => onAct('remove')}>
              Remove <kbd>X</kbd>
            </button>
          )}
          <span className="moss n13">acts for {kept.personName}</span>
        </p>
      )}
      {children}
    </li>
  );
}
