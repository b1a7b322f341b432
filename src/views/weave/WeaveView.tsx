import { useEffect, useMemo, useRef, useState } from 'react';
import { dayAndMonth, listOf, shortDay } from '../../core/language/days.ts';
import type { EventKind } from '../../core/ledger/events.ts';
import { NOBODY, type WeaveRow } from '../../core/ledger/weave.ts';
import type { KnotWords, WeaveProps } from '../../server/pages/weave.ts';
import { Foot } from '../parts/Foot.tsx';
import { crossing, endWords, NAMES, type Placed, placeRows, ROW, type Scale, scaleOf } from './drawing.ts';
import { ThreadActs, useThreads } from './ThreadActs.tsx';

const TOLD: Partial<Record<EventKind, string>> = { merged: 'merged', made: 'made', restated: 'said again', moved: 'moved', 'handed over': 'handed over', blocked: 'waiting', done: 'done', dropped: 'dropped', reopened: 'reopened', reworded: 'reworded', written: 'written about', answered: 'answered' };
const HEAD = 56;

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

  const saveSvg = () => {
    const svg = box.current?.querySelector<SVGSVGElement>('svg.weave');
    if (!svg) return;
    const style = getComputedStyle(document.documentElement);
    const text = new XMLSerializer().serializeToString(svg).replace(/var\((--[a-z-]+)\)/g, (_, v: string) => style.getPropertyValue(v).trim() || '#000');
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
                {t.holder === NOBODY ? 'nobody yet' : listOf(t.holder.split(' ').filter(Boolean).map(name))}
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
                <span className="thread-text">{p.row.handedTo ? `to ${listOf(rows.get(p.row.handedTo.row)?.row.holder.map(name) ?? [])}, ${dayAndMonth(p.row.handedTo.on)}` : p.row.text}</span>
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

function Columns({ sittings, scale, height, today }: { sittings: WeaveProps['sittings']; scale: Scale; height: number; today: string }) {
  let last = Number.NEGATIVE_INFINITY;
  return (
    <g>
      {sittings.map((s) => {
        const x = scale.x(s.date);
        const named = x - last >= 44;
        if (named) last = x;
        const now = s.date === today;
        return (
          <g key={`${s.date}${s.href}`}>
            {s.held ? <path d={`M${x} ${HEAD - 8}V${HEAD + height}`} stroke="var(--rule)" /> : <rect x={x - 20} y={HEAD - 2} width="40" height={height} fill="url(#ahead)" />}
            {named && (
              <text x={x} y="20" textAnchor="middle" fill={s.held ? 'var(--ink)' : 'var(--moss)'} fontWeight={now ? 700 : 500} fontSize="13">
                {dayAndMonth(s.date)}
              </text>
            )}
            {named && (
              <text x={x} y="38" textAnchor="middle" fill="var(--moss)">
                {s.held ? [s.made ? `+${s.made}` : '', s.ended ? `−${s.ended}` : ''].filter(Boolean).join(' ') : s.number ? `no. ${s.number}` : 'next'}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

function Thread({ p: { row, y }, scale, today, rows, at, onKnot }: { p: Placed; scale: Scale; today: string; rows: ReadonlyMap<string, Placed>; at: number | null; onKnot(k: number): void }) {
  const ink = row.open || row.handedTo ? 'var(--ink)' : 'var(--moss)';
  const target = row.handedTo ? rows.get(row.handedTo.row) : undefined;
  const cross = target ? crossing(scale.x(row.handedTo!.on), y, target.y) : null;
  const end = endWords(row, dayAndMonth);
  return (
    <g>
      {at !== null && <rect x="0" y={y - ROW / 2} width={scale.width} height={ROW} fill="var(--wash)" opacity=".6" />}
      {row.stretches.map((s) => {
        const [a, b] = [scale.x(s.from), scale.x(s.to)];
        const late = s.look.startsWith('late');
        // a hand-over begins its curve before its day
        const stop = cross && s.to === row.handedTo!.on ? Math.max(a, b - 18) : b;
        return <path key={`${s.from}${s.to}`} d={`M${a} ${y}H${stop}`} stroke={late ? 'var(--brick)' : ink} strokeWidth={late ? 3 : 1.5} strokeDasharray={s.look.endsWith('waiting') ? '3 4' : undefined} />;
      })}
      {cross && (
        <g fill="none" stroke="var(--ink)" strokeWidth="1.5">
          <path d={cross.path} />
          <path d={cross.stroke} strokeWidth="1.8" />
        </g>
      )}
      {row.open && row.due && row.due > today && (
        <g stroke="var(--rule-strong)">
          <path d={`M${scale.x(today)} ${y}H${scale.x(row.due)}`} />
          <path d={`M${scale.x(row.due)} ${y - 5}v10`} stroke="var(--moss)" />
        </g>
      )}
      {row.knots.map((k, i) => (
        <Knot key={k.event} kind={k.kind} x={scale.x(k.on)} y={y} ink={ink} chosen={at === i} hidden={k.kind === 'handed over' && i === 0} onClick={() => onKnot(i)} />
      ))}
      {end && (
        <text x={scale.x(row.due && row.due > today ? row.due : today) + 9} y={y + 4} fill={end.look === 'late' ? 'var(--brick)' : end.look === 'soon' ? 'var(--marigold-text)' : 'var(--moss)'} fontWeight={end.look === 'plain' ? 400 : 600}>
          {end.text}
        </text>
      )}
    </g>
  );
}

function Knot({ kind, x, y, ink, chosen, hidden, onClick }: { kind: EventKind; x: number; y: number; ink: string; chosen: boolean; hidden: boolean; onClick(): void }) {
  const shape =
    kind === 'moved' ? (
      <circle cx={x} cy={y} r="3.6" fill="var(--leaf)" stroke={ink} strokeWidth="1.6" />
    ) : kind === 'done' ? (
      <rect x={x - 1.75} y={y - 6} width="3.5" height="12" fill="var(--fern)" />
    ) : kind === 'dropped' ? (
      <path d={`M${x} ${y}l9 -5M${x} ${y}h11M${x} ${y}l9 5`} stroke="var(--moss)" fill="none" />
    ) : kind === 'merged' ? (
      <path d={`M${x - 5} ${y - 5}L${x + 4} ${y}L${x - 5} ${y + 5}`} stroke={ink} strokeWidth="1.6" fill="none" strokeLinejoin="round" />
    ) : kind === 'blocked' ? (
      <path d={`M${x} ${y - 5}v10`} stroke={ink} strokeWidth="2" />
    ) : kind === 'written' || kind === 'answered' || kind === 'reworded' ? (
      <path d={`M${x} ${y - 3}v6`} stroke="var(--moss)" />
    ) : kind === 'handed over' ? null : (
      <circle cx={x} cy={y} r="4" fill={ink} />
    );
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keys of the page reach every knot, and the table says the same
    <g onClick={onClick} onMouseEnter={onClick} style={{ cursor: 'pointer' }}>
      <rect x={x - 8} y={y - 11} width="16" height="22" fill="transparent" />
      {!hidden && shape}
      {chosen && <circle cx={x} cy={y} r="8" fill="none" stroke="var(--bottle)" strokeWidth="2" />}
    </g>
  );
}

function Words({ words, row, left, top, flip }: { words: KnotWords; row: WeaveRow; left: number; top: number; flip: boolean }) {
  return (
    <aside className="knot-words" style={{ left, ...(flip ? { bottom: `calc(100% - ${top - 34}px)` } : { top }) }} role="status">
      <p>
        <b>{words.voice ?? words.by}</b> {TOLD[words.kind] ?? words.kind}, {shortDay(words.on)}
        {words.due && <span className="moss"> for {shortDay(words.due)}</span>}
      </p>
      {words.text ? <p className="said">{words.text}</p> : <p className="moss">By hand, in Ottik.</p>}
      <p className="acts">
        {words.href && (
          <a className="may" href={words.href}>
            Read it in the record <kbd>R</kbd>
          </a>
        )}
        <a className="may" href={`/ledger/${row.ref}`}>
          Trail <kbd>T</kbd>
        </a>
      </p>
    </aside>
  );
}

function WeaveTable({ placed, said, name }: { placed: readonly Placed[]; said: ReadonlyMap<number, KnotWords>; name(id: string): string }) {
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

function Legend() {
  const line = <path d="M0 8H26" stroke="var(--ink)" strokeWidth="1.5" />;
  const items: [string, React.ReactNode][] = [
    [
      'made or said again',
      <>
        {line}
        <circle cx="13" cy="8" r="4" fill="var(--ink)" />
      </>,
    ],
    [
      'moved',
      <>
        {line}
        <circle cx="13" cy="8" r="3.6" fill="var(--lichen)" stroke="var(--ink)" strokeWidth="1.6" />
      </>,
    ],
    [
      'handed over',
      <>
        {line}
        <path d="M9 13L17 3" stroke="var(--ink)" strokeWidth="1.8" />
      </>,
    ],
    [
      'done',
      <>
        <path d="M0 8H20" stroke="var(--ink)" strokeWidth="1.5" />
        <rect x="20" y="2" width="3.5" height="12" fill="var(--fern)" />
      </>,
    ],
    [
      'dropped',
      <>
        <path d="M0 8H14" stroke="var(--moss)" strokeWidth="1.5" />
        <path d="M14 8l9 -5M14 8h11M14 8l9 5" stroke="var(--moss)" fill="none" />
      </>,
    ],
    [
      'merged',
      <>
        <path d="M0 8H18" stroke="var(--ink)" strokeWidth="1.5" />
        <path d="M12 3L21 8L12 13" stroke="var(--ink)" strokeWidth="1.6" fill="none" strokeLinejoin="round" />
      </>,
    ],
    ['waiting', <path key="w" d="M0 8H26" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="3 4" />],
    ['late', <path key="l" d="M0 8H26" stroke="var(--brick)" strokeWidth="3" />],
    [
      'due',
      <>
        <path d="M0 8H20" stroke="var(--rule-strong)" />
        <path d="M20 3v10" stroke="var(--moss)" />
      </>,
    ],
  ];
  return (
    <ul className="weave-legend" aria-label="What the signs mean">
      {items.map(([words, drawing]) => (
        <li key={words}>
          <svg width="28" height="16" aria-hidden="true">
            {drawing}
          </svg>
          {words}
        </li>
      ))}
    </ul>
  );
}
