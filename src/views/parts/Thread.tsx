import { daysBetween } from '../../core/dates/calendar.ts';
import type { EventKind } from '../../core/ledger/events.ts';

interface Props {
  life: readonly { on: string; kind: EventKind }[];
  due: string | null;
  endedOn: string | null;
  blocked: boolean;
  today: string;
  /** first and last day the drawing spans */
  from: string;
  to: string;
  width: number;
  height?: number;
  /** 1 in a row, larger on the trail */
  scale?: number;
}

/** A commitment's life as a thread: knots for what was said, brick where it is late, a tick for the day it is due. */
export function Thread({ life, due, endedOn, blocked, today, from, to, width, height = 20, scale = 1 }: Props) {
  const span = Math.max(1, daysBetween(from, to));
  const x = (d: string) => Math.round(((Math.max(0, Math.min(span, daysBetween(from, d))) / span) * (width - 12) + 6) * 10) / 10;
  const y = height / 2;
  const first = life[0]?.on ?? today;
  const end = endedOn ?? today;
  const late = due !== null && due < end;
  const r = 2.7 * scale;
  return (
    <svg className="thread" width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      <path d={`M${x(first)} ${y}H${x(late && due ? due : end)}`} stroke={endedOn ? 'var(--moss)' : 'var(--ink)'} strokeWidth={1.25 * scale} strokeDasharray={blocked ? '3 4' : undefined} />
      {late && due && <path d={`M${x(due)} ${y}H${x(end)}`} stroke="var(--brick)" strokeWidth={2.2 * scale} />}
      {!endedOn && due && due > today && <path d={`M${x(today)} ${y}H${x(due)}`} stroke="var(--rule-strong)" strokeWidth={1} />}
      {due && <path d={`M${x(due)} ${y - 5 * scale}v${10 * scale}`} stroke={late ? 'var(--brick)' : 'var(--moss)'} strokeWidth={1} />}
      {life.map((e, i) => (
        <Knot key={`${e.on}${e.kind}${i}`} kind={e.kind} x={x(e.on)} y={y} r={r} scale={scale} />
      ))}
    </svg>
  );
}

function Knot({ kind, x, y, r, scale }: { kind: EventKind; x: number; y: number; r: number; scale: number }) {
  if (kind === 'moved') return <circle cx={x} cy={y} r={r * 0.9} fill="var(--leaf)" stroke="var(--ink)" strokeWidth={1.3 * scale} />;
  if (kind === 'handed over') return <path d={`M${x - 2 * scale} ${y + 5 * scale}L${x + 2 * scale} ${y - 5 * scale}`} stroke="var(--ink)" strokeWidth={1.6 * scale} />;
  if (kind === 'done') return <rect x={x - 1.75 * scale} y={y - 5 * scale} width={3 * scale} height={10 * scale} fill="var(--fern)" />;
  if (kind === 'dropped') return <path d={`M${x} ${y}l${7 * scale} ${-4 * scale}M${x} ${y}h${7 * scale}M${x} ${y}l${7 * scale} ${4 * scale}`} stroke="var(--moss)" strokeWidth={1 * scale} />;
  if (kind === 'merged') return <path d={`M${x - 4 * scale} ${y - 4 * scale}L${x + 3 * scale} ${y}L${x - 4 * scale} ${y + 4 * scale}`} stroke="var(--ink)" strokeWidth={1.3 * scale} fill="none" strokeLinejoin="round" />;
  if (kind === 'written' || kind === 'answered' || kind === 'reworded') return <path d={`M${x} ${y - 3}v6`} stroke="var(--moss)" />;
  return <circle cx={x} cy={y} r={r} fill="var(--ink)" />;
}
