import { useState } from 'react';
import { addDays, daysBetween, weekday } from '../../core/dates/calendar.ts';
import { dayAndMonth, shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { Jotting } from '../../server/jottings.ts';
import type { LedgerRow } from '../../server/ledger.ts';
import type { PersonProps } from '../../server/pages/person.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';

/** A person as a two-sided account: their promises and mine by date, where they are heard and where silent, how they keep dates, notes. */
export default function PersonView(p: PersonProps) {
  const [notes, setNotes] = useState(p.notes);
  const [writing, setWriting] = useState<'standing' | 'dated' | null>(null);
  const [said, setSaid] = useState<Said | null>(null);
  const [at, setAt] = useState(0);
  const first = p.person.name.split(' ')[0]!;
  const own = p.person.id === p.me;
  const lines = account(own ? [] : p.theirs, p.mine, p.ended, p.person.id);
  const wrong = (error: unknown) => setSaid(wentWrong(error));
  const add = async (text: string) => {
    const standing = writing === 'standing';
    setWriting(null);
    if (!text.trim()) return;
    try {
      const made = await post<Jotting>('/api/jottings', { text, about: { kind: 'person', id: p.person.id }, standing });
      setNotes([made, ...notes]);
      setSaid({ head: 'Noted', rest: standing ? 'it stays in sight' : 'with today’s date', undo: () => void remove(made) });
    } catch (error) {
      wrong(error);
    }
  };
  const remove = async (n: Jotting) => {
    try {
      await post(`/api/jottings/${n.id}`, { do: 'remove' });
      setNotes((old) => old.filter((o) => o.id !== n.id));
      setSaid({
        head: 'Taken off',
        rest: n.text.slice(0, 60),
        undo: () =>
          void post<Jotting>(`/api/jottings/${n.id}`, { do: 'put back' }).then((back) => {
            setNotes((old) => [back, ...old]);
            setSaid(null);
          }, wrong),
      });
    } catch (error) {
      wrong(error);
    }
  };
  const current = lines[at];
  return (
    <>
      <section className="band account" aria-label="Promises">
        <p className="fl">Between us</p>
        <table>
          <thead>
            <tr>
              <th className="l">
                {own ? '' : `${first} promised`} {!own && <span>{p.theirs.length} open</span>}
              </th>
              <th className="c">by</th>
              <th>
                You promised <span>{p.mine.length} open</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.length === 0 && (
              <tr>
                <td className="l moss">Nothing is promised</td>
                <td className="c" />
                <td />
              </tr>
            )}
            {lines.map((l, i) => (
              <tr key={`${l.row.id}${l.side}`} className={`${i === at ? 'at' : ''}${l.ended ? ' over' : ''}`} onClick={() => setAt(i)}>
                <td className="l">{l.side === 'theirs' && <Promised row={l.row} />}</td>
                <td className="c">
                  <b className={l.row.due ? '' : 'soon'}>{l.row.due ? shortDay(l.row.due, p.today) : 'no date'}</b>
                  <span className={l.ended ? 'ok' : l.row.due && l.row.due < p.today ? 'late' : l.row.due && daysBetween(p.today, l.row.due) <= 1 ? 'soon' : 'moss'}>{l.ended ? 'done' : l.row.state === 'blocked' ? 'waiting' : l.row.due ? relativeDay(l.row.due, p.today) : 'loose'}</span>
                </td>
                <td>{l.side === 'mine' && <Promised row={l.row} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      {!own && (
        <section className="band heard" aria-label="Heard">
          <p className="fl">
            Heard<span>nine weeks</span>
          </p>
          <Heard {...p.heard} today={p.today} />
        </section>
      )}
      <div className="band halves">
        {!own && (
          <section aria-label="On time">
            <p className="fl">
              On time<span>only you see this</span>
            </p>
            <Kept onTime={p.onTime} />
          </section>
        )}
        <section aria-label="Notes" className="notes">
          <h2 className="lh">
            Standing notes<span>only you see them</span>
          </h2>
          <ul>
            {notes
              .filter((n) => n.standing)
              .map((n) => (
                <Note key={n.id} n={n} onRemove={() => void remove(n)} />
              ))}
            {writing === 'standing' ? (
              <Writing onKeep={add} onLeave={() => setWriting(null)} />
            ) : (
              <li>
                <button type="button" className="may" onClick={() => setWriting('standing')}>
                  Add what is worth remembering <kbd>N</kbd>
                </button>
              </li>
            )}
          </ul>
          <h2 className="lh">Notes by date</h2>
          <ul>
            {writing === 'dated' ? (
              <Writing onKeep={add} onLeave={() => setWriting(null)} />
            ) : (
              <li>
                <button type="button" className="may" onClick={() => setWriting('dated')}>
                  Add a note of today <kbd>A</kbd>
                </button>
              </li>
            )}
            {notes
              .filter((n) => !n.standing)
              .map((n) => (
                <Note key={n.id} n={n} onRemove={() => void remove(n)} />
              ))}
          </ul>
        </section>
      </div>
      {(p.brief.decided.length > 0 || p.brief.doneSince.length > 0 || p.brief.changed.length > 0) && (
        <section className="band since">
          <p className="fl">
            Since last time<span>{p.last ? shortDay(p.last.date, p.today) : 'never met'}</span>
          </p>
          <ul>
            {p.brief.doneSince.map((d) => (
              <li key={d.ref}>
                <a className="ref" href={`/ledger/${d.ref}`}>
                  {d.ref}
                </a>{' '}
                {d.text} <span className="ok">done {d.doneOn ? shortDay(d.doneOn, p.today) : ''}</span>
              </li>
            ))}
            {p.brief.changed.map((c, i) => (
              <li key={`${c.ref}${i}`}>
                <a className="ref" href={`/ledger/${c.ref}`}>
                  {c.ref}
                </a>{' '}
                {c.text}{' '}
                <span className="moss">
                  {c.kind}
                  {c.due ? ` to ${shortDay(c.due, p.today)}` : ''}
                </span>
              </li>
            ))}
            {p.brief.decided.map((d) => (
              <li key={d.ref}>
                <span className="ref">{d.ref}</span> {d.text} <span className="moss">decided {shortDay(d.on, p.today)}</span>
              </li>
            ))}
            {p.brief.parked.slice(0, 6).map((q) => (
              <li key={q.ref}>
                <span className="ref">{q.ref}</span> {q.text} <span className="soon">open</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next promise', run: () => setAt(Math.min(lines.length - 1, at + 1)) },
          { key: 'k', does: 'the one before', run: () => setAt(Math.max(0, at - 1)) },
          { key: 'Enter', does: 'open its trail', line: 'Trail', run: () => current && location.assign(`/ledger/${current.row.ref}`) },
          { key: 'n', does: 'add a standing note', line: 'Note', run: () => setWriting('standing') },
          { key: 'a', does: 'add a note of today', run: () => setWriting('dated') },
          { key: 'l', does: 'all they hold, in the Ledger', line: 'Ledger', run: () => location.assign(`/ledger?owner=${p.person.id}`) },
          { key: 'w', does: 'their Weave', line: 'Weave', run: () => location.assign(`/weave?person=${p.person.id}`) },
        ]}
      />
    </>
  );
}

interface Line {
  row: LedgerRow;
  side: 'theirs' | 'mine';
  ended: boolean;
}

function account(theirs: readonly LedgerRow[], mine: readonly LedgerRow[], ended: readonly LedgerRow[], id: string): Line[] {
  const by = (a: Line, b: Line) => ((a.row.due ?? '9999') < (b.row.due ?? '9999') ? -1 : (a.row.due ?? '9999') > (b.row.due ?? '9999') ? 1 : a.row.id - b.row.id);
  const open: Line[] = [...theirs.map((row): Line => ({ row, side: 'theirs', ended: false })), ...mine.map((row): Line => ({ row, side: 'mine', ended: false }))].sort(by);
  return [...open, ...ended.slice(0, 8).map((row): Line => ({ row, side: row.owner.some((o) => o.id === id) ? 'theirs' : 'mine', ended: true }))];
}

function Promised({ row }: { row: LedgerRow }) {
  return (
    <a href={`/ledger/${row.ref}`} title={row.text}>
      {row.carried > 1 && <span className="moss n13">carried {row.carried} </span>}
      <span className="w">{row.text}</span> <span className="ref">{row.ref}</span>
    </a>
  );
}

function Note({ n, onRemove }: { n: Jotting; onRemove(): void }) {
  return (
    <li>
      <span className="moss">{shortDay(n.on)}</span>
      <span className="said">{n.text}</span>
      <button type="button" className="moss" aria-label={`Take off: ${n.text.slice(0, 40)}`} onClick={onRemove}>
        ×
      </button>
    </li>
  );
}

function Writing({ onKeep, onLeave }: { onKeep(text: string): void; onLeave(): void }) {
  return (
    <li>
      <span className="moss">today</span>
      <input
        // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
        autoFocus
        className="said"
        aria-label="Note"
        maxLength={2000}
        onKeyDown={(e) => {
          if (e.key === 'Enter') onKeep((e.target as HTMLInputElement).value);
          if (e.key === 'Escape') onLeave();
        }}
      />
    </li>
  );
}

const LEFT = 112;
const WIDE = 868;

/** Meetings shared, letters and answers on one line of weeks; what has had no answer for long is dashed. */
function Heard({ from, meetings, letters, answers, silentFor, today }: PersonProps['heard'] & { today: string }) {
  const span = daysBetween(from, today);
  const x = (day: string) => LEFT + (daysBetween(from, day) / span) * WIDE;
  const mondays: string[] = [];
  for (let d = addDays(from, (8 - weekday(from)) % 7); d <= today; d = addDays(d, 7)) mondays.push(d);
  const silentFrom = silentFor !== null && silentFor > 0 ? addDays(today, -silentFor) : null;
  return (
    <svg viewBox="0 0 1048 124" width="1048" height="124" role="img" aria-label={`Heard in ${meetings.length} meetings; ${letters.length} letters, ${answers.length} answers${silentFor ? `; silent for ${silentFor} days` : ''}`}>
      {mondays.map((m) => (
        <g key={m}>
          <path d={`M${x(m)} 6V118`} stroke="var(--rule)" />
          <text x={x(m) + 6} y={18} fontSize={12} fill="var(--moss)">
            {dayAndMonth(m)}
          </text>
        </g>
      ))}
      {['In meetings', 'Letters', 'Answers'].map((name, i) => (
        <text key={name} x={0} y={44 + i * 30} fontSize={13} fill="var(--ink)">
          {name}
        </text>
      ))}
      {meetings.length > 0 && <path d={`M${x(meetings[0]!)} 40H${x(today)}`} stroke="var(--ink)" strokeWidth={1.3} />}
      {meetings.map((m, i) => (
        <circle key={`${m}${i}`} cx={x(m)} cy={40} r={4} fill="var(--ink)" />
      ))}
      {letters.length > 0 && <path d={`M${x(letters[0]!.on)} 70H${x(today)}`} stroke="var(--ink)" strokeWidth={1.3} />}
      {letters.map((l, i) => (
        <circle key={`${l.on}${i}`} cx={x(l.on)} cy={70} r={4} fill={l.late ? 'var(--brick)' : 'var(--ink)'} />
      ))}
      {answers.map((a, i) => (
        <path key={`${a}${i}`} d={`M${x(a) - 3} 95l6 5l-6 5`} fill="none" stroke="var(--ink)" strokeWidth={1.7} />
      ))}
      {answers.length > 0 && <path d={`M${x(answers[0]!)} 100H${silentFrom ? Math.max(x(answers.at(-1)!), x(silentFrom)) : x(today)}`} stroke="var(--ink)" strokeWidth={1.3} />}
      {silentFrom && (
        <>
          <path d={`M${x(silentFrom)} 100H${x(today)}`} stroke="var(--brick)" strokeWidth={1.6} strokeDasharray="3 4" />
          <text x={Math.max(LEFT, Math.min(x(silentFrom) + 6, LEFT + WIDE - 120))} y={118} fontSize={12} fontWeight={600} fill="var(--brick)">
            silent for {silentFor} {silentFor === 1 ? 'day' : 'days'}
          </text>
        </>
      )}
      {letters.length === 0 && (
        <text x={LEFT} y={74} fontSize={12} fill="var(--moss)">
          none in these weeks
        </text>
      )}
      <path d={`M${x(today)} 6V118`} stroke="var(--line)" strokeWidth={1.5} />
    </svg>
  );
}

/** Promises kept on time as stems on a line: up is early, down is late. */
function Kept({ onTime }: { onTime: PersonProps['onTime'] }) {
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
