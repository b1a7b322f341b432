import { Area, Bar, CartesianGrid, ComposedChart, ErrorBar, Line, LineChart, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts';
import { daysBetween } from '../../core/dates/calendar.ts';
import { dayAndMonth } from '../../core/language/days.ts';
import type { Point } from '../../core/measures/behind.ts';
import type { Kept } from '../../core/measures/kept.ts';
import type { Across, TalkMeasures } from '../../core/measures/talk.ts';
import type { MeasuresShown } from '../../server/pages/measures.ts';
import { keptName, survivalPoints } from './figures.ts';

/** Opens the commitments behind a point. */
export type Open = (point: Point, key: string, label: string) => void;

const AXIS = { stroke: 'var(--rule-strong)', tick: { fill: 'var(--moss)', fontSize: 12 }, tickLine: false } as const;
const TIP = { contentStyle: { background: 'var(--leaf)', border: '1px solid var(--bottle)', borderRadius: 0, fontSize: 13, padding: '4px 10px' }, labelStyle: { fontWeight: 600 }, isAnimationActive: false } as const;
const grid = <CartesianGrid vertical={false} stroke="var(--rule)" />;

/** Two stairs, made and ended; what lies between them is open, the late part of it in bars from the lower one up. */
export function FlowDrawing({ shown, onOpen }: { shown: MeasuresShown; onOpen: Open }) {
  const data = shown.flow.map((p) => ({ ...p, base: p.made - p.open, stairs: [p.made - p.open, p.made], lateBar: [p.made - p.open, p.made - p.open + p.late] }));
  return (
    <ResponsiveContainer width="100%" height={240}>
      <ComposedChart
        data={data}
        margin={{ top: 8, right: 12, bottom: 0, left: 0 }}
        onClick={(e) => {
          const on = typeof e.activeLabel === 'string' ? e.activeLabel : null;
          if (on) onOpen('late', on, `late on ${dayAndMonth(on)}`);
        }}
      >
        {grid}
        <XAxis dataKey="on" {...AXIS} tickFormatter={dayAndMonth} minTickGap={40} />
        <YAxis {...AXIS} width={34} axisLine={false} allowDecimals={false} />
        <Tooltip {...TIP} labelFormatter={(on) => dayAndMonth(String(on))} formatter={(v) => (Array.isArray(v) ? Number(v[1]) - Number(v[0]) : Number(v))} />
        <Area type="stepAfter" dataKey="stairs" name="open between" stroke="none" fill="var(--rule)" fillOpacity={0.45} isAnimationActive={false} tooltipType="none" />
        <Line type="stepAfter" dataKey="made" name="made" stroke="var(--ink)" strokeWidth={2} dot={false} isAnimationActive={false} />
        <Line type="stepAfter" dataKey="base" name="ended" stroke="var(--fern)" strokeWidth={2} strokeDasharray="6 2" dot={false} isAnimationActive={false} />
        <Bar dataKey="lateBar" name="late" fill="var(--brick)" barSize={4} isAnimationActive={false} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** The numbers themselves, in rows by age. */
export function AgesDrawing({ shown, onOpen }: { shown: MeasuresShown; onOpen: Open }) {
  return (
    <ul className="ages">
      {shown.ages.map((a) => (
        <li key={a.weeks}>
          <button type="button" className="moss" onClick={() => onOpen('age', String(a.weeks), `made ${a.weeks} weeks ago`)}>
            {a.weeks === 0 ? 'this week' : a.weeks === 1 ? '1 week' : a.weeks === 12 ? '12 and more' : `${a.weeks} weeks`}
          </button>
          <span>
            {a.open.map((c) => (
              <a key={c.href} href={c.href} className={c.late ? 'late' : c.loose ? 'loose' : ''} title={c.late ? `${c.ref}, late` : c.loose ? `${c.ref}, loose` : c.ref}>
                {c.ref.slice(2)}
              </a>
            ))}
            {a.more > 0 && <i className="moss">and {a.more} more</i>}
          </span>
        </li>
      ))}
    </ul>
  );
}

/** A knot for each share, with the interval it lies in. */
export function KeptDrawing({ shown, by, onOpen }: { shown: MeasuresShown; by: 'month' | 'owner' | 'series'; onOpen: Open }) {
  const rows: (Kept & { name: string })[] = [...shown.kept[by].map((k) => ({ ...k, name: `${keptName(by, k.key, shown)}, ${k.onTime} of ${k.of}` })), ...(shown.kept[by].length > 1 ? [{ ...shown.kept.all, key: '*', name: `all, ${shown.kept.all.onTime} of ${shown.kept.all.of}` }] : [])];
  const data = rows.map((k) => ({ ...k, percent: k.share * 100, error: [(k.share - k.from) * 100, (k.to - k.share) * 100] }));
  return (
    <ResponsiveContainer width="100%" height={Math.max(120, 44 + data.length * 30)}>
      <ScatterChart margin={{ top: 8, right: 24, bottom: 0, left: 0 }}>
        <CartesianGrid horizontal={false} stroke="var(--rule)" />
        <XAxis type="number" dataKey="percent" domain={[0, 100]} ticks={[0, 25, 50, 75, 100]} {...AXIS} tickFormatter={(v: number) => `${v} %`} />
        <YAxis type="category" dataKey="name" reversed {...AXIS} width={178} axisLine={false} interval={0} tick={{ fill: 'var(--ink)', fontSize: 13 }} />
        <Tooltip {...TIP} cursor={false} formatter={(v) => `${Math.round(Number(v))} %`} />
        <Scatter
          data={data}
          name="on time"
          fill="var(--ink)"
          isAnimationActive={false}
          onClick={(p) => {
            const k = (p as unknown as { payload: Kept & { name: string } }).payload;
            if (k.key !== '*') onOpen(`missed by ${by}`, k.key, `not on time, ${k.name}`);
          }}
        >
          <ErrorBar dataKey="error" direction="x" stroke="var(--ink)" width={6} strokeWidth={1.5} />
        </Scatter>
      </ScatterChart>
    </ResponsiveContainer>
  );
}

/** The share still open, with the interval it lies in, and the day by which half are done. */
export function SurvivalDrawing({ shown, onOpen }: { shown: MeasuresShown; onOpen: Open }) {
  const data = survivalPoints(shown);
  const { median } = shown.survival;
  return (
    <ResponsiveContainer width="100%" height={240}>
      <LineChart
        data={data}
        margin={{ top: 8, right: 16, bottom: 0, left: 0 }}
        onClick={(e) => {
          const days = Number(e.activeLabel);
          if (Number.isFinite(days)) onOpen('open after', String(days), `open for more than ${days} days`);
        }}
      >
        {grid}
        <XAxis type="number" dataKey="days" {...AXIS} domain={[0, 'dataMax']} tickFormatter={(d: number) => (d === 0 ? 'made' : `${d} d`)} tickCount={7} />
        <YAxis {...AXIS} width={44} axisLine={false} domain={[0, 100]} ticks={[0, 25, 50, 75, 100]} tickFormatter={(v: number) => `${v} %`} />
        <Tooltip {...TIP} labelFormatter={(d) => `after ${String(d)} days`} formatter={(v) => `${Math.round(Number(v))} %`} />
        <Line type="stepAfter" dataKey="to" name="at most" stroke="var(--rule-strong)" strokeWidth={1} dot={false} isAnimationActive={false} />
        <Line type="stepAfter" dataKey="from" name="at least" stroke="var(--rule-strong)" strokeWidth={1} dot={false} isAnimationActive={false} />
        <Line type="stepAfter" dataKey="share" name="still open" stroke="var(--ink)" strokeWidth={2} dot={false} isAnimationActive={false} />
        {median !== null && <ReferenceLine x={median} stroke="var(--bottle)" strokeDasharray="2 3" label={{ value: `half after ${median} days`, position: 'insideTopLeft', fill: 'var(--ink)', fontSize: 12, fontWeight: 600 }} />}
      </LineChart>
    </ResponsiveContainer>
  );
}

/** Carries and moves for each commitment of a series, side by side. */
export function SlipsDrawing({ shown, onOpen }: { shown: MeasuresShown; onOpen: Open }) {
  const data = shown.slips.map((s) => ({ key: s.series, name: keptName('series', s.series, shown), carried: Math.round((s.carries / s.n) * 10) / 10, moved: Math.round((s.moves / s.n) * 10) / 10 }));
  const open = (point: 'carried' | 'moved') => (d: unknown) => {
    const row = (d as { payload?: { key: string; name: string } }).payload;
    if (row) onOpen(point, row.key, `${point === 'carried' ? 'carried over' : 'moved'}, ${row.name}`);
  };
  return (
    <ResponsiveContainer width="100%" height={Math.max(120, 48 + data.length * 44)}>
      <ComposedChart layout="vertical" data={data} margin={{ top: 8, right: 36, bottom: 0, left: 0 }} barGap={2}>
        <CartesianGrid horizontal={false} stroke="var(--rule)" />
        <XAxis type="number" {...AXIS} />
        <YAxis type="category" dataKey="name" {...AXIS} width={140} axisLine={false} interval={0} tick={{ fill: 'var(--ink)', fontSize: 13 }} />
        <Tooltip {...TIP} cursor={{ fill: 'var(--leaf-wash)' }} />
        <Bar dataKey="carried" name="carried over" fill="var(--ink)" barSize={9} isAnimationActive={false} label={{ position: 'right', fill: 'var(--moss)', fontSize: 12 }} onClick={open('carried')} />
        <Bar dataKey="moved" name="moved" fill="none" stroke="var(--ink)" barSize={9} isAnimationActive={false} label={{ position: 'right', fill: 'var(--moss)', fontSize: 12 }} onClick={open('moved')} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** How likely each date is to be missed, the most doubtful first. */
export function ForecastDrawing({ shown }: { shown: MeasuresShown }) {
  return (
    <ul className="misses">
      {shown.forecast.misses.map((m) => (
        <li key={m.href}>
          <a href={m.href} className="ref">
            {m.ref}
          </a>
          <span className="what">
            {m.text} <i className="moss">{m.owner}</i>
          </span>
          <span className="moss">
            {dayAndMonth(m.due)}
            {m.due === shown.today ? ', today' : `, in ${daysBetween(shown.today, m.due)} d`}
          </span>
          <span className="chance">
            <i style={{ width: `${m.miss * 100}%` }} />
          </span>
          <b>{Math.round(m.miss * 100)} %</b>
        </li>
      ))}
    </ul>
  );
}

export function MeetingsDrawing({ shown }: { shown: MeasuresShown }) {
  return (
    <ResponsiveContainer width="100%" height={200}>
      <ComposedChart data={shown.meetings} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
        {grid}
        <XAxis dataKey="from" {...AXIS} tickFormatter={dayAndMonth} minTickGap={30} />
        <YAxis {...AXIS} width={40} axisLine={false} tickFormatter={(v: number) => `${v} h`} />
        <Tooltip {...TIP} labelFormatter={(on) => `week from ${dayAndMonth(String(on))}`} formatter={(v) => `${Math.round(Number(v) * 10) / 10} h`} cursor={{ fill: 'var(--leaf-wash)' }} />
        <Bar dataKey="personHours" name="of everybody" fill="none" stroke="var(--moss)" barSize={14} isAnimationActive={false} />
        <Bar dataKey="hours" name="of meetings" fill="var(--ink)" barSize={14} isAnimationActive={false} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

export function LettersDrawing({ shown }: { shown: MeasuresShown }) {
  const data = shown.letters.weeks.map((w) => ({ ...w, silent: w.sent - w.answered }));
  if (data.length === 0) return null;
  return (
    <ResponsiveContainer width="100%" height={200}>
      <ComposedChart data={data} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
        {grid}
        <XAxis dataKey="from" {...AXIS} tickFormatter={dayAndMonth} minTickGap={30} />
        <YAxis {...AXIS} width={34} axisLine={false} allowDecimals={false} />
        <Tooltip {...TIP} labelFormatter={(on) => `week from ${dayAndMonth(String(on))}`} cursor={{ fill: 'var(--leaf-wash)' }} />
        <Bar dataKey="answered" name="answered" stackId="a" fill="var(--fern)" barSize={18} isAnimationActive={false} />
        <Bar dataKey="silent" name="no answer" stackId="a" fill="none" stroke="var(--ink)" barSize={18} isAnimationActive={false} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

const [STEP, STEM, LEFT] = [46, 22, 156];
/** Longest name that fits beside the stems. */
const LONGEST = 20;

/** A stem for each meeting somebody spoke in, all on one scale. */
export function AcrossDrawing({ rows, talk }: { rows: readonly Across[]; talk: TalkMeasures }) {
  const most = Math.max(1, ...rows.flatMap((r) => r.seconds.map((s) => s ?? 0)));
  const width = LEFT + talk.meetings.length * STEP + 70;
  return (
    <svg className="pic across" viewBox={`0 0 ${width} ${24 + rows.length * 28}`} width={width} height={24 + rows.length * 28} aria-hidden="true">
      {talk.meetings.map((m, i) =>
        i === 0 || i === talk.meetings.length - 1 || talk.meetings.length < 9 ? (
          <text key={m.id} x={LEFT + i * STEP} y="12" fontSize="12" fill="var(--moss)" textAnchor="middle">
            {dayAndMonth(m.on)}
          </text>
        ) : null,
      )}
      {rows.map((r, k) => (
        <g key={r.name} transform={`translate(0 ${24 + k * 28})`}>
          <text x="0" y="22" fontSize="13" fill="var(--ink)">
            {r.name.length > LONGEST ? `${r.name.slice(0, LONGEST - 1)}…` : r.name}
          </text>
          {r.seconds.map((s, i) =>
            s === null ? null : (
              <g key={talk.meetings[i]!.id}>
                <path d={`M${LEFT - 20 + i * STEP} 24.5H${LEFT + 20 + i * STEP}`} stroke="var(--rule-strong)" />
                <rect x={LEFT - 4 + i * STEP} y={24 - Math.max(1, (s / most) * STEM)} width="8" height={Math.max(1, (s / most) * STEM)} fill="var(--ink)" />
              </g>
            ),
          )}
          <text x={LEFT + talk.meetings.length * STEP - 8} y="22" fontSize="13" fill="var(--moss)">
            {r.total >= 90 ? `${Math.round(r.total / 60)} min` : `${Math.round(r.total)} s`}
          </text>
        </g>
      ))}
    </svg>
  );
}
