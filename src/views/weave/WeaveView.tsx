import { useEffect, useMemo, useRef, useState } from 'react';
import { dayAndMonth, listOf } from '../../core/language/days.ts';
import { NOBODY, type WeaveRow } from '../../core/ledger/weave.ts';
import type { WeaveProps } from '../../server/pages/weave.ts';
import { Foot } from '../parts/Foot.tsx';
import { NAMES, placeRows, ROW, scaleOf } from './drawing.ts';
import { Words } from './KnotWords.tsx';
import { Legend } from './Legend.tsx';
import { weaveSheet } from './sheet.ts';
import { ThreadActs, useThreads } from './ThreadActs.tsx';
import { Columns, HEAD, Thread } from './Threads.tsx';
import { WeaveTable } from './WeaveTable.tsx';

/** A series drawn as threads: its sittings across, its commitments down. */
export default function WeaveView({ groups, names, sittings, words, today, from, to, order, closed, base, people }: WeaveProps) {
  const [room, setRoom] = useState(780);
  const [at, setAt] = useState<{ row: number; knot: number } | null>(null);
  const [table, setTable] = useState(false);
  const { marked, toggle, acting, setActing, said: done, act, undo, unmark } = useThreads(groups);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const measure = () => box.current && setRoom(box.current.clientWidth - (innerWidth < 900 ? 0 : NAMES));
    measure();
    addEventListener('resize', measure);
    return () => removeEventListener('resize', measure);
  }, []);

  const scale = useMemo(
    () =>
      scaleOf(
        from,
        to,
        sittings.map((s) => s.date),
        room,
      ),
    [from, to, sittings, room],
  );
  const { placed, tops, height } = useMemo(() => placeRows(groups), [groups]);
  const said = useMemo(() => new Map(words.map((w) => [w.event, w])), [words]);
  const rows = useMemo(() => new Map(placed.map((p) => [p.row.key, p])), [placed]);
  const name = (id: string) => names[id] ?? id;
  const chosen = at ? (placed[at.row] ?? null) : null;
  const knot = chosen && at ? (chosen.row.knots[at.knot] ?? null) : null;
  const knotWords = knot ? (said.get(knot.event) ?? null) : null;

  const choose = (row: number, which?: number) => {
    const p = placed[Math.max(0, Math.min(placed.length - 1, row))];
    if (!p) return;
    const last = p.row.knots.length - 1;
    setAt({ row: placed.indexOf(p), knot: Math.max(0, Math.min(last, which ?? last)) });
    document.querySelector(`[data-thread="${p.row.key}"]`)?.scrollIntoView({ block: 'nearest' });
  };

  const holderName = (holder: string) => (holder === NOBODY ? 'nobody yet' : listOf(holder.split(' ').filter(Boolean).map(name)) || '');
  const goneTo = (row: WeaveRow) => (row.handedTo ? `to ${listOf(rows.get(row.handedTo.row)?.row.holder.map(name) ?? [])}, ${dayAndMonth(row.handedTo.on)}` : null);
  const saveSvg = () => {
    const svg = box.current?.querySelector<SVGSVGElement>('svg.weave');
    if (!svg) return;
    const style = getComputedStyle(document.documentElement);
    const sheet = weaveSheet({
      title: document.querySelector('h1')?.textContent ?? 'Weave',
      today,
      drawing: { markup: [...svg.childNodes].map((n) => new XMLSerializer().serializeToString(n)).join(''), width: scale.width, height: HEAD + height },
      head: HEAD,
      rows: placed.map(({ row, y }) => ({ row, y, went: goneTo(row) })),
      holders: tops.map((t) => ({ name: holderName(t.holder), y: t.y })),
    });
    const text = sheet.replace(/var\((--[a-z-]+)\)/g, (_, v: string) => style.getPropertyValue(v).trim() || '#000');
    const url = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }));
    const a = Object.assign(document.createElement('a'), { href: url, download: 'weave.svg' });
    a.click();
    URL.revokeObjectURL(url);
  };

  return (
    <>
      <nav className="say weave-by" aria-label="Order">
        <span>by</span>
        {(['owner', 'age', 'due', 'carried'] as const).map((o) => (
          <a key={o} href={`${base}&by=${o}${closed ? '' : '&ended=no'}`} aria-current={o === order ? 'true' : undefined}>
            {o === 'due' ? 'due date' : o === 'carried' ? 'carried over' : o}
          </a>
        ))}
        <span className="sep">|</span>
        <a href={`${base}&by=${order}`} aria-current={closed ? 'true' : undefined}>
          open and ended
        </a>
        <a href={`${base}&by=${order}&ended=no`} aria-current={closed ? undefined : 'true'}>
          only open
        </a>
        <span className="end">
          <button type="button" className="may" aria-pressed={table} onClick={() => setTable(!table)}>
            {table ? 'As a picture' : 'As a table'}
          </button>
          <button type="button" className="may" onClick={saveSvg}>
            Save as SVG
          </button>
        </span>
      </nav>
      {placed.length === 0 ? (
        <div className="empty">
          <h2>No thread yet</h2>
          <p>Threads begin where an action is taken out of a record, or entered in the Ledger by hand.</p>
          <a className="do" href="/bring-in">
            Bring in a record
          </a>
        </div>
      ) : table ? (
        <WeaveTable placed={placed} said={said} name={name} />
      ) : (
        <div className="weaving" ref={box} style={{ '--names': `${NAMES}px` } as React.CSSProperties}>
          <div className="holders" aria-hidden="true" style={{ paddingTop: HEAD }}>
            {tops.map((t) => (
              <span key={t.holder} className={t.holder === NOBODY ? 'soon' : ''} style={{ top: HEAD + t.y + 6 }}>
                {holderName(t.holder)}
              </span>
            ))}
          </div>
          <div className="refs" style={{ height: HEAD + height }}>
            {tops.slice(1).map((t) => (
              <i key={t.holder} aria-hidden="true" style={{ top: HEAD + t.y }} />
            ))}
            {placed.map((p, i) => (
              <button
                type="button"
                key={p.row.key}
                data-thread={p.row.key}
                className={`thread-name${at?.row === i ? ' is-at' : ''}${p.row.open ? '' : ' is-ended'}${marked.has(p.row.id) ? ' is-marked' : ''}`}
                aria-pressed={marked.has(p.row.id)}
                style={{ top: HEAD + p.y - ROW / 2 }}
                onClick={() => choose(i)}
                onDoubleClick={() => location.assign(`/ledger/${p.row.ref}`)}
              >
                <span className="ref">{p.row.ref}</span>
                <span className="thread-text">{goneTo(p.row) ?? p.row.text}</span>
              </button>
            ))}
          </div>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a stretch that scrolls sideways must be reached by keyboard */}
          <section className="across" tabIndex={0} aria-label="Threads over time">
            <svg className="weave" xmlns="http://www.w3.org/2000/svg" width={scale.width} height={HEAD + height} viewBox={`0 0 ${scale.width} ${HEAD + height}`} fontFamily="Instrument Sans Variable, sans-serif" fontSize="12" role="img" aria-label="Threads of the commitments; the table says the same">
              <defs>
                <pattern id="ahead" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                  <path d="M0 0V6" stroke="var(--rule)" strokeWidth="1.5" />
                </pattern>
              </defs>
              <Columns sittings={sittings} scale={scale} height={height} today={today} />
              <g transform={`translate(0 ${HEAD})`}>
                {tops.slice(1).map((t) => (
                  <path key={t.holder} d={`M0 ${t.y}H${scale.width}`} stroke="var(--rule)" />
                ))}
                {placed.map((p, i) => (
                  <Thread key={p.row.key} p={p} scale={scale} today={today} rows={rows} at={at?.row === i ? at.knot : null} onKnot={(k) => choose(i, k)} />
                ))}
              </g>
              <path d={`M${scale.x(today)} ${HEAD - 6}V${HEAD + height}`} stroke="var(--line)" strokeWidth="1.5" />
            </svg>
            {chosen && knotWords && <Words words={knotWords} row={chosen.row} left={Math.max(8, Math.min(scale.width - 360, scale.x(knotWords.on) - 60))} top={HEAD + chosen.y + 16} flip={chosen.y > height - 150 && chosen.y > 170} />}
          </section>
        </div>
      )}
      {marked.size > 0 && <ThreadActs count={marked.size} acting={acting} today={today} people={people} onActing={setActing} onAct={(change, words) => void act(change, words)} />}
      <Legend />
      <Foot
        said={done ? { ...done, undo: done.bad ? undefined : () => void undo() } : chosen ? { head: chosen.row.ref, rest: chosen.row.text } : null}
        keys={[
          { key: 'j', does: 'next thread (or arrow down)', line: 'Next', run: () => choose(at ? at.row + 1 : 0) },
          { key: 'k', does: 'thread before (or arrow up)', line: 'Back', run: () => choose(at ? at.row - 1 : 0) },
          { key: 'ArrowRight', does: 'next knot of the thread', run: () => at && choose(at.row, at.knot + 1) },
          { key: 'ArrowLeft', does: 'knot before', run: () => at && choose(at.row, at.knot - 1) },
          { key: 'r', does: 'read it in the record', line: 'Record', run: () => knotWords?.href && location.assign(knotWords.href) },
          { key: 't', does: 'the trail of the commitment', line: 'Trail', run: () => chosen && location.assign(`/ledger/${chosen.row.ref}`) },
          { key: 'v', does: 'mark the thread, to act on several at once', line: 'Mark', run: () => chosen && toggle(chosen.row.id) },
          { key: 'd', does: 'done: the marked threads', run: () => marked.size > 0 && void act({ do: 'done' }, 'done') },
          { key: 'm', does: 'move the marked threads to a date', run: () => marked.size > 0 && setActing('due') },
          { key: 'o', does: 'hand the marked threads over', run: () => marked.size > 0 && setActing('owner') },
          { key: 'q', does: 'put the marked threads off until a day', run: () => marked.size > 0 && setActing('off') },
          { key: 'x', does: 'drop the marked threads', run: () => marked.size > 0 && void act({ do: 'drop' }, 'dropped') },
          { key: 'b', does: 'the same as a table', line: 'Table', run: () => setTable((x) => !x) },
          {
            key: 'Escape',
            does: 'close the words, unmark the threads',
            run: () => {
              setAt(null);
              unmark();
            },
          },
        ]}
      />
    </>
  );
}
