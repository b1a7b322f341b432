import { useEffect, useMemo, useRef, useState } from 'react';
import { addDays } from '../../core/dates/calendar.ts';
import { listOf, shortDay } from '../../core/language/days.ts';
import { DUE_WINDOWS, relativeDay } from '../../core/ledger/due.ts';
import type { Change } from '../../server/changes.ts';
import type { LedgerRow } from '../../server/ledger.ts';
import type { LedgerProps } from '../../server/pages/ledger.ts';
import { post, Refused } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import { Foot, type Said } from '../parts/Foot.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { Thread } from '../parts/Thread.tsx';
import { type Grouping, groupRows, passes } from './grouping.ts';

type Editing = { id: number; field: 'text' | 'owner' | 'due' } | null;

/** Days before and after today that the small threads span. */
const BEFORE = 49;
const AHEAD = 28;

export default function LedgerView({ rows: given, people, series, today, me, start }: LedgerProps) {
  const [rows, setRows] = useState(given);
  const [filter, setFilter] = useState(start);
  const [by, setBy] = useState<Grouping>('due');
  const [current, setCurrent] = useState<number | null>(given.find((r) => passes(r, start, today))?.id ?? null);
  const [editing, setEditing] = useState<Editing>(null);
  const [draft, setDraft] = useState('');
  const [said, setSaid] = useState<Said | null>(null);
  const search = useRef<HTMLInputElement>(null);

  const groups = useMemo(
    () =>
      groupRows(
        rows.filter((r) => passes(r, filter, today)),
        by,
        today,
      ),
    [rows, filter, by, today],
  );
  const flat = groups.flatMap((g) => g.rows);
  const row = flat.find((r) => r.id === current) ?? null;

  useEffect(() => {
    const q = new URLSearchParams(Object.entries(filter).filter(([k, v]) => v && !(k === 'state' && v === 'open')));
    history.replaceState(null, '', q.size ? `?${q}` : location.pathname);
  }, [filter]);
  useEffect(() => {
    document.querySelector(`tr[data-row="${current}"]`)?.scrollIntoView({ block: 'nearest' });
  }, [current]);

  const put = (r: LedgerRow) => setRows((all) => all.map((x) => (x.id === r.id ? r : x)));
  const refused = (error: unknown) => setSaid({ head: error instanceof Refused ? error.message : 'Something went wrong.', rest: error instanceof Refused ? (error.advice ?? undefined) : undefined, bad: true });

  const change = async (r: LedgerRow, what: Change, words: string, optimistic: Partial<LedgerRow>) => {
    setEditing(null);
    put({ ...r, ...optimistic });
    try {
      const kept = await post<{ row: LedgerRow; event: number }>(`/api/commitments/${r.id}`, what);
      put(kept.row);
      setSaid({
        head: `${r.ref} ${words}`,
        rest: r.text,
        undo: () => {
          post<{ row: LedgerRow }>(`/api/events/${kept.event}`, { do: 'undo' }).then((back) => {
            put(back.row);
            setSaid({ head: `${r.ref} as it was` });
          }, refused);
        },
      });
    } catch (error) {
      put(r);
      refused(error);
    }
  };
  const step = (by: 1 | -1) => {
    const at = flat.findIndex((r) => r.id === current);
    const to = flat[at < 0 ? 0 : Math.max(0, Math.min(flat.length - 1, at + by))];
    if (to) setCurrent(to.id);
  };
  const edit = (field: NonNullable<Editing>['field']) => {
    if (!row) return;
    if ((row.state === 'done' || row.state === 'dropped') && field !== 'text') {
      setSaid({ head: `${row.ref} is ${row.state}`, rest: 'Reopen it first, with U.', bad: true });
      return;
    }
    setDraft(row.text);
    setEditing({ id: row.id, field });
  };
  const open = row && row.state !== 'done' && row.state !== 'dropped';
  const from = addDays(today, -BEFORE);
  const to = addDays(today, AHEAD);

  const select = (label: string, key: keyof typeof filter, options: [string, string][]) => (
    <label className="pick">
      <span className="vh">{label}</span>
      <select value={filter[key]} onChange={(e) => setFilter({ ...filter, [key]: e.target.value })}>
        {options.map(([v, words]) => (
          <option key={v} value={v}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );

  return (
    <>
      <div className="say">
        <span className="fl">Show</span>
        <span className="sentence">
          {select('State', 'state', [
            ['open', 'open'],
            ['loose', 'loose'],
            ['waiting', 'waiting'],
            ['ended', 'ended'],
            ['all', 'all'],
          ])}{' '}
          commitments held by {select('Owner', 'owner', [['', 'anyone'], [me, 'me'], ['nobody', 'nobody'], ...people.filter((p) => p.id !== me && rows.some((r) => r.owner.some((o) => o.id === p.id))).map((p): [string, string] => [p.id, p.name])])}, from{' '}
          {select('Series', 'series', [['', 'any meeting'], ...series.map((s): [string, string] => [s.id, s.short])])}, due {select('Due', 'due', [['', 'any time'], ...DUE_WINDOWS.map((w): [string, string] => [w, w === 'late' ? 'before today' : w])])}, grouped by{' '}
          <label className="pick">
            <span className="vh">Grouped by</span>
            <select value={by} onChange={(e) => setBy(e.target.value as Grouping)}>
              <option value="due">when they are due</option>
              <option value="owner">who holds them</option>
              <option value="series">where they come from</option>
              <option value="state">how they stand</option>
            </select>
          </label>
        </span>
        <label className="in">
          <span className="vh">Words in them</span>
          <input ref={search} value={filter.text} placeholder="Words in them" onChange={(e) => setFilter({ ...filter, text: e.target.value })} onKeyDown={(e) => (e.key === 'Escape' || e.key === 'Enter') && (e.target as HTMLElement).blur()} />
          <kbd>F</kbd>
        </label>
      </div>
      {flat.length === 0 ? (
        <div className="empty on-leaf">
          <h2>{rows.length === 0 ? 'Nothing is promised yet' : 'Nothing fits'}</h2>
          <p>{rows.length === 0 ? 'Commitments come from sifted meetings. Bring in a record to begin.' : 'No commitment fits this sentence and these words.'}</p>
          {rows.length === 0 ? (
            <a className="do" href="/bring-in">
              Bring in a record
            </a>
          ) : (
            <button type="button" className="do" onClick={() => setFilter({ owner: '', state: 'open', series: '', due: '', text: '' })}>
              Show all open ones
            </button>
          )}
        </div>
      ) : (
        <div className="reg">
          <table>
            <thead>
              <tr>
                <th className="c-ref">Ref</th>
                <th>What</th>
                <th className="c-owner">Owner</th>
                <th className="c-due sortd">Due</th>
                <th className="n c-n">Age</th>
                <th className="n c-n">Carried</th>
                <th className="n c-n">Moved</th>
                <th className="c-life">Life</th>
                <th className="c-from">From</th>
              </tr>
            </thead>
            <tbody>
              {groups.map((g) =>
                g.rows.map((r, i) => {
                  const late = r.due !== null && r.due < today && r.state !== 'done' && r.state !== 'dropped';
                  const mine = editing?.id === r.id ? editing.field : null;
                  return (
                    <tr key={`${g.name}${r.id}`} data-row={r.id} className={`${i === 0 ? 'first' : ''}${r.id === current ? ' at' : ''}${mine ? ' edit' : ''}`} aria-current={r.id === current || undefined} onClick={() => setCurrent(r.id)}>
                      <th scope="row">
                        {i === 0 && (
                          <span className={`grp ${g.tone}`}>
                            {g.name} <b>{g.rows.length}</b>
                          </span>
                        )}
                        <a className="ref" href={`/ledger/${r.ref}`}>
                          {r.ref}
                        </a>
                      </th>
                      <td className="what">
                        {mine === 'text' ? (
                          <span className="typed wide">
                            <input
                              // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
                              autoFocus
                              aria-label="What"
                              value={draft}
                              onChange={(e) => setDraft(e.target.value)}
                              onKeyDown={(e) => {
                                if (e.key === 'Enter' && draft.trim()) void change(r, { do: 'reword', text: draft.trim() }, 'reworded', { text: draft.trim() });
                                if (e.key === 'Escape') setEditing(null);
                              }}
                            />
                          </span>
                        ) : (
                          <button
                            type="button"
                            onClick={() => {
                              setCurrent(r.id);
                              setDraft(r.text);
                              setEditing({ id: r.id, field: 'text' });
                            }}
                            title={r.text}
                          >
                            {r.text}
                          </button>
                        )}
                      </td>
                      <td className="c-owner">
                        {mine === 'owner' ? (
                          <OwnerField value={r.owner.map((o) => o.id)} people={people} onLeave={() => setEditing(null)} onKeep={(ids, names) => void change(r, { do: 'hand over', owner: ids }, `is ${listOf(names) || 'nobody’s'} now`, { owner: ids.map((id, k) => ({ id, name: names[k] ?? id })) })} />
                        ) : (
                          <button
                            type="button"
                            className={r.owner.length ? '' : 'soon'}
                            onClick={() => {
                              setCurrent(r.id);
                              if (r.endedOn === null) setEditing({ id: r.id, field: 'owner' });
                            }}
                          >
                            {listOf(r.owner.map((o) => o.name)) || 'nobody yet'}
                          </button>
                        )}
                      </td>
                      <td className="c-due">
                        {mine === 'due' ? (
                          <DateField value={r.due} context={{ date: today, next: null }} today={today} label="Due date" onLeave={() => setEditing(null)} onKeep={(due) => void change(r, { do: 'move', due }, due ? `moved to ${shortDay(due, today)}` : 'has no date now', { due })} />
                        ) : (
                          <button
                            type="button"
                            onClick={() => {
                              setCurrent(r.id);
                              if (r.endedOn === null) setEditing({ id: r.id, field: 'due' });
                            }}
                          >
                            <span className={r.due ? 'day' : 'day soon'}>{r.due ? shortDay(r.due, today) : 'no date'}</span>
                            {r.endedOn ? (
                              <span className="rel ok">
                                {r.state} {shortDay(r.endedOn, today)}
                              </span>
                            ) : r.state === 'blocked' ? (
                              <span className="rel moss">waiting</span>
                            ) : (
                              r.due && <span className={`rel ${late ? 'late' : r.due <= addDays(today, 1) ? 'soon' : 'moss'}`}>{relativeDay(r.due, today)}</span>
                            )}
                          </button>
                        )}
                      </td>
                      <td className="n c-n">{days(r, today)}</td>
                      <td className="n c-n">{r.carried || <span className="zero">·</span>}</td>
                      <td className="n c-n">{r.moved || <span className="zero">·</span>}</td>
                      <td className="c-life">
                        <Thread life={r.life} due={r.due} endedOn={r.endedOn} blocked={r.state === 'blocked'} today={today} from={from} to={to} width={136} scale={0.9} />
                      </td>
                      <td className="c-from">{r.from}</td>
                    </tr>
                  );
                }),
              )}
            </tbody>
          </table>
        </div>
      )}
      <Foot
        said={said}
        keys={[
          { key: 'j', does: 'next line (or arrow down)', run: () => step(1) },
          { key: 'k', does: 'previous line (or arrow up)', run: () => step(-1) },
          { key: 'Enter', does: 'open the trail', line: 'Trail', run: () => row && location.assign(`/ledger/${row.ref}`) },
          { key: 'd', does: 'done', line: 'Done', run: () => row && open && void change(row, { do: 'done' }, 'done', { state: 'done', endedOn: today }) },
          { key: 'm', does: 'move: type a new date', line: 'Move', run: () => edit('due') },
          { key: 'o', does: 'hand over: type an owner', line: 'Hand over', run: () => edit('owner') },
          { key: 'e', does: 'edit the wording', line: 'Edit', run: () => edit('text') },
          { key: 'w', does: 'waiting for something', run: () => row && open && void change(row, { do: 'block' }, 'waits', { state: 'blocked' }) },
          { key: 's', does: 'still on it', run: () => row && open && void change(row, { do: 'still on it' }, 'is still on', { state: 'open' }) },
          { key: 'x', does: 'drop it', run: () => row && open && void change(row, { do: 'drop' }, 'dropped', { state: 'dropped', endedOn: today }) },
          { key: 'u', does: 'reopen what is done or dropped', run: () => row && !open && void change(row, { do: 'reopen' }, 'open again', { state: 'open', endedOn: null }) },
          { key: 'f', does: 'find words in them', run: () => search.current?.focus() },
        ]}
      />
    </>
  );
}

function days(r: LedgerRow, today: string): number | React.ReactNode {
  const n = Math.round((Date.parse(r.endedOn ?? today) - Date.parse(r.madeOn)) / 86_400_000);
  return n > 0 ? n : <span className="zero">·</span>;
}
