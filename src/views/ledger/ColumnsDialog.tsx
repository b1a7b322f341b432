import { useEffect, useRef } from 'react';
import { COLUMNS, type Column, shifted, toggled, USUAL } from '../../core/ledger/look.ts';
import { COLUMN_NAMES } from './columns.ts';

/** Which columns the Ledger has, and in which order. */
export function ColumnsDialog({ columns, onChange, onClose }: { columns: readonly Column[]; onChange(columns: Column[]): void; onClose(): void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const all = [...columns, ...COLUMNS.filter((c) => !columns.includes(c))];
  return (
    <dialog ref={dialog} className="keys columns" aria-label="Columns" onClose={onClose} onClick={(e) => e.target === dialog.current && dialog.current.close()}>
      <h2>Columns</h2>
      <ul>
        {all.map((c) => {
          const shown = columns.includes(c);
          return (
            <li key={c}>
              <label>
                <input type="checkbox" checked={shown} onChange={() => onChange(toggled(columns, c))} /> {COLUMN_NAMES[c]}
              </label>
              {shown && (
                <span>
                  <button type="button" aria-label={`${COLUMN_NAMES[c]} further left`} disabled={columns[0] === c} onClick={() => onChange(shifted(columns, c, -1))}>
                    ↑
                  </button>
                  <button type="button" aria-label={`${COLUMN_NAMES[c]} further right`} disabled={columns.at(-1) === c} onClick={() => onChange(shifted(columns, c, 1))}>
                    ↓
                  </button>
                </span>
              )}
            </li>
          );
        })}
      </ul>
      <p className="acts">
        <button type="button" className="may" onClick={() => onChange([...USUAL])}>
          As they were at first
        </button>
        <button type="button" className="do" onClick={() => dialog.current?.close()}>
          Done
        </button>
      </p>
    </dialog>
  );
}
