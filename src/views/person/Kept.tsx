import type { PersonProps } from '../../server/pages/person.ts';

/** Promises kept on time as stems on a line: up is early, down is late. */
export function Kept({ onTime }: { onTime: PersonProps['onTime'] }) {
  const { each, of } = onTime;
  if (of === 0) return <p className="moss">Nothing has come due yet.</p>;
  const shown = each.slice(-24);
  const h = (days: number) => Math.max(-46, Math.min(28, -days * 5));
  const worst = shown.reduce((a, b) => (b.days > a.days ? b : a));
  const pc = (n: number) => Math.round(n * 100);
  return (
    <>
      <p className="big">
        <b>
          {onTime.onTime} of {of}
        </b>{' '}
        <span className="moss">
          {pc(onTime.share)} per cent; with so few it may be anything from {pc(onTime.from)} to {pc(onTime.to)}
        </span>
      </p>
      <svg viewBox="0 0 400 96" width="400" height="96" role="img" aria-label={`${onTime.onTime} of ${of} kept on time`}>
        <path d="M0 36H380" stroke="var(--moss)" />
        {shown.map((e, i) => {
          const x = 8 + i * 15.5;
          return e.days === 0 ? <circle key={e.ref} cx={x} cy={36} r={3} fill="var(--fern)" /> : <path key={e.ref} d={`M${x} 36v${-h(e.days)}`} stroke={e.days > 0 ? 'var(--brick)' : 'var(--fern)'} strokeWidth={4} strokeDasharray={e.open ? '2 2' : undefined} />;
        })}
        {worst.days > 0 && (
          <text x={Math.min(250, 14 + shown.indexOf(worst) * 15.5)} y={92} fontSize={12} fill="var(--brick)">
            {worst.ref}, {worst.days} {worst.days === 1 ? 'day' : 'days'}
            {worst.open ? ' and open' : ''}
          </text>
        )}
        <text x={398} y={14} textAnchor="end" fontSize={12} fill="var(--moss)">
          early
        </text>
        <text x={398} y={70} textAnchor="end" fontSize={12} fill="var(--moss)">
          late
        </text>
      </svg>
    </>
  );
}
