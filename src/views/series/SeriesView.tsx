import { useEffect, useState } from 'react';
import { listOf, shortDay } from '../../core/language/days.ts';
import { VISIBILITY_WORDS } from '../../core/people/rights.ts';
import type { SeriesChanged, SeriesEntry, SeriesMeeting } from '../../server/meetings/series.ts';
import type { SeriesProps } from '../../server/pages/series.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { MoveField } from '../parts/MoveField.tsx';
import { backFrom, changeDay, type DayChange, dayTold } from '../parts/meeting-day.ts';
import { SeriesFields } from './SeriesFields.tsx';

/** What the page says once it has been loaded again. */
const TOLD = 'ottik-series';

/** A series: what holds for it, changed in place, and its meetings, each of which can be moved or cancelled. */
export default function SeriesView(p: SeriesProps) {
  const { entry, names } = p;
  const [meetings, setMeetings] = useState(p.meetings);
  const [editing, setEditing] = useState(false);
  const [at, setAt] = useState<number | null>(null);
  const [moving, setMoving] = useState(false);
  const [said, setSaid] = useState<Said | null>(null);
  const coming = counted(meetings);
  const held = meetings.filter((m) => m.held).reverse();
  const current = coming.find((m) => m.id === at) ?? coming[0];
  const step = (by: 1 | -1) => setAt(coming[Math.max(0, Math.min(coming.length - 1, (current ? coming.indexOf(current) : 0) + by))]?.id ?? null);
  const wrong = (error: unknown) => setSaid(wentWrong(error));
  const ask = <T,>(body: unknown) => post<T>(`/api/series/${p.id}`, body);

  const keep = async (to: SeriesEntry, how: 'Saved' | 'Taken back' = 'Saved') => {
    try {
      const { before, stayed } = await ask<SeriesChanged>({ do: 'keep', entry: to });
      sessionStorage.setItem(TOLD, JSON.stringify({ head: how, rest: stayed.length ? `${listOf(stayed.map((d) => shortDay(d, p.today)))} ${stayed.length > 1 ? 'stay' : 'stays'}: something hangs on it` : to.when, before: how === 'Saved' ? before : null }));
      // the days that follow from it come with the page
      location.reload();
    } catch (error) {
      wrong(error);
    }
  };
  useTold((told) => setSaid({ head: told.head, rest: told.rest, ...(told.before ? { undo: () => void keep(told.before!, 'Taken back') } : {}) }));

  const change = async (m: SeriesMeeting, wanted: DayChange, undoing = false) => {
    try {
      const now = await changeDay(m.id, wanted);
      const slot = m.movedFrom ?? m.date;
      const after: SeriesMeeting = { ...m, date: now.date, time: now.time, cancelled: now.cancelled, movedFrom: slot === now.date ? null : slot, number: m.number };
      setMoving(false);
      setMeetings((was) => was.map((x) => (x.id === m.id ? after : x)).sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : a.id - b.id)));
      const told = dayTold(wanted, now, p.today);
      setSaid(undoing ? { ...told, head: 'Taken back' } : { ...told, undo: () => void change(after, backFrom(wanted, now), true) });
    } catch (error) {
      wrong(error);
    }
  };
  const turn = async (how: 'end' | 'go on') => {
    try {
      const { days } = await ask<{ days: string[] }>({ do: how });
      sessionStorage.setItem(
        TOLD,
        JSON.stringify({
          head: how === 'end' ? 'Ended' : 'It goes on',
          rest: how === 'end' ? `${days.length} planned ${days.length === 1 ? 'meeting is' : 'meetings are'} out of the calendar; what was held stays` : `${days.length} ${days.length === 1 ? 'meeting stands' : 'meetings stand'} in the calendar again`,
          before: null,
        }),
      );
      location.reload();
    } catch (error) {
      wrong(error);
    }
  };
  return (
    <>
      <section className="band details series-entry" aria-label="Series">
        <p className="fl">Every time</p>
        {editing ? (
          <SeriesFields entry={entry} names={names} people={p.people} today={p.today} onKeep={(to) => void keep(to)} onLeave={() => setEditing(false)} />
        ) : (
          <>
            <dl>
              <dt>Meets</dt>
              <dd>{entry.when}</dd>
              <dt>Lasts</dt>
              <dd>{entry.minutes} minutes</dd>
              <dt>Place</dt>
              <dd>{entry.place || <span className="moss">none</span>}</dd>
              <dt>Short name</dt>
              <dd>{entry.short}</dd>
              <dt>Seen by</dt>
              <dd>{VISIBILITY_WORDS[entry.visibility]}</dd>
              <dt>Notes</dt>
              <dd className={entry.notes ? 'said' : ''}>{entry.notes || <span className="moss">none</span>}</dd>
            </dl>
            <p className="who">
              {entry.people.length === 0 && <span className="moss">Nobody is asked to it yet.</span>}
              {entry.people.map((x) => (
                <span key={x.id}>
                  <a href={`/people/${x.id}`}>{names[x.id] ?? x.id}</a> {x.part !== 'attends' && <i className="moss">{x.part}</i>}
                </span>
              ))}
            </p>
            <p className="acts">
              <button type="button" className="may" onClick={() => setEditing(true)}>
                Edit <kbd>E</kbd>
              </button>
              {p.endedOn ? (
                <button type="button" className="may" onClick={() => void turn('go on')}>
                  Let it go on
                </button>
              ) : (
                <button type="button" className="may" onClick={() => void turn('end')}>
                  End the series
                </button>
              )}
            </p>
          </>
        )}
      </section>
      <section className="band coming" aria-label="To come">
        <p className="fl">To come</p>
        <ul>
          {coming.length === 0 && <li className="moss">{p.endedOn ? 'The series has ended.' : 'Nothing is planned.'}</li>}
          {coming.map((m) => (
            <li key={m.id} className={`${m === current ? 'at' : ''}${m.cancelled ? ' off' : ''}`} aria-current={m === current || undefined}>
              <button type="button" className="day" onClick={() => setAt(m.id)}>
                {shortDay(m.date, p.today)}
              </button>
              <span className="moss">{m.time}</span>
              {moving && m === current ? (
                <MoveField onKeep={(when) => void change(m, { do: 'move', when })} onLeave={() => setMoving(false)} />
              ) : (
                <>
                  <a href={`/meetings/${m.id}/prepare`}>{m.cancelled ? 'cancelled' : m.number ? `no. ${m.number}` : entry.title}</a>
                  <span className="moss">{m.movedFrom && !m.cancelled ? `moved from ${shortDay(m.movedFrom, p.today)}` : ''}</span>
                  {m === current && (
                    <span className="acts">
                      {!m.cancelled && (
                        <button type="button" className="may" onClick={() => setMoving(true)}>
                          Move <kbd>M</kbd>
                        </button>
                      )}
                      <button type="button" className="may" onClick={() => void change(m, { do: m.cancelled ? 'hold after all' : 'cancel' })}>
                        {m.cancelled ? 'Hold it after all' : 'Cancel'} <kbd>X</kbd>
                      </button>
                    </span>
                  )}
                </>
              )}
            </li>
          ))}
        </ul>
      </section>
      <section className="band coming" aria-label="Held">
        <p className="fl">Held</p>
        <ul>
          {held.length === 0 && <li className="moss">It has not met yet.</li>}
          {held.slice(0, 26).map((m) => (
            <li key={m.id} className={m.cancelled ? 'off' : ''}>
              <span className="day">{shortDay(m.date, p.today)}</span>
              <span className="moss">{m.time}</span>
              {m.cancelled ? <span>cancelled</span> : <a href={`/meetings/${m.id}/sift`}>{m.number ? `no. ${m.number}` : entry.title}</a>}
            </li>
          ))}
        </ul>
      </section>
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next meeting to come', line: 'Next', run: () => step(1) },
          { key: 'k', does: 'the one before', run: () => step(-1) },
          { key: 'Enter', does: 'prepare it', line: 'Prepare', run: () => current && location.assign(`/meetings/${current.id}/prepare`) },
          { key: 'm', does: 'move it to another day or time', line: 'Move', run: () => setMoving(current !== undefined && !current.cancelled) },
          { key: 'x', does: 'cancel it, or hold it after all', line: 'Cancel', run: () => current && void change(current, { do: current.cancelled ? 'hold after all' : 'cancel' }) },
          { key: 'e', does: 'edit what holds every time', line: 'Edit', run: () => setEditing(true) },
          { key: 'w', does: 'its Weave', run: () => location.assign(`/weave?series=${p.id}`) },
          { key: 'l', does: 'what is open in it, in the Ledger', run: () => location.assign(`/ledger?series=${p.id}`) },
          {
            key: 'Escape',
            does: 'leave what is being typed',
            run: () => {
              setMoving(false);
              setEditing(false);
            },
          },
        ]}
      />
    </>
  );
}

/** What is to come, counted on from the last meeting that was; a cancelled one has no number. */
function counted(meetings: readonly SeriesMeeting[]): SeriesMeeting[] {
  let n = Math.max(0, ...meetings.filter((m) => m.held).map((m) => m.number ?? 0));
  return meetings.filter((m) => !m.held).map((m) => ({ ...m, number: m.cancelled ? null : ++n }));
}

interface Told {
  head: string;
  rest: string;
  before: SeriesEntry | null;
}

/** Tells once what was done right before the page was loaded. */
function useTold(tell: (told: Told) => void): void {
  // biome-ignore lint/correctness/useExhaustiveDependencies: once
  useEffect(() => {
    const told = sessionStorage.getItem(TOLD);
    sessionStorage.removeItem(TOLD);
    if (told) tell(JSON.parse(told) as Told);
  }, []);
}
