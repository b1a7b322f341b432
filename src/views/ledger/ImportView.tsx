import { useRef, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import { IMPORT_FIELDS, type ImportField } from '../../core/ledger/bring-in.ts';
import type { ImportPreview } from '../../server/ledger/files.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

const FIELD: Record<ImportField, string> = { ref: 'reference', text: 'what', owner: 'owner', due: 'due', state: 'state', made: 'taken on' };

/** A list of commitments from elsewhere: what it would bring in, before it does. */
export default function ImportView({ today }: { today: string }) {
  const [file, setFile] = useState<{ name: string; text: string } | null>(null);
  const [seen, setSeen] = useState<ImportPreview | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const [done, setDone] = useState<{ made: number; changed: number; refused: ImportPreview['refused']; events: number[] } | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const read = (f: File | undefined) => f && void f.text().then((text) => look({ name: f.name, text }));
  const wrong = (error: unknown) => setSaid(wentWrong(error));
  const look = async (f: { name: string; text: string }, columns?: ImportPreview['columns']) => {
    setFile(f);
    setDone(null);
    try {
      setSeen(await post<ImportPreview>('/api/ledger-import', { do: 'preview', ...f, ...(columns ? { columns } : {}) }));
      setSaid(null);
    } catch (error) {
      wrong(error);
    }
  };
  const keep = async () => {
    if (!file || !seen) return;
    try {
      const out = await post<NonNullable<typeof done>>('/api/ledger-import', { do: 'keep', ...file, columns: seen.columns });
      setDone(out);
      setSeen(null);
      setSaid({
        head: `${out.made} brought in`,
        rest: `${out.changed} changed, ${out.refused.length} refused`,
        undo: out.events.length
          ? () =>
              void post('/api/commitments', { undo: out.events }).then(() => {
                setDone(null);
                setSaid({ head: 'Taken back', rest: 'the Ledger is as it was' });
              }, wrong)
          : undefined,
      });
    } catch (error) {
      wrong(error);
    }
  };
  const fresh = seen?.lines.filter((l) => !l.same) ?? [];
  const changing = seen?.lines.filter((l) => l.same?.changes?.length) ?? [];
  return (
    <>
      <div className="bringing">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: a place to let a file go; the button in it serves the keyboard */}
        <div
          className={`drop-list${over ? ' is-over' : ''}`}
          onDragOver={(e) => {
            e.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={(e) => {
            e.preventDefault();
            e.stopPropagation();
            setOver(false);
            read(e.dataTransfer.files[0]);
          }}
        >
          <button type="button" className="do" onClick={() => input.current?.click()}>
            Choose a file <kbd>C</kbd>
          </button>
          <span>{file ? file.name : 'or drop it here: a CSV list with headings, or a calendar with to-dos (.ics)'}</span>
          <input ref={input} type="file" className="vh" tabIndex={-1} aria-label="List of commitments" accept=".csv,.ics,text/csv,text/calendar" onChange={(e) => read(e.target.files?.[0])} />
        </div>
        {done && (
          <p className="notice plain">
            <b>
              {done.made} brought in, {done.changed} changed.
            </b>
            <span>{done.refused.length ? `${done.refused.length} lines were refused; they are listed below.` : 'Every line was taken.'}</span> <a href="/ledger">Open the Ledger</a>
          </p>
        )}
        {seen && (
          <>
            <p className="columns">
              {IMPORT_FIELDS.map((f) => (
                <label key={f} className="pick">
                  {FIELD[f]}{' '}
                  <select value={seen.columns[f] ?? ''} onChange={(e) => file && void look(file, { ...seen.columns, [f]: e.target.value === '' ? null : Number(e.target.value) })}>
                    <option value="">nowhere</option>
                    {seen.headings.map((h, i) => (
                      <option key={`${h}${i}`} value={i}>
                        {h || `column ${i + 1}`}
                      </option>
                    ))}
                  </select>
                </label>
              ))}
            </p>
            <p>
              <b>{fresh.length} new</b>, <b>{changing.length} changed</b>, {seen.lines.length - fresh.length - changing.length} as they are, <span className={seen.refused.length ? 'late' : ''}>{seen.refused.length} refused</span>{' '}
              <button type="button" className="do" disabled={fresh.length + changing.length === 0} onClick={() => void keep()}>
                Bring in {fresh.length + changing.length} <kbd>I</kbd>
              </button>
            </p>
          </>
        )}
        {(seen?.refused ?? done?.refused ?? []).length > 0 && (
          <>
            <h2 className="lh">Refused</h2>
            <ul className="refused">
              {(seen?.refused ?? done?.refused ?? []).slice(0, 500).map((r) => (
                <li key={r.line}>
                  <b>Line {r.line}</b> {r.what}
                </li>
              ))}
            </ul>
          </>
        )}
        {seen && (
          <>
            <h2 className="lh">
              As it is read<span>{seen.lines.length > 200 ? 'the first 200' : ''}</span>
            </h2>
            <table className="as-read">
              <tbody>
                {seen.lines.slice(0, 200).map((l) => (
                  <tr key={l.line}>
                    <td className="moss">{l.line}</td>
                    <td>{l.same ? <a href={`/ledger/${l.same.ref}`}>{l.same.ref}</a> : <span className="ok">new</span>}</td>
                    <td className="strong">{l.text}</td>
                    <td>{l.owner.map((o) => (o.startsWith('new:') ? `${o.slice(4)} (new)` : (seen.people[o] ?? o))).join(', ') || <span className="soon">nobody yet</span>}</td>
                    <td>{l.due ? shortDay(l.due, today) : <span className="soon">no date</span>}</td>
                    <td className="moss">{l.same ? l.same.changes?.join('; ') || 'as it is' : l.state === 'open' ? '' : l.state}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'c', does: 'choose a file', line: 'Choose', run: () => input.current?.click() },
          { key: 'i', does: 'bring in what can be read', line: 'Bring in', run: () => void keep() },
        ]}
      />
    </>
  );
}
