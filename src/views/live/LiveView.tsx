import { useEffect, useMemo, useReducer, useRef, useState } from 'react';
import { inSigns, readCapture, signOf, USUAL_LEGEND } from '../../core/meetings/live/capture.ts';
import { clockOf, clockWords } from '../../core/meetings/live/clock.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { Ended } from '../../server/meetings/live/end.ts';
import type { Room, RoomChange, RoomLine } from '../../server/meetings/live/room.ts';
import type { LiveShown } from '../../server/pages/live.ts';
import { get, post, Refused, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { useStream } from '../parts/use-stream.ts';
import { AgendaRail } from './AgendaRail.tsx';
import { CaptureField } from './CaptureField.tsx';
import { LegendFields } from './LegendFields.tsx';
import { LineRow } from './LineRow.tsx';
import { type LiveAct, liveKeys } from './live-keys.ts';
import { liveReducer, soFar, spokenOf } from './live-state.ts';
import { ReadBackPart } from './ReadBackPart.tsx';
import { unsentBefore, useSending } from './use-sending.ts';
import { VoteFields, VotePart } from './VotePart.tsx';
import { WalkPart } from './WalkPart.tsx';

type Change = RoomChange | { do: 'end' };

/** A meeting while it is held: the agenda with its clock, what is written, the commitments of before one by one, and the read-back. */
export default function LiveView({ first }: { first: LiveShown }) {
  const id = first.room.meeting.id;
  const [state, tell] = useReducer(liveReducer, { room: first.room, walk: first.walk, at: null, unsent: [], typed: '', editing: null, reading: false, offline: false });
  const [said, setSaid] = useState<Said | null>(null);
  const [open, setOpen] = useState<'move' | 'hand over' | null>(null);
  /** what is being filled in below the lines */
  const [filling, setFilling] = useState<'signs' | 'vote' | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const end = useRef<HTMLLIElement>(null);
  const { room } = state;
  const now = useNow(room.state === 'running', room.now);
  const people = useMemo(() => first.people.map((p) => ({ id: p.id, name: p.name, aliases: p.aliases, role: p.role, mail: null })), [first.people]);
  const nameOf = (who: string) => first.people.find((p) => p.id === who)?.name ?? who.replace(/^new:/, '');
  const reading = { legend: room.legend, people, writer: first.me, date: room.meeting.date, next: first.next };
  const read = state.typed.trim() ? readCapture(state.typed, reading) : null;
  // an agenda nobody has touched is kept once the meeting begins; until then it is shown as it is built
  const points = room.points.length ? room.points : first.agenda.points.map((p, n) => ({ ...p, id: p.id ?? -1 - n }));
  const clock = clockOf(points, room.marks, room.meeting.minutes ?? 60, now);
  const current = clock.points.find((p) => p.current)?.item ?? null;
  const row = spokenOf(state);
  const running = room.state === 'running' && first.mayChange;
  const vote = room.votes.find((v) => !v.closed);

  useEffect(() => {
    for (const line of unsentBefore(id)) tell({ do: 'write', line });
  }, [id]);
  useSending(id, state.unsent, tell);
  useStream(
    `/api/meetings/${id}/room-live`,
    () =>
      void get<Room>(`/api/meetings/${id}/room`).then(
        (r) => tell({ do: 'room', room: r }),
        () => tell({ do: 'offline', is: true }),
      ),
  );
  // biome-ignore lint/correctness/useExhaustiveDependencies: another line has come
  useEffect(() => {
    end.current?.scrollIntoView({ block: 'nearest' });
  }, [room.lines.length, state.unsent.length]);

  const ask = async (change: Change, done?: Said): Promise<boolean> => {
    try {
      const { room: r } = await post<{ room: Room }>(`/api/meetings/${id}/room`, change);
      tell({ do: 'room', room: r });
      setSaid(done ?? null);
      // it stands on another day now, and so does the page
      if (change.do === 'begin' && change.insist) location.reload();
      return true;
    } catch (error) {
      if (error instanceof Refused && error.insist && change.do === 'begin') setSaid({ ...wentWrong(error), or: { key: 'g', label: 'Hold it today', run: () => void ask({ do: 'begin', insist: true }) } });
      else setSaid(wentWrong(error));
      return false;
    }
  };
  const keep = async () => {
    const text = inSigns(state.typed, room.legend, USUAL_LEGEND);
    if (signOf(text, USUAL_LEGEND).rest === '') return;
    const { editing } = state;
    if (!editing) return tell({ do: 'write', line: { id: crypto.randomUUID(), text, point: current, refused: null } });
    if (await ask({ do: 'edit', id: editing.id, text, revision: editing.revision })) tell({ do: 'leave' });
    else {
      // what somebody else wrote is shown; the words typed stay, and Enter keeps them over it
      const fresh = await get<Room>(`/api/meetings/${id}/room`).catch(() => null);
      const line = fresh?.lines.find((l) => l.id === editing.id);
      if (fresh && line) {
        tell({ do: 'room', room: fresh });
        tell({ do: 'edit', line, typed: state.typed });
      }
    }
  };
  const edit = (line: RoomLine) => {
    tell({ do: 'edit', line, typed: inSigns(line.text, USUAL_LEGEND, room.legend) });
    field.current?.focus();
  };
  const remove = (line: RoomLine) => void ask({ do: 'remove', id: line.id, removed: true }, { head: 'Taken out', rest: line.read.text, undo: () => void ask({ do: 'remove', id: line.id, removed: false }, { head: 'Put back' }) });
  const walk = async (change: Record<string, unknown>, words: string) => {
    if (!row) return;
    try {
      const { row: after, event } = await post<{ row: LedgerRow; event: number }>(`/api/commitments/${row.id}`, { ...change, meeting: id });
      setOpen(null);
      tell({ do: 'walked', row: after });
      setSaid({
        head: `${row.ref} ${words}`,
        rest: row.text,
        undo: () =>
          void post<{ row: LedgerRow }>(`/api/events/${event}`, { do: 'undo' }).then(
            (back) => tell({ do: 'walked', row: back.row }),
            (error: unknown) => setSaid(wentWrong(error)),
          ),
      });
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const finish = async () => {
    if (state.unsent.some((u) => u.refused === null)) return setSaid({ head: 'Some lines are still on their way.', rest: 'Wait until they are kept, then end the meeting.', bad: true });
    try {
      const { taken, left, room: r } = await post<Ended>(`/api/meetings/${id}/room`, { do: 'end' });
      tell({ do: 'room', room: r });
      setSaid({ head: 'The meeting has ended', rest: `${taken.length ? `${taken.join(', ')} taken; ` : ''}${left} left on Sift` });
    } catch (error) {
      setSaid(wentWrong(error));
    }
  };
  const nextPoint = () => {
    const n = room.points.findIndex((p) => p.id === current);
    const after = [...room.points.slice(n + 1), ...room.points.slice(0, Math.max(0, n))].find((p) => !clock.points.find((t) => t.item === p.id)?.done);
    if (after) void ask({ do: 'point', point: after.id }, { head: after.title });
  };
  const tick = (point: number, done: boolean) => void ask({ do: 'tick', point, done }).then((ok) => ok && done && point === current && nextPoint());
  const act = (what: LiveAct) => {
    switch (what) {
      case 'begin':
        return void ask({ do: 'begin' });
      case 'note':
        return field.current?.focus();
      case 'next':
        return nextPoint();
      case 'tick':
        return current !== null && tick(current, true);
      case 'read':
        return tell({ do: 'read' });
      case 'end':
        return void finish();
      case 'forward':
        return tell({ do: 'walk', by: 1 });
      case 'back':
        return tell({ do: 'walk', by: -1 });
      case 'vote':
        return vote ? undefined : setFilling('vote');
      case 'leave':
        return setOpen(null);
      case 'move':
      case 'hand over':
        return setOpen(what);
      case 'done':
        return void walk({ do: 'done' }, 'done');
      case 'still on it':
        return void walk({ do: 'still on it' }, 'still on it');
      case 'wait':
        return void walk({ do: 'block' }, 'waits');
      default:
        return void walk({ do: 'drop' }, 'dropped');
    }
  };
  const keys = first.mayChange ? liveKeys(state, open !== null) : [];
  return (
    <div className="live">
      <p className="say live-now">
        <span className="fl clock">
          {clockWords(clock.gone)}
          <span>of {room.meeting.minutes ?? 60} minutes</span>
        </span>
        <span className="so-far">So far: {soFar(room)}</span>
        {state.offline && <b className="late">Ottik cannot be reached; lines are kept here and go as soon as it can be.</b>}
        <span className="end">
          {room.state === 'before' && first.mayChange && (
            <button type="button" className="do" onClick={() => act('begin')}>
              Begin <kbd>B</kbd>
            </button>
          )}
          {running && (
            <button type="button" className="may" onClick={() => act('read')}>
              {state.reading ? 'Close the read-back' : 'Read back'} <kbd>R</kbd>
            </button>
          )}
          {running && state.reading && (
            <button type="button" className="do" onClick={() => act('end')}>
              End the meeting <kbd>E</kbd>
            </button>
          )}
          {room.state === 'over' && (
            <a className="do" href={room.meeting.records ? `/meetings/${id}/sift` : `/bring-in?meeting=${id}`}>
              {room.meeting.records ? 'Go on to Sift' : 'Bring in its record'}
            </a>
          )}
        </span>
      </p>
      <div className="columns">
        <AgendaRail room={{ ...room, points }} clock={clock} from={startOf(room)} onPoint={(point) => void ask({ do: 'point', point })} onTick={tick} />
        <section className="notes" aria-label="Notes">
          <h2 className="lh">
            Notes<span>{writers(room)}</span>
          </h2>
          <ol>
            {room.lines.map((l) => (
              <LineRow key={l.id} read={l.read} seconds={l.seconds} by={l.byName} changedBy={l.changedBy} note={null} today={first.today} nameOf={nameOf} onEdit={running ? () => edit(l) : null} onRemove={running ? () => remove(l) : null} />
            ))}
            {state.unsent
              .filter((u) => !room.lines.some((l) => l.id === u.id))
              .map((u) => (
                <LineRow
                  key={u.id}
                  read={readCapture(u.text, { ...reading, legend: USUAL_LEGEND })}
                  seconds={null}
                  by={nameOf(first.me)}
                  changedBy={null}
                  note={u.refused === null ? (state.offline ? 'kept here until Ottik can be reached' : null) : `not kept: ${u.refused}`}
                  today={first.today}
                  nameOf={nameOf}
                  onEdit={null}
                  onRemove={u.refused === null ? null : () => tell({ do: 'drop', id: u.id })}
                />
              ))}
            <li ref={end} className="last" aria-hidden="true" />
          </ol>
          {room.state === 'before' && <p className="moss">What is written stands here, for everybody in the meeting. It begins with B.</p>}
          {running && (
            <CaptureField
              field={field}
              typed={state.typed}
              read={read}
              legend={room.legend}
              editing={state.editing !== null}
              today={first.today}
              nameOf={nameOf}
              onType={(text) => tell({ do: 'typed', text })}
              onKeep={() => void keep()}
              onLeave={() => tell({ do: 'leave' })}
              onUp={() => {
                const mine = room.lines.filter((l) => l.by === first.me).at(-1);
                if (mine) edit(mine);
              }}
            />
          )}
          {running &&
            (filling === 'signs' ? (
              <LegendFields legend={room.legend} onKeep={(legend) => void ask({ do: 'legend', legend }, { head: 'Your signs are kept' }).then((ok) => ok && setFilling(null))} onLeave={() => setFilling(null)} />
            ) : filling === 'vote' ? (
              <VoteFields onKeep={(vote) => void ask(vote).then((ok) => ok && setFilling(null))} onLeave={() => setFilling(null)} />
            ) : (
              <p className="own-signs">
                <button type="button" className="may" onClick={() => setFilling('signs')}>
                  Own signs
                </button>
                {!vote && (
                  <button type="button" className="may" onClick={() => setFilling('vote')}>
                    Put something to the vote <kbd>V</kbd>
                  </button>
                )}
              </p>
            ))}
        </section>
        <div className="beside">
          {vote && running && <VotePart vote={vote} onChange={(change) => void ask(change, change.do === 'close vote' ? { head: 'The vote is closed', rest: 'what came of it stands among the lines' } : undefined)} />}
          <section aria-label="Open from before">
            <h2 className="lh">
              Open from before
              <span>
                {Object.keys(room.walked).length} of {state.walk.length} spoken of
              </span>
            </h2>
            {row && running ? (
              <WalkPart
                row={row}
                place={state.walk.indexOf(row) + 1}
                of={state.walk.length}
                walked={room.walked}
                today={first.today}
                next={first.next}
                people={first.people}
                open={open}
                onAct={act}
                onMove={(due) => void walk({ do: 'move', due }, due ? 'moved' : 'has no date now')}
                onHandOver={(owner) => void walk({ do: 'hand over', owner }, 'handed over')}
                onLeave={() => setOpen(null)}
              />
            ) : (
              <ul className="walk-list">
                {state.walk.slice(0, 12).map((r) => (
                  <li key={r.id}>
                    <a className="ref" href={`/ledger/${r.ref}`}>
                      {r.ref}
                    </a>{' '}
                    {r.text} {room.walked[r.id] && <span className="ok">{room.walked[r.id]!.kind}</span>}
                  </li>
                ))}
                {state.walk.length === 0 && <li className="moss">Nothing is open from before.</li>}
              </ul>
            )}
          </section>
          <ReadBackPart lines={room.lines} today={first.today} nameOf={nameOf} onConfirm={running && state.reading ? (line) => void ask({ do: 'confirm', id: line.id, confirmed: line.confirmedBy === null }) : null} onEdit={(line) => running && edit(line)} />
        </div>
      </div>
      <Foot said={said} keys={keys.map(({ act: what, ...k }) => ({ ...k, run: () => void act(what) }))} />
    </div>
  );
}

/** The server’s time, a second at a time while the meeting runs; the clock of this machine may be wrong. */
function useNow(running: boolean, server: number): number {
  const offset = useRef(0);
  const [now, setNow] = useState(server);
  useEffect(() => {
    offset.current = server - Date.now();
    setNow(server);
  }, [server]);
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => setNow(Date.now() + offset.current), 1000);
    return () => clearInterval(timer);
  }, [running]);
  return now;
}

/** Minutes since midnight at which a meeting began, where it is held, or is to begin. */
function startOf({ began, meeting }: Room): number {
  if (began !== null) {
    const at = new Date(began);
    return at.getHours() * 60 + at.getMinutes() + at.getSeconds() / 60;
  }
  const [h, m] = (meeting.time ?? '09:00').split(':').map(Number) as [number, number];
  return h * 60 + m;
}

function writers({ lines }: Room): string {
  const names = [...new Set(lines.map((l) => l.byName.split(' ')[0]!))];
  return names.length === 0 ? '' : names.length === 1 ? `${names[0]} writes` : `${names.slice(0, -1).join(', ')} and ${names.at(-1)} write`;
}
