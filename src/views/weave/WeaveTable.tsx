import { dayAndMonth, listOf } from '../../core/language/days.ts';
import type { KnotWords } from '../../server/pages/weave.ts';
import { endWords, type Placed } from './drawing.ts';
import { TOLD } from './KnotWords.tsx';

export function WeaveTable({ placed, said, name }: { placed: readonly Placed[]; said: ReadonlyMap<number, KnotWords>; name(id: string): string }) {
  return (
    <div className="weave-table">
      <table>
        <thead>
          <tr>
            <th>Thread</th>
            <th>Held by</th>
            <th>Stands</th>
            <th>What happened</th>
          </tr>
        </thead>
        <tbody>
          {placed.map(({ row }) => (
            <tr key={row.key}>
              <th scope="row">
                <a href={`/ledger/${row.ref}`}>
                  <span className="ref">{row.ref}</span> {row.text}
                </a>
              </th>
              <td>{listOf(row.holder.map(name)) || 'nobody yet'}</td>
              <td className={row.late ? 'late' : ''}>{row.ended ?? (row.handedTo ? `handed over ${dayAndMonth(row.handedTo.on)}` : (endWords(row, dayAndMonth)?.text ?? 'open'))}</td>
              <td>
                {row.knots.map((k) => (
                  <span key={k.event} className="happening">
                    {dayAndMonth(k.on)} {TOLD[k.kind] ?? k.kind}
                    {said.get(k.event)?.voice ? `, ${said.get(k.event)!.voice}` : ''}
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
