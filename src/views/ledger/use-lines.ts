import { type Dispatch, type SetStateAction, useCallback, useEffect, useRef, useState } from 'react';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import { get, post } from '../parts/api.ts';

interface Lines {
  rows: LedgerRow[];
  setRows: Dispatch<SetStateAction<LedgerRow[]>>;
  /** tells which lines are in sight; their small threads are fetched when they lack them */
  want(ids: readonly number[]): void;
}

/** The lines of the Ledger: those the page came with at once, all others right after, small threads as they come into sight. */
export function useLines(given: LedgerRow[], all: number, everywhere: boolean): Lines {
  const [rows, setRows] = useState(given);
  const asked = useRef(new Set(given.map((r) => r.id)));
  const now = useRef(rows);
  now.current = rows;
  useEffect(() => {
    if (given.length >= all) return;
    get<{ rows: LedgerRow[] }>(everywhere ? '/api/ledger?projects=all' : '/api/ledger').then(
      (out) =>
        setRows((old) => {
          const known = new Map(old.map((r) => [r.id, r]));
          const fetched = out.rows.map((r) => known.get(r.id) ?? r);
          const there = new Set(fetched.map((r) => r.id));
          return [...fetched, ...old.filter((r) => !there.has(r.id))];
        }),
      () => undefined,
    );
  }, [given.length, all, everywhere]);
  const want = useCallback((ids: readonly number[]) => {
    const lacking = ids.filter((id) => id && !asked.current.has(id));
    if (lacking.length === 0) return;
    for (const id of lacking) asked.current.add(id);
    post<{ lives: { id: number; life: LedgerRow['life']; last: number }[] }>('/api/ledger', { lives: lacking }).then(
      (out) => {
        const lives = new Map(out.lives.map((l) => [l.id, l]));
        setRows((old) => old.map((r) => (lives.has(r.id) && r.life.length === 0 ? { ...r, life: lives.get(r.id)!.life, last: lives.get(r.id)!.last } : r)));
      },
      () => {
        for (const id of lacking) asked.current.delete(id);
      },
    );
  }, []);
  return { rows, setRows, want };
}
