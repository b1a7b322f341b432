import type { FlowPoint } from '../../core/measures/flow.ts';

const [WIDTH, HEIGHT] = [160, 30];

/** What was open over time, and the late part of it: small, to stand in a line of text. */
export function FlowSpark({ flow, href }: { flow: readonly FlowPoint[]; href: string }) {
  const last = flow.at(-1);
  if (!last || flow.length < 2) return null;
  const most = Math.max(1, ...flow.map((p) => p.open));
  const x = (i: number) => (i / (flow.length - 1)) * WIDTH;
  const y = (n: number) => HEIGHT - (n / most) * (HEIGHT - 2);
  const line = flow.map((p, i) => `${i ? `H${x(i).toFixed(1)}V` : 'M0 '}${y(p.open).toFixed(1)}`).join('');
  return (
    <a className="spark" href={href} title="All measures">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width={WIDTH} height={HEIGHT} role="img" aria-label={`${last.open} open, ${last.late} late; ${Math.max(...flow.map((p) => p.open))} open at most`}>
        {flow.map((p, i) => (p.late > 0 ? <path key={p.on} d={`M${x(i).toFixed(1)} ${HEIGHT}V${y(p.late).toFixed(1)}`} stroke="var(--brick)" strokeWidth="1.5" /> : null))}
        <path d={line} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      </svg>
      <span>
        {last.open} open, {last.late} late
      </span>
    </a>
  );
}
