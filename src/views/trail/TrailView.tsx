import { useState } from 'react';
import { addDays, daysBetween } from '../../core/dates/calendar.ts';
import { clock, dayAndMonth, listOf, shortDay } from '../../core/language/days.ts';
import { daysAway, relativeDay } from '../../core/ledger/due.ts';
import type { EventKind } from '../../core/ledger/events.ts';
import type { Change } from '../../server/ledger/changes.ts';
import type { Trail, TrailEvent } from '../../server/ledger/trail.ts';
import type { Choice } from '../../server/people/people.ts';
import { post, wentWrong } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import { Foot, type Said } from '../parts/Foot.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { Thread } from '../parts/Thread.tsx';

export interface TrailProps {
  trail: Trail;
  people: Choice[];
  today: string;
  next: string | null;
}

const NAMES: Record<EventKind, string> = {
  made: 'Made',
  restated: 'Said again',
  moved: 'Moved',
  'handed over': 'Handed over',
  blocked: 'Waiting',
  done: 'Done',
  dropped: 'Dropped',
  reopened: 'Reopened',
  reworded: 'Reworded',
  written: 'Letter',
  answered: 'Answer',
  'put off': 'Put off',
  'taken up': 'Taken up again',
  'no date': 'Needs no date',
  merged: 'Merged',
  undone: 'Taken back',
};

/** One commitment's whole history: what was said, promised and moved, with the words. */
export default function TrailView({ trail, people, today, next }: TrailProps) {
  const { row, events } = trail;
  const [field, setField] = useState<'due' | 'owner' | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const [at, setAt] = useState(0);
  const open = row.state === 'open' || row.state === 'blocked';
  const stands = events.filter((e) => !e.undone);
  const change = async (what: Change) => {
    setField(null);
    try {
      await post(`/api/commitments/${row.id}`, what);
      location.reload();
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const undo = async (id: number) => {
    try {
      await post(`/api/events/${id}`, { do: 'undo' });
      location.reload();
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const step = (by: number) => {
    const to = Math.max(0, Math.min(events.length - 1, at + by));
    setAt(to);
    document.querySelectorAll('.happened')[to]?.scrollIntoView({ block: 'nearest' });
  };
  const places = events[at]?.said ?? [];
  return (
    <>
      <Picture trail={trail} today={today} />
      <div className="trail">
        <ol className="story" aria-label="What happened">
          {events.map((e, i) => (
            <Happened key={e.id} event={e} before={stands[stands.findIndex((x) => x.id === e.id) - 1]} dueBefore={dueBefore(stands, e.id)} people={people} today={today} current={i === at} onUndo={e.kind === 'made' || e.undone || i !== lastOwn(events) ? null : () => void undo(e.id)} />
          ))}
        </ol>
        <aside className="doing" aria-label="What can be done">
          <h2 className="lh">
            Now<span>{row.from}</span>
          </h2>
          <dl>
            <div>
              <dt>State</dt>
              <dd>
                {row.state === 'blocked' ? 'waiting' : row.state}
                {row.endedOn ? `, ${shortDay(row.endedOn, today)}` : ''}
              </dd>
            </div>
            <div>
              <dt>Owner</dt>
              <dd>
                {field === 'owner' ? (
                  <OwnerField value={row.owner.map((o) => o.id)} people={people} onLeave={() => setField(null)} onKeep={(ids) => void change({ do: 'hand over', owner: ids })} />
                ) : (
                  <button type="button" className={`set${row.owner.length ? '' : ' soon'}`} disabled={!open} onClick={() => setField('owner')}>
                    {listOf(row.owner.map((o) => o.name)) || 'nobody yet'}
                  </button>
                )}
              </dd>
            </div>
            <div>
              <dt>Due</dt>
              <dd>
                {field === 'due' ? (
                  <DateField value={row.due} context={{ date: today, next }} today={today} label="Due date" onLeave={() => setField(null)} onKeep={(due) => void change({ do: 'move', due })} />
                ) : (
                  <>
                    <button type="button" className={`set${row.due ? '' : ' soon'}`} disabled={!open} onClick={() => setField('due')}>
                      {row.due ? shortDay(row.due, today) : 'no date'}
                    </button>{' '}
                    {open && row.due && <span className={row.due < today ? 'late' : 'moss'}>{relativeDay(row.due, today)}</span>}
                  </>
                )}
              </dd>
            </div>
            <div>
              <dt>Age</dt>
              <dd>
                {daysBetween(row.madeOn, row.endedOn ?? today)} days, carried over {row.carried} {row.carried === 1 ? 'time' : 'times'}, moved {row.moved === 0 ? 'never' : row.moved === 1 ? 'once' : `${row.moved} times`}
              </dd>
            </div>
          </dl>
          <div className="acts">
            {open ? (
              <>
                <button type="button" className="do" onClick={() => void change({ do: 'done' })}>
                  Done <kbd>D</kbd>
                </button>
                <button type="button" className="may" onClick={() => setField('due')}>
                  Move <kbd>M</kbd>
                </button>
                <button type="button" className="may" onClick={() => setField('owner')}>
                  Hand over <kbd>O</kbd>
                </button>
                <button type="button" className="may" onClick={() => void change({ do: 'block' })}>
                  Waiting <kbd>W</kbd>
                </button>
                <button type="button" className="may" onClick={() => void change({ do: 'drop' })}>
                  Drop <kbd>X</kbd>
                </button>
              </>
            ) : (
              <button type="button" className="do" onClick={() => void change({ do: 'reopen' })}>
                Reopen <kbd>U</kbd>
              </button>
            )}
          </div>
        </aside>
      </div>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next event (or arrow down)', line: 'Next event', run: () => step(1) },
          { key: 'k', does: 'previous event (or arrow up)', run: () => step(-1) },
          {
            key: 'r',
            does: 'read its words in the record',
            line: 'Record',
            run: () => {
              const e = events[at];
              const p = places[0];
              if (e?.meeting && p) location.assign(`/meetings/${e.meeting}/sift?record=${p.record}#s${p.segment}`);
            },
          },
          { key: 'd', does: 'done', line: 'Done', run: () => open && void change({ do: 'done' }) },
          { key: 'm', does: 'move: type a new date', line: 'Move', run: () => open && setField('due') },
          { key: 'o', does: 'hand over: type an owner', line: 'Hand over', run: () => open && setField('owner') },
          { key: 'w', does: 'waiting for something', run: () => open && void change({ do: 'block' }) },
          { key: 's', does: 'still on it', run: () => open && void change({ do: 'still on it' }) },
          { key: 'x', does: 'drop it', run: () => open && void change({ do: 'drop' }) },
          { key: 'u', does: 'reopen', run: () => !open && void change({ do: 'reopen' }) },
          { key: 'p', does: 'print it', line: 'Print', run: () => print() },
          { key: 'l', does: 'back to the Ledger', line: 'Ledger', run: () => location.assign('/ledger') },
        ]}
      />
    </>
  );
}

/** The last change made by hand can be taken back here; what came from a find is taken back at the find. */
function lastOwn(events: readonly TrailEvent[]): number {
  for (let i = events.length - 1; i >= 0; i--) if (!events[i]!.undone && events[i]!.of === null) return events[i]!.meeting === null && events[i]!.kind !== 'merged' ? i : -1;
  return -1;
}

function dueBefore(stands: readonly TrailEvent[], id: number): string | null {
  let due: string | null = null;
  for (const e of stands) {
    if (e.id === id) return due;
    if (e.data.due !== undefined && e.of === null) due = e.data.due;
  }
  return due;
}

function Happened({ event: e, dueBefore: was, people, today, current, onUndo }: { event: TrailEvent; before: TrailEvent | undefined; dueBefore: string | null; people: readonly Choice[]; today: string; current: boolean; onUndo: (() => void) | null }) {
  const name = (id: string) => people.find((p) => p.id === id)?.name ?? id;
  return (
    <li className={`happened${current ? ' at' : ''}${e.undone ? ' is-undone' : ''}`}>
      <span className="fl">
        {shortDay(e.on, today)}
        <span>{daysAway(e.on, today)}</span>
      </span>
      <span className={`knot kn-${e.kind.replace(' ', '-')}`} aria-hidden="true" />
      <p>
        {e.of && (
          <a className="ref" href={`/ledger/${e.of}`}>
            {e.of}
          </a>
        )}{' '}
        <b className="strong">{NAMES[e.kind]}</b>{' '}
        {e.meeting !== null && (
          <a className="moss" href={`/meetings/${e.meeting}/sift${e.said[0] ? `?record=${e.said[0].record}#s${e.said[0].segment}` : ''}`}>
            {e.meetingTitle?.toLowerCase()}
            {e.meetingNumber ? ` no. ${e.meetingNumber}` : ''}
            {e.said[0]?.start != null ? `, ${clock(e.said[0].start)}` : ''}
          </a>
        )}
        {e.meeting === null && <span className="moss">by {e.byName}</span>}
        {e.undone && <span className="moss"> taken back</span>}
      </p>
      {e.said.slice(0, 4).map((s) => (
        <p key={s.segment} className="said words">
          {s.voice && <span className="voice">{s.voice}</span>}
          <a href={`/meetings/${e.meeting}/sift?record=${s.record}#s${s.segment}`} className={s.role === 'dates' ? 'r-when' : ''}>
            {s.text.length > 320 ? `${s.text.slice(0, 320)}…` : s.text}
          </a>
        </p>
      ))}
      <p className="n13 moss facts">
        {e.data.owner && (
          <span>
            owner <b>{listOf(e.data.owner.map(name)) || 'nobody yet'}</b>
          </span>
        )}
        {e.data.due !== undefined && (
          <span>
            {e.kind === 'moved' && was && (
              <>
                was <s>{shortDay(was)}</s>{' '}
              </>
            )}
            {e.kind === 'moved' ? 'now' : 'due'} <b>{e.data.due ? shortDay(e.data.due, today) : 'no date'}</b>
          </span>
        )}
        {e.data.text && e.kind === 'reworded' && <span>now “{e.data.text}”</span>}
        {e.data.reason && <span>{e.data.reason}</span>}
        {e.data.letter !== undefined && (
          <a className="may line" href={`/post/letters/${e.data.letter}`}>
            the letter
          </a>
        )}
        {e.data.reply !== undefined && <span className="moss">from an answer{e.takenBy && e.takenBy !== e.byName ? `, taken by ${e.takenBy}` : ''}</span>}
        {e.kind === 'put off' && <span>{e.data.until ? `until ${shortDay(e.data.until)}` : 'into the backlog'}</span>}
        {e.meeting !== null && <span>taken by {e.byName}</span>}
        {onUndo && (
          <button type="button" className="undo" onClick={onUndo}>
            Take it back
          </button>
        )}
      </p>
    </li>
  );
}

/** The life large: sittings across, promises as arcs from where they were said to the day they named. */
function Picture({ trail, today }: { trail: Trail; today: string }) {
  const { row, events, sittings } = trail;
  const stands = events.filter((e) => !e.undone);
  const last = [row.due ?? today, today, row.endedOn ?? today].sort().pop()!;
  const from = addDays(row.madeOn, -3);
  const to = addDays(last, 6);
  const width = 1040;
  const span = Math.max(10, daysBetween(from, to));
  const x = (d: string) => (daysBetween(from, d) / span) * (width - 12) + 6;
  const end = row.endedOn ?? today;
  const promises = stands.filter((e) => e.data.due).map((e, i, all) => ({ said: e.on, due: e.data.due!, replaced: i < all.length - 1, missed: e.data.due! < end && i === all.length - 1 }));
  return (
    <div className="picture" role="img" aria-label={`Life of ${row.ref}: made ${shortDay(row.madeOn)}, ${stands.length} events, ${row.due ? `due ${shortDay(row.due)}` : 'no date'}`}>
      <span className="fl">Promised for</span>
      <span className="fl fl2">Said</span>
      <div className="scroll">
        <svg viewBox={`0 0 ${width} 150`} width={width} height="150" className="pic" aria-hidden="true">
          {sittings
            .filter((s) => s.date >= from && s.date <= to)
            .map((s) => (
              <g key={s.id}>
                <path d={`M${x(s.date)} 24V150`} stroke="var(--rule)" />
                <text x={x(s.date)} y="12" fontSize="12" textAnchor="middle" fill={s.date === today ? 'var(--ink)' : 'var(--moss)'}>
                  {dayAndMonth(s.date)}
                </text>
                {s.number && (
                  <text x={x(s.date)} y="24" fontSize="11" textAnchor="middle" fill="var(--moss)">
                    no. {s.number}
                  </text>
                )}
              </g>
            ))}
          <path d={`M${x(today)} 28V150`} stroke="var(--line)" strokeWidth="1.5" />
          {promises.map((p) => {
            const [a, b] = [x(p.said), x(p.due)];
            const high = Math.min(62, 14 + Math.abs(b - a) * 0.22);
            return (
              <g key={`${p.said}${p.due}`}>
                <path d={`M${a} 104C${a + (b - a) * 0.25} ${104 - high} ${a + (b - a) * 0.75} ${104 - high} ${b} 104`} fill="none" strokeWidth="1.25" stroke={p.replaced ? 'var(--moss)' : p.missed ? 'var(--brick)' : 'var(--bottle)'} />
                <text x={Math.max(60, (a + b) / 2)} y={100 - high * 0.75} fontSize="11" textAnchor="middle" fill={p.replaced ? 'var(--moss)' : p.missed ? 'var(--brick)' : 'var(--bottle)'} stroke="var(--leaf)" strokeWidth="4" paintOrder="stroke">
                  by {dayAndMonth(p.due)}
                </text>
              </g>
            );
          })}
          <foreignObject x="0" y="90" width={width} height="28">
            <Thread life={stands.map((e) => ({ on: e.on, kind: e.kind }))} due={row.due} endedOn={row.endedOn} blocked={row.state === 'blocked'} today={today} from={from} to={to} width={width} height={28} scale={1.7} />
          </foreignObject>
          {stands.map((e, i) =>
            stands[i + 1] && x(stands[i + 1]!.on) - x(e.on) < 56 && i > 0 ? null : (
              <text key={e.id} x={Math.min(width - 70, x(e.on))} y="136" fontSize="12" fill="var(--moss)">
                {NAMES[e.kind].toLowerCase()}
              </text>
            ),
          )}
        </svg>
      </div>
    </div>
  );
}
