import { listOf, shortDay } from '../../core/language/days.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';

export interface LookAlike {
  keep: LedgerRow;
  other: LedgerRow;
  like: number;
}

/** Commitments that may be the same, one pair at a time: merged, or said to differ. */
export function Duplicates({ pairs, today, onMerge, onDiffer, onLeave }: { pairs: readonly LookAlike[]; today: string; onMerge(pair: LookAlike): void; onDiffer(pair: LookAlike): void; onLeave(): void }) {
  const [pair] = pairs;
  if (!pair)
    return (
      <span className="sentence">
        Nothing looks the same twice.{' '}
        <button type="button" className="may line" onClick={onLeave}>
          Good
        </button>
      </span>
    );
  const words = (r: LedgerRow) => `${r.ref} ${r.text} (${listOf(r.owner.map((o) => o.name)) || 'nobody yet'}, ${r.due ? shortDay(r.due, today) : 'no date'})`;
  return (
    <span className="pair">
      <span>
        <b>{pairs.length === 1 ? 'The same?' : `The same? 1 of ${pairs.length}`}</b> {words(pair.keep)} <span className="moss">and</span> {words(pair.other)}
      </span>
      <span className="acts">
        <button type="button" className="do" onClick={() => onMerge(pair)}>
          Merge into {pair.keep.ref} <kbd>M</kbd>
        </button>
        <button type="button" className="may" onClick={() => onDiffer(pair)}>
          They differ <kbd>D</kbd>
        </button>
        <button type="button" className="may" onClick={onLeave}>
          Leave it <kbd>Esc</kbd>
        </button>
      </span>
    </span>
  );
}
