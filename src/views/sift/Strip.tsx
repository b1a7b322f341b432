import { useMemo } from 'react';
import { clock } from '../../core/language/days.ts';
import type { KeptFind } from '../../server/sift/finds.ts';
import type { Turn } from './turns.ts';

/** Characters of a turn that is drawn as long as any. */
const LONG = 700;

/** The whole record at the far edge: a stroke for each turn, as long as it is, and the finds where they stand. */
export function Strip({ turns, finds, current, view, onGo }: { turns: readonly Turn[]; finds: readonly KeptFind[]; current: number | null; view: [number, number]; onGo(turn: number): void }) {
  const height = 600;
  const step = turns.length ? height / turns.length : 0;
  const at = useMemo(() => new Map(turns.flatMap((t, i) => t.segments.map((s): [number, number] => [s.index, i]))), [turns]);
  const every = Math.max(1, Math.ceil(turns.length / 240));
  const strokes = useMemo(
    () =>
      turns.map((t) =>
        Math.min(
          LONG,
          t.segments.reduce((n, s) => n + s.text.length, 0),
        ),
      ),
    [turns],
  );
  const longest = useMemo(() => strokes.reduce((a, b) => Math.max(a, b), 1), [strokes]);
  const times = [0, 0.25, 0.5, 0.75].map((p) => turns[Math.floor(p * turns.length)]).filter((t) => t !== undefined);
  return (
    <aside className="strip" aria-hidden="true">
      <svg className="stripsvg" width="80" height={height + 16} viewBox={`0 -8 80 ${height + 16}`} onClick={(e) => onGo(Math.floor(((e.clientY - e.currentTarget.getBoundingClientRect().top - 8) / height) * turns.length))}>
        <rect x="-4" y={view[0] * height} width="88" height={Math.max(6, (view[1] - view[0]) * height)} fill="var(--leaf)" />
        <path d={`M-4 ${view[0] * height}H84M-4 ${view[0] * height + Math.max(6, (view[1] - view[0]) * height)}H84`} stroke="var(--line)" />
        {turns.map((t, i) => i % every === 0 && <path key={t.key} d={`M18 ${Math.round(i * step) + 0.5}h${4 + (strokes[i]! / longest) * 16}`} stroke="var(--rule-strong)" />)}
        {finds.map((f) => {
          const i = at.get(f.evidence[0]?.segment ?? 0) ?? 0;
          const big = f.id === current;
          return (
            <g key={f.id} transform={`translate(${big ? 4 : 6} ${i * step - (big ? 5 : 3.5)}) scale(${big ? 0.85 : 0.6})`} className={f.verdict === 'open' ? `k-${f.kind}` : 'moss'} opacity={f.verdict === 'passed' ? 0.4 : 1}>
              {f.kind === 'action' && <path d="M.5.5h7.5L11.5 4v7.5H.5z" fill={f.verdict === 'passed' ? 'none' : 'currentColor'} stroke="currentColor" />}
              {f.kind === 'decision' && <path d="M-1 4h14v4H-1z" fill="currentColor" />}
              {f.kind === 'question' && <circle cx="6" cy="6" r="4.6" fill="none" stroke="currentColor" strokeWidth="2.2" />}
              {f.kind === 'update' && <path d="M-1 6H11.5M7.5 2l4 4-4 4" fill="none" stroke="currentColor" strokeWidth="2" />}
            </g>
          );
        })}
        <g fontSize="11" fill="var(--moss)" textAnchor="end">
          {times.map(
            (t, k) =>
              t.start !== null && (
                <text key={t.key} x="76" y={k * 0.25 * height + 4}>
                  {clock(t.start)}
                </text>
              ),
          )}
        </g>
      </svg>
    </aside>
  );
}
