import { useState } from 'react';
import { daysBetween } from '../../core/dates/calendar.ts';
import { shortDay } from '../../core/language/days.ts';
import { relativeDay } from '../../core/ledger/due.ts';
import type { Jotting } from '../../server/day/jottings.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { PersonProps } from '../../server/pages/person.ts';
import { post, wentWrong } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { AccessSection } from './AccessSection.tsx';
import { Details } from './Details.tsx';
import { EntryActs } from './EntryActs.tsx';
import { Heard } from './Heard.tsx';
import { Kept } from './Kept.tsx';

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
  const [merging, setMerging] = useState(false);
  /** what became of the entry while the page stands */
  const [gone, setGone] = useState<{ into: { id: string; name: string } | null } | null>(null);
  const change = (body: unknown) => post<{ merge?: number }>(`/api/people/${p.person.id}`, body);
  const merge = async (into: string) => {
    setMerging(false);
    try {
      const { merge: made } = await change({ do: 'merge', into });
      const other = p.people.find((o) => o.id === into)!;
      setGone({ into: other });
      setSaid({
        head: 'Merged',
        rest: `${p.person.name} is ${other.name} from now on`,
        undo: () =>
          void change({ do: 'part', merge: made }).then(() => {
            setGone(null);
            setSaid({ head: 'Taken back', rest: 'they are two entries again' });
          }, wrong),
      });
    } catch (error) {
      wrong(error);
    }
  };
  const [details, setDetails] = useState(p.details);
  const [editing, setEditing] = useState(false);
  const keep = async (to: PersonProps['details']) => {
    try {
      const { before } = await post<{ before: PersonProps['details'] }>(`/api/people/${p.person.id}/details`, to);
      setDetails(to);
      setEditing(false);
      setSaid({
        head: 'Saved',
        rest: to.name,
        undo: () =>
          void post(`/api/people/${p.person.id}/details`, before).then(() => {
            setDetails(before);
            setSaid({ head: 'Taken back', rest: 'the entry is as it was' });
          }, wrong),
      });
    } catch (error) {
      wrong(error);
    }
  };
  const takeOff = async () => {
    try {
      await change({ do: 'remove' });
      setGone({ into: null });
      setSaid({
        head: 'Taken off',
        rest: `${p.person.name} is not in this project any more`,
        undo: () =>
          void change({ do: 'put back' }).then(() => {
            setGone(null);
            setSaid({ head: 'Put back', rest: p.person.name });
          }, wrong),
      });
    } catch (error) {
      wrong(error);
    }
  };
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
      <Details details={details} countries={p.countries} zones={p.zones} editing={editing} onEditing={setEditing} onKeep={(to) => void keep(to)} />
      <AccessSection person={p.person} start={p.access} own={own} say={setSaid} />
      {!own && <EntryActs name={p.person.name} people={p.people.filter((o) => o.id !== p.person.id)} gone={gone} merging={merging} onMerging={setMerging} onMerge={(into) => void merge(into)} onTakeOff={() => void takeOff()} />}
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next promise', run: () => setAt(Math.min(lines.length - 1, at + 1)) },
          { key: 'k', does: 'the one before', run: () => setAt(Math.max(0, at - 1)) },
          { key: 'Enter', does: 'open its trail', line: 'Trail', run: () => current && location.assign(`/ledger/${current.row.ref}`) },
          { key: 'n', does: 'add a standing note', line: 'Note', run: () => setWriting('standing') },
          { key: 'a', does: 'add a note of today', run: () => setWriting('dated') },
          { key: 'e', does: 'edit the details: name, address, role', run: () => setEditing(true) },
          { key: 'l', does: 'all they hold, in the Ledger', line: 'Ledger', run: () => location.assign(`/ledger?owner=${p.person.id}`) },
          ...(own || gone
            ? []
            : [
                { key: 'm', does: 'merge this entry with another person’s', run: () => setMerging(true) },
                { key: 'x', does: 'take them off the project', run: () => void takeOff() },
              ]),
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
