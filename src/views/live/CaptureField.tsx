import type { RefObject } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import { asKind, type Captured, type Legend, LINE_KINDS } from '../../core/meetings/live/capture.ts';
import { KIND_NAMES, KindShape } from '../parts/Shapes.tsx';
import { nextKind } from './live-state.ts';

interface Props {
  field: RefObject<HTMLInputElement | null>;
  typed: string;
  read: Captured | null;
  legend: Legend;
  editing: boolean;
  today: string;
  nameOf(person: string): string;
  onType(text: string): void;
  onKeep(): void;
  onLeave(): void;
  /** into the last line one wrote oneself */
  onUp(): void;
}

/** Where lines are written; what was understood stands below while one types. */
export function CaptureField({ field, typed, read, legend, editing, today, nameOf, onType, onKeep, onLeave, onUp }: Props) {
  return (
    <div className="capture">
      <input
        ref={field}
        aria-label={editing ? 'Change the line' : 'Write a line'}
        placeholder={`${legend.action} action, who, by when`}
        maxLength={1000}
        value={typed}
        onChange={(e) => onType(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter' && typed.trim()) {
            e.preventDefault();
            onKeep();
          } else if (e.key === 'Escape') {
            if (editing) onLeave();
            else e.currentTarget.blur();
          } else if (e.key === 'Tab' && !e.shiftKey && read) {
            e.preventDefault();
            onType(asKind(typed, nextKind(read.kind), legend));
          } else if (e.key === 'ArrowUp' && typed === '') {
            e.preventDefault();
            onUp();
          }
        }}
      />
      <p className="understood" aria-live="polite">
        {read ? (
          <>
            {read.kind === 'point' ? <span className="moss">–</span> : <KindShape kind={read.kind} />}
            <b>{read.kind === 'point' ? 'Point' : KIND_NAMES[read.kind]}</b>
            {read.kind === 'action' && (
              <>
                <span className={read.owner.length ? '' : 'late'}>{read.owner.length ? listOf(read.owner.map(nameOf)) : 'nobody yet'}</span>
                <span className={read.due ? '' : 'late'}>{read.due ? `${shortDay(read.due, today)}, ${relativeDay(read.due, today)}` : 'no date'}</span>
              </>
            )}
            <span className="moss words">{read.text}</span>
            <span className="moss end">
              <kbd>Tab</kbd> other kind
            </span>
          </>
        ) : (
          <span className="moss">
            {LINE_KINDS.map((k) => (
              <span key={k}>
                <b>{legend[k]}</b> {k}{' '}
              </span>
            ))}
          </span>
        )}
      </p>
    </div>
  );
}
