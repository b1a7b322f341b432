import { listOf, shortDay } from '../../core/language/days.ts';
import { readBack } from '../../core/meetings/live/read-back.ts';
import type { RoomLine } from '../../server/meetings/live/room.ts';
import { KindShape } from '../parts/Shapes.tsx';

interface Props {
  lines: readonly RoomLine[];
  today: string;
  nameOf(person: string): string;
  /** null before the meeting is read back: the list is only shown */
  onConfirm: ((line: RoomLine) => void) | null;
  onEdit(line: RoomLine): void;
}

/** What stands: decisions, actions with owner and date, questions. What lacks something is marked, and is confirmed all the same if it shall stand so. */
export function ReadBackPart({ lines, today, nameOf, onConfirm, onEdit }: Props) {
  const all = readBack(lines);
  const lacking = all.filter((b) => b.lacks.length).length;
  const confirmed = all.filter((b) => b.line.confirmedBy !== null).length;
  return (
    <section className={`read-back${onConfirm ? ' reading' : ''}`} aria-label="Read-back">
      <h2 className="lh">
        Read-back
        <span>{onConfirm ? `${confirmed} of ${all.length} confirmed` : all.length === 0 ? 'nothing yet' : lacking ? `so far; ${lacking} ${lacking === 1 ? 'lacks' : 'lack'} something` : 'so far'}</span>
      </h2>
      <ul>
        {all.map(({ line, lacks }) => (
          <li key={line.id} className={lacks.length ? 'lacking' : ''}>
            <KindShape kind={line.read.kind as 'action'} />
            <button type="button" className="what" onClick={() => onEdit(line)}>
              {line.read.text}
            </button>
            {line.read.kind === 'action' ? (
              <>
                <span className={lacks.includes('owner') ? 'late' : ''}>{line.read.owner.length ? listOf(line.read.owner.map(nameOf)) : 'nobody'}</span>
                <span className={lacks.includes('date') ? 'late' : ''}>{line.read.due ? shortDay(line.read.due, today) : 'no date'}</span>
              </>
            ) : (
              <>
                <span />
                <span />
              </>
            )}
            {onConfirm && (
              <button type="button" className="may confirm" aria-pressed={line.confirmedBy !== null} onClick={() => onConfirm(line)}>
                {line.confirmedBy === null ? 'Confirm' : 'Confirmed'}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
