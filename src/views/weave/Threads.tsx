import { dayAndMonth } from '../../core/language/days.ts';
import type { EventKind } from '../../core/ledger/events.ts';
import type { WeaveProps } from '../../server/pages/weave.ts';
import { crossing, endWords, type Placed, ROW, type Scale } from './drawing.ts';

/** Room above the first thread, for the days. */
export const HEAD = 56;

export function Columns({ sittings, scale, height, today }: { sittings: WeaveProps['sittings']; scale: Scale; height: number; today: string }) {
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

export function Thread({ p: { row, y }, scale, today, rows, at, onKnot }: { p: Placed; scale: Scale; today: string; rows: ReadonlyMap<string, Placed>; at: number | null; onKnot(k: number): void }) {
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
