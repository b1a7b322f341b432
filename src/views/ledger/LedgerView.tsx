import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type Column, type Grouping, readColumns, readGrouping, USUAL } from '../../core/ledger/look.ts';
import { QUERY_KEYS, readQuery } from '../../core/ledger/query.ts';
import { isEnded, isOpen } from '../../core/ledger/state.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import type { LedgerProps } from '../../server/pages/ledger.ts';
import { post } from '../parts/api.ts';
import { Foot, type Said } from '../parts/Foot.tsx';
import { ColumnsDialog } from './ColumnsDialog.tsx';
import { COLUMN_CLASS, COLUMN_NAMES } from './columns.ts';
import { Duplicates } from './Duplicates.tsx';
import { EntryLine } from './EntryLine.tsx';
import { FilterSentence } from './FilterSentence.tsx';
import { useFigures } from './figures.ts';
import { ALL_OPEN, groupRows, passes } from './grouping.ts';
import { LedgerLine, type LineField, trailOf } from './LedgerLine.tsx';
import { SavedViews, ViewName } from './SavedViews.tsx';
import { SendTo } from './SendTo.tsx';
import { useChanges } from './use-changes.ts';
import { useLedgerLive } from './use-ledger-live.ts';
import { useLines } from './use-lines.ts';

type Editing = { id: number; field: LineField } | null;

/** Where the columns are kept, on this machine. */
const KEPT = 'ottik-ledger-columns';

/** Where what is shown now stands as it goes on paper. */
function printed(columns: readonly Column[]): string {
  const q = new URLSearchParams(location.search);
  if (columns.join() !== USUAL.join()) q.set('columns', columns.join(' '));
  return `/ledger/print${q.size ? `?${q}` : ''}`;
}

export default function LedgerView({ rows: given, all: count, people, series, today, me, views: givenViews, projects, others, start, by: asked, columns: askedColumns }: LedgerProps) {
  const everywhere = Object.keys(projects).length > 1;
  const { rows, setRows, want } = useLines(given, count, everywhere);
  useFigures(rows, everywhere);
  const [filter, setFilter] = useState(start);
  const [by, setBy] = useState<Grouping>(() => readGrouping(asked, everywhere ? 'project' : 'due'));
  const [views, setViews] = useState(givenViews);
  const [naming, setNaming] = useState(false);
  const [entering, setEntering] = useState(false);
  const [marked, setMarked] = useState<ReadonlySet<number>>(new Set());
  const context = useMemo(() => ({ today, me }), [today, me]);
  const query = useMemo(() => readQuery(filter.text), [filter.text]);
  const [current, setCurrent] = useState<number | null>(given.find((r) => passes(r, start, readQuery(start.text), context))?.id ?? null);
  const [editing, setEditing] = useState<Editing>(null);
  const [columns, setColumns] = useState<Column[]>(readColumns(askedColumns) ?? [...USUAL]);
  const [choosing, setChoosing] = useState(false);
  const [sending, setSending] = useState(false);
  useEffect(() => setColumns(readColumns(askedColumns) ?? readColumns(localStorage.getItem(KEPT)) ?? [...USUAL]), [askedColumns]);
  const keepColumns = (to: Column[]) => {
    setColumns(to);
    localStorage.setItem(KEPT, to.join(' '));
  };
  const [said, setSaid] = useState<Said | null>(null);
  const search = useRef<HTMLInputElement>(null);

  const groups = useMemo(
    () =>
      groupRows(
        rows.filter((r) => passes(r, filter, query, context)),
        by,
        today,
        new Map(Object.entries(projects)),
      ),
    [rows, filter, query, by, today, context, projects],
  );
  const lines = useMemo(() => groups.flatMap((g) => g.rows.map((r, i) => ({ r, head: i === 0 ? g : null }))), [groups]);
  const flat = useMemo(() => lines.map((l) => l.r), [lines]);
  // once a line has left the list, the next one is current; it comes back with its undo
  const place = useRef(0);
  const found = flat.findIndex((r) => r.id === current);
  const at = found >= 0 ? found : Math.min(place.current, flat.length - 1);
  const row = flat[at] ?? null;
  place.current = Math.max(0, at);
  useLedgerLive(everywhere, rows, setRows, (words) => setSaid({ head: words }));

  useEffect(() => {
    const q = new URLSearchParams(Object.entries(filter).filter(([k, v]) => v && !(k === 'state' && v === 'open')));
    if (everywhere) q.set('projects', 'all');
    if (by !== (everywhere ? 'project' : 'due')) q.set('by', by);
    if (askedColumns) q.set('columns', columns.join(' '));
    history.replaceState(null, '', q.size ? `?${q}` : location.pathname);
    document.querySelector('a[data-printed]')?.setAttribute('href', printed(columns));
  }, [filter, by, everywhere, askedColumns, columns]);
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
    const shown = document.querySelector(`tr[data-row="${row?.id}"]`);
    if (shown) shown.scrollIntoView({ block: 'nearest' });
    else if (at >= 0) sight.scrollToIndex(at, { align: 'center' });
  }, [row?.id]);
  const inSight = seen.map((v) => lines[v.index]?.r.id ?? 0);
  const key = `${inSight[0]} ${inSight.at(-1)} ${inSight.length}`;
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked for when other lines come into sight
  useEffect(() => want(inSight), [key]);

  const { change, act, merge, split, send, pairs, setPairs, lookAlikes, differ, refused } = useChanges({ row, marked, setRows, setSaid, unmark: () => setMarked(new Set()), leave: () => setEditing(null), choose: setCurrent });
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
      setViews((await post<{ views: typeof views }>('/api/ledger-views', { name, query: words, grouping: by, columns })).views);
      setSaid({ head: 'Saved', rest: `${name}: ${words || 'all that is open'}` });
    } catch (error) {
      refused(error);
    }
  };
  const step = (by: 1 | -1) => {
    const to = flat[Math.max(0, Math.min(flat.length - 1, at + by))];
    if (to) setCurrent(to.id);
  };
  const edit = (field: NonNullable<Editing>['field']) => {
    if (!row) return;
    if (isEnded(row.state) && field !== 'text') {
      setSaid({ head: `${row.ref} is ${row.state}`, rest: 'Reopen it first, with U.', bad: true });
      return;
    }
    setEditing({ id: row.id, field });
  };
  const open = row && isOpen(row.state);
  /** two that may be the same: while they are asked about, the keys are theirs */
  const pair = pairs?.[0];

  return (
    <>
      <FilterSentence filter={filter} by={by} people={people.filter((p) => rows.some((r) => r.owner.some((o) => o.id === p.id)))} series={series} me={me} everywhere={everywhere} search={search} onFilter={setFilter} onGroup={setBy} />
      {(query.wrong.length > 0 || sending || pairs !== null || marked.size > 0 || views.length > 0 || naming || entering) && (
        <div className="say second">
          {sending ? (
            <SendTo
              what={marked.size ? `${marked.size} marked` : (row?.ref ?? '')}
              projects={others}
              onSend={(id, name) => {
                setSending(false);
                void send(id, name);
              }}
              onLeave={() => setSending(false)}
            />
          ) : pairs !== null ? (
            <Duplicates pairs={pairs} today={today} onMerge={(p) => void merge(p.keep, [p.other.id])} onDiffer={(p) => void differ(p)} onLeave={() => setPairs(null)} />
          ) : entering ? (
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
                <b>{marked.size} marked</b>: D done, M move, O hand over, B backlog, Q put off, X drop, G merge into {row?.ref ?? 'the current one'}
              </span>
              <button type="button" className="may" onClick={() => setMarked(new Set())}>
                Unmark <kbd>Esc</kbd>
              </button>
            </>
          ) : naming ? (
            <ViewName onSave={(name) => void saveView(name)} onLeave={() => setNaming(false)} />
          ) : query.wrong.length > 0 ? (
            <span className="soon">{query.wrong.join('. ')}</span>
          ) : (
            <SavedViews
              views={views}
              onOpen={(v) => {
                setFilter({ ...ALL_OPEN, text: v.query });
                setBy(v.grouping);
                if (v.columns) setColumns(v.columns);
              }}
              onDrop={(v) => void post<{ views: typeof views }>('/api/ledger-views', { drop: v.id }).then((o) => setViews(o.views), refused)}
            />
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
            <button type="button" className="do" onClick={() => setFilter(ALL_OPEN)}>
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
                {columns.map((c) => (
                  <th key={c} className={`${COLUMN_CLASS[c]}${c === 'due' ? ' sortd' : ''}`}>
                    {COLUMN_NAMES[c]}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody ref={body}>
              {before > 0 && (
                <tr className="gap">
                  <td colSpan={2 + columns.length} style={{ height: before }} />
                </tr>
              )}
              {seen.map((v) => {
                const { r, head } = lines[v.index]!;
                return (
                  <LedgerLine
                    key={v.key}
                    row={r}
                    group={head}
                    columns={columns}
                    projects={projects}
                    current={r.id === row?.id}
                    marked={marked.has(r.id)}
                    editing={editing?.id === r.id ? editing.field : null}
                    people={people}
                    today={today}
                    index={v.index}
                    measure={sight.measureElement}
                    onChoose={() => setCurrent(r.id)}
                    onEdit={(field) => setEditing(field && { id: r.id, field })}
                    onChange={(what, words, now) => void change(r, what, words, now)}
                    onAct={(what, words, now) => act(what, words, now, r)}
                    onSplit={(parts) => void split(r, parts)}
                  />
                );
              })}
              {after > 0 && (
                <tr className="gap">
                  <td colSpan={2 + columns.length} style={{ height: after }} />
                </tr>
              )}
            </tbody>
          </table>
        </div>
      )}
      {choosing && <ColumnsDialog columns={columns} onChange={keepColumns} onClose={() => setChoosing(false)} />}
      <Foot
        said={said}
        keys={
          pair
            ? [
                { key: 'm', does: 'they are the same: merge them', line: 'Merge', run: () => void merge(pair.keep, [pair.other.id]) },
                { key: 'd', does: 'they differ, and are not shown together again', line: 'They differ', run: () => void differ(pair) },
                { key: 'Escape', does: 'leave it', run: () => setPairs(null) },
              ]
            : [
                { key: 'j', does: 'next line (or arrow down)', run: () => step(1) },
                { key: 'k', does: 'previous line (or arrow up)', run: () => step(-1) },
                { key: 'Enter', does: 'open the trail', line: 'Trail', run: () => row && location.assign(trailOf(row, projects)) },
                { key: 'd', does: 'done', line: 'Done', run: () => (marked.size || (row && open)) && act({ do: 'done' }, 'done', { state: 'done', endedOn: today }) },
                { key: 'm', does: 'move: type a new date', line: 'Move', run: () => edit('due') },
                { key: 'o', does: 'hand over: type an owner', line: 'Hand over', run: () => edit('owner') },
                { key: 'e', does: 'edit the wording', line: 'Edit', run: () => edit('text') },
                { key: 'v', does: 'mark the line, to change several at once', line: 'Mark', run: () => row && markAndStep(row.id) },
                { key: 'a', does: 'mark every line that is shown', run: () => setMarked(new Set(flat.map((r) => r.id))) },
                {
                  key: 'Escape',
                  does: 'unmark',
                  run: () => {
                    setMarked(new Set());
                    setPairs(null);
                    setSending(false);
                  },
                },
                ...(others.length ? [{ key: 'r', does: 'send it to another project, where it goes on', run: () => (marked.size || (row && open)) && setSending(true) }] : []),
                {
                  key: 'g',
                  does: 'merge the marked ones into the current line; with none marked, look for commitments that are the same',
                  run: () =>
                    marked.size && row
                      ? void merge(
                          row,
                          [...marked].filter((id) => id !== row.id),
                        )
                      : void lookAlikes(),
                },
                { key: 'p', does: 'split it into parts', run: () => edit('parts') },
                { key: 'c', does: 'choose the columns and their order', run: () => setChoosing(true) },
                { key: 'q', does: 'put off until a day, or take up again', run: () => (row?.putOff && row.putOff > today && marked.size === 0 ? act({ do: 'take up' }, 'taken up again', { putOff: null }) : edit('off')) },
                { key: 'b', does: 'into the backlog', run: () => (marked.size || (row && open)) && act({ do: 'put off', until: null }, 'in the backlog', { putOff: 'backlog' }) },
                { key: 'w', does: 'waiting: for something, or for another commitment (type its reference)', run: () => edit('waits') },
                { key: 's', does: 'still on it', run: () => row && open && act({ do: 'still on it' }, 'is still on', { state: 'open' }) },
                { key: 'x', does: 'drop it', run: () => (marked.size || (row && open)) && act({ do: 'drop' }, 'dropped', { state: 'dropped', endedOn: today }) },
                { key: 'u', does: 'reopen what is done or dropped', run: () => row && !open && act({ do: 'reopen' }, 'open again', { state: 'open', endedOn: null }) },
                { key: 'n', does: 'enter a commitment by hand', line: 'New', run: () => setEntering(true) },
                { key: 'i', does: 'print what is shown', run: () => location.assign(printed(columns)) },
                { key: 'y', does: 'save this view', run: () => setNaming(true) },
                { key: 'f', does: `find: words, or ${QUERY_KEYS.map((k) => k.example).join(', ')}`, run: () => search.current?.focus() },
              ]
        }
      />
    </>
  );
}
