import { type ReactNode, useRef } from 'react';
import { asCsvRows, type Told } from './figures.ts';
import { saveImage } from './save-image.ts';

/** A figure: what is to be seen, how to read it, the drawing or its numbers, and both to take away. */
export function Figure({ name, told, table, current, wide = false, image = true, under, children }: { name: string; told: Told; table: boolean; current: boolean; wide?: boolean; image?: boolean; under?: ReactNode; children: ReactNode }) {
  const box = useRef<HTMLElement>(null);
  return (
    <figure ref={box} id={name} className={`figure${current ? ' at' : ''}${wide ? ' wide' : ''}`} aria-labelledby={`${name}-title`}>
      <figcaption>
        <h3 id={`${name}-title`}>{told.title}</h3>
        <p className="moss n13">{told.read}</p>
      </figcaption>
      {table ? <Numbers told={told} /> : <div className="drawing">{children}</div>}
      {under}
      <p className="take">
        <button type="button" className="set" onClick={() => saveText(`${name}.csv`, asCsvRows(told))}>
          CSV
        </button>
        {!table && image && (
          <>
            <button type="button" className="set" onClick={() => box.current && void saveImage(box.current, name, 'png')}>
              PNG
            </button>
            <button type="button" className="set" onClick={() => box.current && void saveImage(box.current, name, 'svg')}>
              SVG
            </button>
          </>
        )}
      </p>
      {/* what a drawing shows, for whoever does not see it */}
      {!table && (
        <div className="vh">
          <Numbers told={told} />
        </div>
      )}
    </figure>
  );
}

function Numbers({ told }: { told: Told }) {
  return (
    <div className="numbers">
      <table>
        <thead>
          <tr>
            {told.head.map((h) => (
              <th key={h} scope="col">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {told.rows.map((row, i) => (
            <tr key={`${i}${String(row[0])}`}>
              {row.map((cell, k) => (
                <td key={`${told.head[k]}`}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function saveText(name: string, text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'text/csv;charset=utf-8' }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
