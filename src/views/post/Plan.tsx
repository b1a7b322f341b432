import { useEffect, useRef, useState } from 'react';
import { shortDay } from '../../core/language/days.ts';
import type { PostProps, StripMark } from '../../server/pages/post.ts';

const ROW = 24;
const TOP = 36;
const LEFT = 200;
/** What is left free at the right, and how narrow the strip may be before it scrolls. */
const AFTER = 32;
const LEAST = 1280;
const WEEKEND = 34;

/** Where each day of the fortnight begins and how wide it is: working days share what weekends leave. */
function columns(days: PostProps['days'], room: number): { x: number; width: number }[] {
  const narrow = days.filter((d) => !d.works).length;
  const wide = (room - AFTER - LEFT - narrow * WEEKEND) / Math.max(1, days.length - narrow);
  let x = LEFT;
  return days.map((d) => {
    const width = d.works ? wide : WEEKEND;
    const at = { x, width };
    x += width;
    return at;
  });
}

/** The letter plan as a strip of a fortnight: what went, what waits, what is to come, and what came back. */
export function Plan({ days, rows, today, at, onPick }: Pick<PostProps, 'days' | 'rows' | 'today'> & { at: { id: string; day: string } | null; onPick(id: string, day: string): void }) {
  const [room, setRoom] = useState(LEAST);
  const cols = columns(days, room);
  const height = TOP + Math.max(1, rows.length) * ROW + 8;
  const col = (day: string) => cols[days.findIndex((d) => d.day === day)];
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const measure = () => setRoom(Math.max(LEAST, box.current?.clientWidth ?? 0));
    measure();
    addEventListener('resize', measure);
    return () => removeEventListener('resize', measure);
  }, []);
  // where the strip is wider than the page it begins at today
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the page opens
  useEffect(() => {
    if (box.current && box.current.scrollWidth > box.current.clientWidth) box.current.scrollLeft = (col(today)?.x ?? 0) - (innerWidth < 900 ? 120 : 190);
  }, []);
  return (
    <div className="plan-box">
      {/* where the strip scrolls, the names stay */}
      <ol className="plan-names" aria-hidden="true" style={{ paddingTop: TOP }}>
        {rows.map((r) => (
          <li key={r.id} style={{ height: ROW }}>
            {r.name.split(' ')[0]}
          </li>
        ))}
      </ol>
      <div className="strip-box" ref={box}>
        <svg className="plan" viewBox={`0 0 ${room} ${height}`} width={room} height={height} role="img" aria-label={`Letter plan from ${shortDay(days[0]!.day)} to ${shortDay(days.at(-1)!.day)}`}>
          <defs>
            <pattern id="off" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <path d="M0 0V6" stroke="var(--rule)" />
            </pattern>
          </defs>
          <rect x={182} y={TOP} width={room - 182} height={height - TOP} fill="var(--leaf)" />
          <text x={168} y={23} textAnchor="end" fontSize={12} fill="var(--moss)">
            Letter plan
          </text>
          {days.map((d, i) => {
            const { x, width } = cols[i]!;
            const now = d.day === today;
            return (
              <g key={d.day}>
                {!d.works && <rect x={x} y={TOP} width={width} height={height - TOP} fill="url(#off)" />}
                <path d={`M${x} ${TOP}V${height}`} stroke={now ? 'var(--line)' : 'var(--rule)'} />
                <text x={d.works ? x + 10 : x + width / 2} y={23} textAnchor={d.works ? 'start' : 'middle'} fontSize={d.works ? 13 : 12} fontWeight={now ? 600 : 500} fill={now ? 'var(--ink)' : d.day < today || !d.works ? 'var(--moss)' : 'var(--ink)'}>
                  {d.works ? shortDay(d.day).replace(/ \w+$/, '') : shortDay(d.day)[0]}
                </text>
                {now && <path d={`M${x} ${height}V1.5H${x + width}V${height}`} fill="none" stroke="var(--line)" strokeWidth={1.5} />}
              </g>
            );
          })}
          <path d={`M182 ${TOP}H${room}`} stroke="var(--line)" />
          {rows.map((r, k) => {
            const y = TOP + k * ROW + 16;
            const xs = r.marks.map((m) => (col(m.day)?.x ?? LEFT) + 12);
            return (
              <g key={r.id}>
                <text x={168} y={y + 4} textAnchor="end" fontSize={13} fontWeight={500} fill="var(--ink)">
                  {r.name.length > 19 ? `${r.name.slice(0, 18)}…` : r.name}
                </text>
                {xs.slice(1).map((x, i) => {
                  const from = r.marks[i]!;
                  const to = r.marks[i + 1]!;
                  const answered = to.what === 'answered' && from.what === 'sent';
                  return xs[i] === x ? null : <path key={`${x}`} d={`M${xs[i]! + 6} ${y}H${x - 6}`} stroke={answered ? 'var(--ink)' : 'var(--rule-strong)'} strokeWidth={answered ? 1.5 : 1} strokeDasharray={answered ? undefined : '2 3'} />;
                })}
                {r.marks.map((m, i) => {
                  const width = col(m.day)?.width ?? 80;
                  const twin = i > 0 && r.marks[i - 1]!.day === m.day;
                  const beside = r.marks[i + 1]?.day === m.day;
                  // a second mark on one day stands at the day's end, without words
                  return <Mark key={`${m.day}${m.what}${i}`} m={m} x={xs[i]! + (twin ? width - 22 : 0)} y={y} room={twin ? 0 : width - (beside ? 46 : 24)} at={at?.id === r.id && at.day === m.day} onPick={() => onPick(r.id, m.day)} />;
                })}
              </g>
            );
          })}
          {rows.length === 0 && (
            <text x={LEFT} y={TOP + 18} fontSize={13} fill="var(--moss)">
              Nothing went, and nothing is planned in these two weeks.
            </text>
          )}
        </svg>
      </div>
    </div>
  );
}

const WORDS: Record<StripMark['what'], string> = { sent: 'sent', waits: 'waits for a look', planned: 'planned', held: 'held', answered: 'answered', bounced: 'bounced' };

function Mark({ m, x, y, room, at, onPick }: { m: StripMark; x: number; y: number; room: number; at: boolean; onPick(): void }) {
  const colour = m.late ? 'var(--brick)' : m.what === 'planned' || m.what === 'sent' || m.what === 'answered' || m.what === 'held' ? 'var(--moss)' : 'var(--ink)';
  const shape = m.late ? 'var(--brick)' : 'var(--ink)';
  const chars = Math.floor(room / 6.4);
  const words = chars < 3 ? '' : m.words.length > chars ? `${m.words.slice(0, chars - 1)}…` : m.words;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a short way for the mouse; the lists beside have every letter for the keyboard
    <g className="mark-of-plan" onClick={onPick}>
      <title>{`${shortDay(m.day)}: ${m.words}, ${WORDS[m.what]}`}</title>
      <rect x={x - 10} y={y - 11} width={room + 20} height={22} fill={at ? 'var(--wash)' : 'transparent'} />
      {m.what === 'sent' && <circle cx={x} cy={y} r={4} fill={shape} />}
      {m.what === 'bounced' && <path d={`M${x - 4} ${y - 4}l8 8M${x + 4} ${y - 4}l-8 8`} stroke="var(--brick)" strokeWidth={1.8} />}
      {m.what === 'waits' && (
        <>
          <circle cx={x} cy={y} r={5.5} fill="none" stroke="var(--bottle)" strokeWidth={1.5} />
          <circle cx={x} cy={y} r={2.5} fill="var(--bottle)" />
        </>
      )}
      {m.what === 'planned' && <path d={`M${x} ${y - 5}v10`} stroke={m.late ? 'var(--brick)' : 'var(--moss)'} strokeWidth={1.5} />}
      {m.what === 'held' && <path d={`M${x - 2.5} ${y - 5}v10M${x + 2.5} ${y - 5}v10`} stroke="var(--moss)" strokeWidth={1.5} />}
      {m.what === 'answered' && <path d={`M${x - 3} ${y - 5}l6 5l-6 5`} fill="none" stroke="var(--ink)" strokeWidth={1.7} />}
      <text className="on-thread" x={x + 10} y={y + 4} fontSize={12} fontWeight={m.what === 'waits' ? 600 : 400} fill={m.what === 'waits' && !m.late ? 'var(--ink)' : colour}>
        {words}
      </text>
    </g>
  );
}
