import { useState } from 'react';
import { readTypedDate } from '../../core/dates/read.ts';
import { shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';

interface Props {
  value: string | null;
  /** day the words count from, and the next sitting */
  context: { date: string; next: string | null };
  today: string;
  label: string;
  onKeep(due: string | null): void;
  onLeave(): void;
}

/** A date typed the way people say it; what was understood stands below while it is typed. Empty takes the date away. */
export function DateField({ value, context, today, label, onKeep, onLeave }: Props) {
  const [text, setText] = useState(value ? shortDay(value) : '');
  const [touched, setTouched] = useState(false);
  const [refused, setRefused] = useState(false);
  const empty = text.trim() === '';
  const read = empty ? null : touched ? readTypedDate(text, context) : value;
  const bad = !empty && read === null;
  return (
    <span className="typed">
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        aria-label={label}
        aria-invalid={bad}
        value={text}
        placeholder="friday, in two weeks, 15/6"
        onFocus={(e) => e.target.select()}
        onChange={(e) => {
          setText(e.target.value);
          setRefused(false);
          setTouched(true);
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            e.preventDefault();
            if (bad) setRefused(true);
            else onKeep(read);
          }
          if (e.key === 'Escape') {
            e.preventDefault();
            onLeave();
          }
        }}
      />
      <span className={`read${bad ? ' bad' : ''}`} aria-live="polite">
        {empty ? (
          'no date'
        ) : bad ? (
          <b>{refused ? `“${text.trim()}” is not a date. Try fri, 15 June or in 2 weeks.` : 'not a date yet'}</b>
        ) : (
          <>
            <b>{shortDay(read!, today)}</b> {relativeDay(read!, today)}
          </>
        )}
      </span>
    </span>
  );
}
