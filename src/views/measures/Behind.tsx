import { listOf, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import { isOpen } from '../../core/ledger/state.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';

export interface BehindShown {
  label: string;
  rows: Pick<LedgerRow, 'ref' | 'text' | 'owner' | 'due' | 'state' | 'project'>[];
  more: number;
}

/** The commitments behind a point of a figure. */
export function Behind({ shown, today, onClose }: { shown: BehindShown; today: string; onClose(): void }) {
  return (
    <aside className="behind" aria-label={`Commitments ${shown.label}`}>
      <p className="lh">
        {shown.rows.length + shown.more} {shown.label}
        <button type="button" className="may" onClick={onClose}>
          Close <kbd>Esc</kbd>
        </button>
      </p>
      <ul>
        {shown.rows.map((r) => (
          <li key={`${r.project}${r.ref}`}>
            <a className="ref" href={`/ledger/${r.ref}?project=${encodeURIComponent(r.project)}`}>
              {r.ref}
            </a>
            <span>{r.text}</span>
            <span className="moss">{listOf(r.owner.map((o) => o.name)) || 'nobody'}</span>
            <span className={isOpen(r.state) && r.due !== null && r.due < today ? 'late' : 'moss'}>{isOpen(r.state) ? (r.due ? `${shortDay(r.due, today)}, ${relativeDay(r.due, today)}` : 'no date') : r.state}</span>
          </li>
        ))}
      </ul>
      {shown.more > 0 && <p className="moss n13">and {shown.more} more</p>}
      {shown.rows.length === 0 && <p className="moss">None.</p>}
    </aside>
  );
}
