import { addDays } from '../../core/dates/calendar.ts';
import { listOf, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { Column } from '../../core/ledger/look.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import { Thread } from '../parts/Thread.tsx';
import { COLUMN_CLASS, COLUMN_NAMES, cellText } from './columns.ts';
import type { Group } from './grouping.ts';

/** Days of a life that fit beside the other columns. */
const [BEFORE, AHEAD] = [70, 21];

/**
 * The lines of the Ledger as they go on paper: in the columns that were chosen, with nothing to press.
 * @param left what is said of lines that did not fit, if any
 */
export default function PrintedLines({ groups, columns, today, left }: { groups: readonly Group[]; columns: readonly Column[]; today: string; left: string | null }) {
  return (
    <div className="printed">
      {groups.length === 0 && <p className="moss">No commitment fits.</p>}
      {groups.map((g) => (
        <table key={g.name}>
          <caption className={g.tone}>
            {g.name} <span>{g.rows.length}</span>
          </caption>
          <thead>
            <tr>
              <th className="c-ref">Ref</th>
              <th>What</th>
              {columns.map((c) => (
                <th key={c} className={COLUMN_CLASS[c]}>
                  {COLUMN_NAMES[c]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {g.rows.map((r) => (
              <tr key={r.id}>
                <th scope="row">{r.ref}</th>
                <td>{r.text}</td>
                {columns.map((c) => (
                  <td key={c} className={COLUMN_CLASS[c]}>
                    <Printed column={c} row={r} today={today} />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      ))}
      {left && <p className="moss">{left}</p>}
    </div>
  );
}

function Printed({ column, row: r, today }: { column: Column; row: LedgerRow; today: string }) {
  switch (column) {
    case 'owner':
      return listOf(r.owner.map((o) => o.name)) || 'nobody yet';
    case 'due':
      if (!r.due) return r.undated ? 'needs none' : 'no date';
      return (
        <>
          {shortDay(r.due, today)}
          {r.endedOn === null && r.due < today && <span className="late">, {relativeDay(r.due, today)}</span>}
        </>
      );
    case 'state':
      // on paper nothing can be opened to see when it ended, or what it waits for
      if (r.state === 'blocked') return `waiting${r.waitsFor ? ` for ${r.waitsFor}` : ''}`;
      return r.endedOn ? `${r.state} ${shortDay(r.endedOn, today)}` : r.state;
    case 'life':
      return <Thread life={r.life} due={r.due} endedOn={r.endedOn} blocked={r.state === 'blocked'} today={today} from={addDays(today, -BEFORE)} to={addDays(today, AHEAD)} width={120} scale={0.8} />;
    default:
      return cellText(column, r, today);
  }
}
