import { type ReactNode, useRef } from 'react';
import { asCsvRows, type Told } from './figures.ts';
import { saveImage } from './save-image.ts';

/** A figure: what is to be seen, how to read it, the drawing or its numbers, and both to take away. */
export function Figure({ name, told, table, current, wide = false, image = true, scrolls = false, under, children }: { name: string; told: Told; table: boolean; current: boolean; wide?: boolean; image?: boolean; scrolls?: boolean; under?: ReactNode; children: ReactNode }) {
  const box = useRef<HTMLElement>(null);
  return (
    <figure ref={box} id={name} className={`figure${current ? ' at' : ''}${wide ? ' wide' : ''}`} aria-labelledby={`${name}-title`}>
      <figcaption>
        <h3 id={`${name}-title`}>{told.title}</h3>
        <p className="moss n13">{told.read}</p>
      </figcaption>
      {table ? (
        <Scrolled told={told} />
      ) : (
        <Drawing title={told.title} scrolls={scrolls}>
          {children}
        </Drawing>
      )}
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

function Drawing({ title, scrolls, children }: { title: string; scrolls: boolean; children: ReactNode }) {
  if (!scrolls) return <div className="drawing">{children}</div>;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1)
    <section className="drawing scrolls" aria-label={title} tabIndex={0}>
      {children}
    </section>
  );
}

/** A long table scrolls by itself, also by keyboard. */
function Scrolled({ told }: { told: Told }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1)
    <section className="numbers" aria-label={`Numbers: ${told.title}`} tabIndex={0}>
      <Numbers told={told} />
    </section>
  );
}

function Numbers({ told }: { told: Told }) {
  return (
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
  );
}

function saveText(name: string, text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'text/csv;charset=utf-8' }));
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
