import { shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { Room } from '../../server/meetings/live/room.ts';
import type { Choice } from '../../server/people/people.ts';
import { DateField } from '../parts/DateField.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import type { LiveAct } from './live-keys.ts';

interface Props {
  row: LedgerRow;
  place: number;
  of: number;
  walked: Room['walked'];
  today: string;
  next: string | null;
  people: readonly Choice[];
  open: 'move' | 'hand over' | null;
  onAct(act: LiveAct): void;
  onMove(due: string | null): void;
  onHandOver(owner: string[]): void;
  onLeave(): void;
}

const ACTS: readonly (readonly [LiveAct, string, string])[] = [
  ['done', 'Done', 'D'],
  ['move', 'Moved', 'M'],
  ['still on it', 'Still on it', 'S'],
  ['hand over', 'Handed over', 'O'],
  ['wait', 'Waits', 'W'],
  ['drop', 'Drop', 'X'],
];

/** One commitment of before at a time, with a key for each thing that can be said of it. */
export function WalkPart({ row, place, of, walked, today, next, people, open, onAct, onMove, onHandOver, onLeave }: Props) {
  const said = walked[row.id];
  const late = row.due !== null && row.due < today && (row.state === 'open' || row.state === 'blocked');
  return (
    <div className="walk-slip">
      <p className="n13">
        <a className="ref" href={`/ledger/${row.ref}`}>
          {row.ref}
        </a>{' '}
        {late && <span className="late">{relativeDay(row.due!, today)}</span>}{' '}
        <span className="moss">
          {place} of {of}
        </span>
      </p>
      <p className="what">{row.text}</p>
      <p className="moss n13">{[row.owner.map((o) => o.name).join(' and ') || 'nobody yet', row.due ? `due ${shortDay(row.due, today)}` : 'no date', row.carried > 1 ? `carried ${row.carried} times` : ''].filter(Boolean).join('; ')}</p>
      {said && (
        <p className="ok n13">
          {said.kind}, said by {said.by}
        </p>
      )}
      {open === 'move' && <DateField label="New date" value={row.due} context={{ date: today, next }} today={today} onKeep={onMove} onLeave={onLeave} />}
      {open === 'hand over' && <OwnerField value={row.owner.map((o) => o.id)} people={people} onKeep={(owner) => onHandOver(owner)} onLeave={onLeave} />}
      {open === null && (
        <p className="acts">
          {ACTS.map(([act, label, key]) => (
            <button key={act} type="button" className="may" onClick={() => onAct(act)}>
              {label} <kbd>{key}</kbd>
            </button>
          ))}
        </p>
      )}
    </div>
  );
}
