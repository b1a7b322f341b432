import { type Dispatch, type SetStateAction, useState } from 'react';
import type { Change } from '../../server/ledger/changes.ts';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import { get, post, wentWrong } from '../parts/api.ts';
import type { Said } from '../parts/Foot.tsx';
import type { LookAlike } from './Duplicates.tsx';

interface Page {
  /** the current line */
  row: LedgerRow | null;
  marked: ReadonlySet<number>;
  setRows: Dispatch<SetStateAction<LedgerRow[]>>;
  setSaid(said: Said): void;
  unmark(): void;
  /** leaves the field that is being edited */
  leave(): void;
  choose(id: number): void;
}

/** What can be done with the lines of the Ledger, one, many, or two that are one; all of it can be taken back. */
export function useChanges({ row, marked, setRows, setSaid, unmark, leave, choose }: Page) {
  const [pairs, setPairs] = useState<LookAlike[] | null>(null);
  const put = (r: LedgerRow) => setRows((all) => all.map((x) => (x.id === r.id ? r : x)));
  const refused = (error: unknown) => setSaid(wentWrong(error));

  const change = async (r: LedgerRow, what: Change, words: string, optimistic: Partial<LedgerRow>) => {
    leave();
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
    leave();
    try {
      const out = await post<{ rows: LedgerRow[]; events: number[]; left: string[] }>('/api/commitments', { ids: [...marked], change: what });
      const by = new Map(out.rows.map((r) => [r.id, r]));
      setRows((all) => all.map((x) => by.get(x.id) ?? x));
      unmark();
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
  /** Puts what was merged or split in place of what was there; undo takes all of it back. */
  const reshaped = (out: { rows: LedgerRow[]; events: number[] }, head: string, made: readonly number[] = []) => {
    const by = new Map(out.rows.map((r) => [r.id, r]));
    setRows((all) => [...all.map((x) => by.get(x.id) ?? x), ...out.rows.filter((r) => !all.some((x) => x.id === r.id))]);
    unmark();
    setSaid({
      head,
      undo: () => {
        post<{ rows: LedgerRow[] }>('/api/commitments', { undo: out.events }).then((back) => {
          const were = new Map(back.rows.map((r) => [r.id, r]));
          setRows((all) => all.filter((x) => !made.includes(x.id)).map((x) => were.get(x.id) ?? x));
          setSaid({ head: 'As it was' });
        }, refused);
      },
    });
  };
  const merge = async (keep: LedgerRow, others: readonly number[]) => {
    try {
      reshaped(await post<{ rows: LedgerRow[]; events: number[] }>('/api/commitments', { merge: { keep: keep.id, others } }), `Merged into ${keep.ref}`);
      choose(keep.id);
      setPairs((all) => all?.filter((p) => ![p.keep.id, p.other.id].some((id) => others.includes(id))) ?? null);
    } catch (error) {
      refused(error);
    }
  };
  const split = async (r: LedgerRow, parts: string[]) => {
    leave();
    if (parts.length < 2) {
      setSaid({ head: 'One part is no split', rest: 'Write the parts with a semicolon between.', bad: true });
      return;
    }
    try {
      const out = await post<{ rows: LedgerRow[]; events: number[] }>('/api/commitments', { split: { id: r.id, parts } });
      reshaped(
        out,
        `${r.ref} split into ${parts.length}`,
        out.rows.map((x) => x.id).filter((id) => id !== r.id),
      );
    } catch (error) {
      refused(error);
    }
  };
  /** To another project, where they go on under new references: the marked lines, or the current one. */
  const send = async (project: string, name: string) => {
    const ids = marked.size ? [...marked] : row ? [row.id] : [];
    if (ids.length === 0) return;
    try {
      const out = await post<{ rows: LedgerRow[]; events: number[]; refs: string[] }>('/api/commitments', { send: { ids, project } });
      reshaped(out, `In ${name} now: ${out.refs.join(', ')}`);
    } catch (error) {
      refused(error);
    }
  };
  const lookAlikes = () =>
    get<{ pairs: LookAlike[] }>('/api/commitments').then(
      (out) => setPairs(out.pairs),
      (error: unknown) => refused(error),
    );
  const differ = async (pair: LookAlike) => {
    try {
      await post('/api/commitments', { differ: { keep: pair.keep.id, other: pair.other.id } });
      setPairs((all) => all?.slice(1) ?? null);
    } catch (error) {
      refused(error);
    }
  };
  /** On the marked lines where there are any, else on the current one. */
  const act = (what: Change, words: string, optimistic: Partial<LedgerRow>, on: LedgerRow | null = row) => {
    if (marked.size > 0) void changeMarked(what, words);
    else if (on) void change(on, what, words, optimistic);
  };
  return { change, act, merge, split, send, pairs, setPairs, lookAlikes, differ, refused };
}
