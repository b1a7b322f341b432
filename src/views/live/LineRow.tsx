import { clock, listOf, shortDay } from '../../core/language/days.ts';
import type { Captured } from '../../core/meetings/live/capture.ts';
import { KindShape } from '../parts/Shapes.tsx';
import { initials } from './live-state.ts';

interface Props {
  read: Captured;
  seconds: number | null;
  by: string;
  changedBy: string | null;
  note: string | null;
  today: string;
  nameOf(person: string): string;
  /** null where it cannot be changed now */
  onEdit: (() => void) | null;
  onRemove: (() => void) | null;
}

/** A line of a meeting: when, what it is, what was understood, and who wrote it. */
export function LineRow({ read, seconds, by, changedBy, note, today, nameOf, onEdit, onRemove }: Props) {
  return (
    <li className={read.kind}>
      <span className="moss at">{seconds === null ? '' : clock(seconds)}</span>
      {read.kind === 'point' ? <span className="moss dash">–</span> : <KindShape kind={read.kind} />}
      <span className="what">
        {onEdit ? (
          <button type="button" onClick={onEdit} title="Change this line">
            {read.text}
          </button>
        ) : (
          read.text
        )}
        {read.kind === 'action' && (
          <span className="moss under">
            <span className={read.owner.length ? '' : 'late'}>{read.owner.length ? listOf(read.owner.map(nameOf)) : 'nobody yet'}</span>, <span className={read.due ? '' : 'late'}>{read.due ? shortDay(read.due, today) : 'no date'}</span>
          </span>
        )}
        {note && <span className="soon under">{note}</span>}
      </span>
      <span className="moss by" title={changedBy ? `${by}, changed by ${changedBy}` : by}>
        {initials(by)}
        {changedBy && changedBy !== by && `, ${initials(changedBy)}`}
      </span>
      {onRemove && (
        <button type="button" className="remove" aria-label={`Take out: ${read.text}`} onClick={onRemove}>
          ×
        </button>
      )}
    </li>
  );
}
