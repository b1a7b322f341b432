import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { addDays } from '../../core/dates/calendar.ts';
import { listOf, shortDay } from '../../core/language/days.ts';
import { DUE_WINDOWS, relativeDay } from '../../core/ledger/due.ts';
import { QUERY_KEYS, readQuery } from '../../core/ledger/query.ts';
import type { Change } from '../../server/changes.ts';
import type { LedgerRow } from '../../server/ledger.ts';
import type { LedgerProps } from '../../server/pages/ledger.ts';
import { get, post, Refused } from '../parts/api.ts';
import { DateField } from '../parts/DateField.tsx';
import { Foot, type Said } from '../parts/Foot.tsx';
import { OwnerField } from '../parts/OwnerField.tsx';
import { Pick } from '../parts/Pick.tsx';
import { Thread } from '../parts/Thread.tsx';
import { EntryLine } from './EntryLine.tsx';
import { type Grouping, groupRows, passes } from './grouping.ts';
import { useLines } from './use-lines.ts';

type Editing = { id: number; field: 'text' | 'owner' | 'due' | 'off' | 'waits' } | null;

/** Days before and after today that the small threads span. */
const BEFORE = 49;
const AHEAD = 28;

export default function LedgerView({ rows: given, all: count, people, series, today, me, views: givenViews, start }: LedgerProps) {
  const { rows, setRows, want } = useLines(given, count);
  const [filter, setFilter] = useState(start);
  const [by, setBy] = useState<Grouping>('due');
  const [views, setViews] = useState(givenViews);
  const [naming, setNaming] = useState(false);
  const [entering, setEntering] = useState(false);
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const context = useMemo(() => ({ today, me }), [today, me]);
  const query = useMemo(() => readQuery(filter.text), [filter.text]);
  const [current, setCurrent] = useState<number | null>(given.find((r) => passes(r, start, readQuery(start.text), context))?.id ?? null);
  const [editing, setEditing] = useState<Editing>(null);
  const [draft, setDraft] = useState('');
  const [said, setSaid] = useState<Said | null>(null);
  const search = useRef<HTMLInputElement>(null);

  const groups = useMemo(
    () =>
      groupRows(
        rows.filter((r) => passes(r, filter, query, context)),
        by,
        today,
      ),
    [rows, filter, query, by, today, context],
  );
  const lines = useMemo(() => groups.flatMap((g) => g.rows.map((r, i) => ({ r, head: i === 0 ? g : null }))), [groups]);
  const flat = useMemo(() => lines.map((l) => l.r), [lines]);
  const row = flat.find((r) => r.id === current) ?? null;

  useEffect(() => {
    const q = new URLSearchParams(Object.entries(filter).filter(([k, v]) => v && !(k === 'state' && v === 'open')));
    history.replaceState(null, '', q.size ? `?${q}` : location.pathname);
  }, [filter]);
  const body = useRef<HTMLTableSectionElement>(null);
  const [margin, setMargin] = useState(0);
  useEffect(() => setMargin((body.current?.getBoundingClientRect().top ?? 0) + scrollY), []);
  // only the lines in sight are in the page, so that fifty thousand scroll like fifty
  const sight = useWindowVirtualizer({ count: lines.length, estimateSize: (i) => (lines[i]?.head ? 34 : 28), overscan: 24, scrollMargin: margin, initialRect: { width: 1280, height: 900 }, getItemKey: (i) => `${lines[i]?.head ? 'h' : ''}${lines[i]?.r.id}.${i}` });
  const seen = sight.getVirtualItems();
  const before = seen[0] ? seen[0].start - margin : 0;
  const after = seen.length ? sight.getTotalSize() + margin - seen.at(-1)!.end : 0;
  const first = useRef(true);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the page follows the current line, not the list
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    const at = flat.findIndex((r) => r.id === current);
    const shown = document.querySelector(`tr[data-row="${current}"]`);
    if (shown) shown.scrollIntoView({ block: 'nearest' });
    else if (at >= 0) sight.scrollToIndex(at, { align: 'center' });
  }, [current]);
  const inSight = seen.map((v) => lines[v.index]?.r.id ?? 0);
  const key = `${inSight[0]} ${inSight.at(-1)} ${inSight.length}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for when other lines come into sight
  useEffect(() => want(inSight), [key]);

  const put = (r: LedgerRow) => setRows((all) => all.map((x) => (x.id === r.id ? r : x)));
  const refused = (error: unknown) => setSaid({ head: error instanceof Refused ? error.message : 'Something went wrong.', rest: error instanceof Refused ? (error.advice ?? undefined) : undefined, bad: true });

  const change = async (r: LedgerRow, what: Change, words: string, optimistic: Partial<LedgerRow>) => {
    setEditing(null);
    put({ ...r, ...optimistic });
    try {
      const kept = await post<{ row: LedgerRow; event: number }>(`/api/commitments/${r.id}`, { ...what, ...(r.last ? { seen: r.last } : {}) });
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
      // somebody else may have been quicker: their change is shown, and the next try counts
      get<{ row: LedgerRow }>(`/api/commitments/${r.id}`).then(
        (now) => put(now.row),
        () => undefined,
      );
    }
  };
  /** The same for every marked line: all of them or none. */
  const changeMarked = async (what: Change, words: string) => {
    setEditing(null);
    try {
      const out = await post<{ rows: LedgerRow[]; events: number[]; left: string[] }>('/api/commitments', { ids: [...marked], change: what });
      const by = new Map(out.rows.map((r) => [r.id, r]));
      setRows((all) => all.map((x) => by.get(x.id) ?? x));
      setMarked(new Set());
      setSaid({
        head: `${out.rows.length} ${words}`,
        rest: out.left.length ? `left as they were: ${out.left.join(' ')}` : undefined,
        undo: out.events.length
          ? () => {
              post<{ rows: LedgerRow[] }>('/api/commitments', { undo: out.events }).then((back) => {
                const were = new Map(back.rows.map((r) => [r.id, r]));
                setRows((all) => all.map((x) => were.get(x.id) ?? x));
                setSaid({ head: `${back.rows.length} as they were` });
              }, refused);
            }
          : undefined,
      });
    } catch (error) {
      refused(error);
    }
  };
  /** On the marked lines where there are any, else on the current one. */
  const act = (what: Change, words: string, optimistic: Partial<LedgerRow>, on: LedgerRow | null = row) => {
    if (marked.size > 0) void changeMarked(what, words);
    else if (on) void change(on, what, words, optimistic);
  };
  const toggle = (id: number) =>
    setMarked((old) => {
      const n = new Set(old);
      if (!n.delete(id)) n.add(id);
      return n;
    });
  const markAndStep = (id: number) => {
    toggle(id);
    step(1);
  };
  const saveView = async (name: string) => {
    setNaming(false);
    if (!name.trim()) return;
    try {
      const words = [filter.text, filter.owner && `owner:${filter.owner}`, filter.series && `series:${filter.series}`, filter.state !== 'open' && `is:${filter.state}`].filter(Boolean).join(' ');
      setViews((await post<{ views: typeof views }>('/api/ledger-views', { name, query: words, grouping: by })).views);
      setSaid({ head: 'Saved', rest: `${name}: ${words || 'all that is open'}` });
    } catch (error) {
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

  const select = (label: string, key: keyof typeof filter, options: [string, string][]) => <Pick label={label} value={filter[key]} options={options} onPick={(v) => setFilter({ ...filter, [key]: v })} />;

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
            ['off', 'put off'],
            ['backlog', 'backlogged'],
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
          <input ref={search} value={filter.text} placeholder="Words, or owner:bram late" onChange={(e) => setFilter({ ...filter, text: e.target.value })} onKeyDown={(e) => (e.key === 'Escape' || e.key === 'Enter') && (e.target as HTMLElement).blur()} />
          <kbd>F</kbd>
        </label>
      </div>
      {(query.wrong.length > 0 || marked.size > 0 || views.length > 0 || naming || entering) && (
        <div className="say second">
          {entering ? (
            <EntryLine
              people={people}
              today={today}
              onLeave={() => setEntering(false)}
              onMade={(made) => {
                setRows((all) => [...all, made.row]);
                setCurrent(made.row.id);
                setEntering(false);
                setSaid({ head: `${made.row.ref} entered`, rest: made.row.text, undo: () => void post<{ row: LedgerRow | null }>(`/api/events/${made.event}`, { do: 'undo' }).then(() => setRows((all) => all.filter((x) => x.id !== made.row.id)), refused) });
              }}
              onRefused={refused}
            />
          ) : marked.size > 0 ? (
            <>
              <span className="sentence">
                <b>{marked.size} marked</b>: D done, M move, O hand over, B backlog, Q put off, X drop
              </span>
              <button type="button" className="may" onClick={() => setMarked(new Set())}>
                Unmark <kbd>Esc</kbd>
              </button>
            </>
          ) : naming ? (
            <label className="sentence">
              Save this view as{' '}
              <input
                // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
                autoFocus
                maxLength={60}
                onKeyDown={(e) => {
                  if (e.key === 'Enter') void saveView((e.target as HTMLInputElement).value);
                  if (e.key === 'Escape') setNaming(false);
                }}
                onBlur={() => setNaming(false)}
              />
            </label>
          ) : query.wrong.length > 0 ? (
            <span className="soon">{query.wrong.join('. ')}</span>
          ) : (
            <span className="sentence saved">
              Saved:{' '}
              {views.map((v) => (
                <span key={v.id}>
                  <button
                    type="button"
                    className="set"
                    onClick={() => {
                      setFilter({ owner: '', state: 'open', series: '', due: '', text: v.query });
                      setBy(v.grouping);
                    }}
                  >
                    {v.name}
                  </button>{' '}
                  <button type="button" className="moss" aria-label={`Drop the view ${v.name}`} onClick={() => void post<{ views: typeof views }>('/api/ledger-views', { drop: v.id }).then((o) => setViews(o.views), refused)}>
                    ×
                  </button>{' '}
                </span>
              ))}
            </span>
          )}
        </div>
      )}
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
            <tbody ref={body}>
              {before > 0 && (
                <tr className="gap">
                  <td colSpan={9} style={{ height: before }} />
                </tr>
              )}
              {seen.map((v) => {
                const { r, head: g } = lines[v.index]!;
                const late = r.due !== null && r.due < today && r.state !== 'done' && r.state !== 'dropped';
                const mine = editing?.id === r.id ? editing.field : null;
                return (
                  <tr key={v.key} ref={sight.measureElement} data-index={v.index} data-row={r.id} className={`${g ? 'first' : ''}${r.id === current ? ' at' : ''}${marked.has(r.id) ? ' marked' : ''}${mine ? ' edit' : ''}`} aria-current={r.id === current || undefined} onClick={() => setCurrent(r.id)}>
                    <th scope="row">
                      {g && (
                        <span className={`grp ${g.tone}`}>
                          {g.name} <b>{g.rows.length}</b>
                        </span>
                      )}
                      <a className="ref" href={`/ledger/${r.ref}`}>
                        {r.ref}
                      </a>
                    </th>
                    <td className="what">
                      {mine === 'waits' ? (
                        <span className="typed wide">
                          <input
                            // biome-ignore lint/a11y/noAutofocus: the field opens because a key was pressed to type into it
                            autoFocus
                            aria-label="Waits for"
                            placeholder="what it waits for, or a reference such as C-12"
                            onKeyDown={(e) => {
                              const words = (e.target as HTMLInputElement).value.trim();
                              if (e.key === 'Enter') void change(r, { do: 'block', ...(/^C-\d+$/i.test(words) ? { on: words.toUpperCase() } : words ? { reason: words } : {}) }, 'waits', { state: 'blocked' });
                              if (e.key === 'Escape') setEditing(null);
                            }}
                          />
                        </span>
                      ) : mine === 'text' ? (
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
                        <OwnerField value={r.owner.map((o) => o.id)} people={people} onLeave={() => setEditing(null)} onKeep={(ids, names) => act({ do: 'hand over', owner: ids }, `is ${listOf(names) || 'nobody’s'} now`, { owner: ids.map((id, k) => ({ id, name: names[k] ?? id })) }, r)} />
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
                      {mine === 'off' ? (
                        <DateField value={null} context={{ date: today, next: null }} today={today} label="Put off until" onLeave={() => setEditing(null)} onKeep={(until) => (until ? act({ do: 'put off', until }, `put off to ${shortDay(until, today)}`, { putOff: until }, r) : setEditing(null))} />
                      ) : mine === 'due' ? (
                        <DateField value={r.due} context={{ date: today, next: null }} today={today} label="Due date" onLeave={() => setEditing(null)} onKeep={(due) => act({ do: 'move', due }, due ? `moved to ${shortDay(due, today)}` : 'has no date now', { due }, r)} />
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
                            <span className="rel moss">{r.waitsFor ? `waits for ${r.waitsFor}` : 'waiting'}</span>
                          ) : r.putOff !== null && r.putOff > today ? (
                            <span className="rel moss">{r.putOff === 'backlog' ? 'backlog' : `back ${shortDay(r.putOff, today)}`}</span>
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
              })}
              {after > 0 && (
                <tr className="gap">
                  <td colSpan={9} style={{ height: after }} />
                </tr>
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
          { key: 'd', does: 'done', line: 'Done', run: () => (marked.size || (row && open)) && act({ do: 'done' }, 'done', { state: 'done', endedOn: today }) },
          { key: 'm', does: 'move: type a new date', line: 'Move', run: () => edit('due') },
          { key: 'o', does: 'hand over: type an owner', line: 'Hand over', run: () => edit('owner') },
          { key: 'e', does: 'edit the wording', line: 'Edit', run: () => edit('text') },
          { key: 'v', does: 'mark the line, to change several at once', line: 'Mark', run: () => row && markAndStep(row.id) },
          { key: 'a', does: 'mark every line that is shown', run: () => setMarked(new Set(flat.map((r) => r.id))) },
          { key: 'Escape', does: 'unmark', run: () => setMarked(new Set()) },
          { key: 'q', does: 'put off until a day, or take up again', run: () => (row?.putOff && row.putOff > today && marked.size === 0 ? act({ do: 'take up' }, 'taken up again', { putOff: null }) : edit('off')) },
          { key: 'b', does: 'into the backlog', run: () => (marked.size || (row && open)) && act({ do: 'put off', until: null }, 'in the backlog', { putOff: 'backlog' }) },
          { key: 'w', does: 'waiting: for something, or for another commitment (type its reference)', run: () => edit('waits') },
          { key: 's', does: 'still on it', run: () => row && open && act({ do: 'still on it' }, 'is still on', { state: 'open' }) },
          { key: 'x', does: 'drop it', run: () => (marked.size || (row && open)) && act({ do: 'drop' }, 'dropped', { state: 'dropped', endedOn: today }) },
          { key: 'u', does: 'reopen what is done or dropped', run: () => row && !open && act({ do: 'reopen' }, 'open again', { state: 'open', endedOn: null }) },
          { key: 'n', does: 'enter a commitment by hand', line: 'New', run: () => setEntering(true) },
          { key: 'y', does: 'save this view', run: () => setNaming(true) },
          { key: 'f', does: `find: words, or ${QUERY_KEYS.map((k) => k.example).join(', ')}`, run: () => search.current?.focus() },
        ]}
      />
    </>
  );
}

function days(r: LedgerRow, today: string): number | React.ReactNode {
  const n = Math.round((Date.parse(r.endedOn ?? today) - Date.parse(r.madeOn)) / 86_400_000);
  return n > 0 ? n : <span className="zero">·</span>;
}
