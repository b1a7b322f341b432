import { type Dispatch, type SetStateAction, useRef } from 'react';
import type { LedgerRow } from '../../server/ledger/commitments.ts';
import { get } from '../parts/api.ts';
import { useStream } from '../parts/use-stream.ts';

/** A change of one's own is answered within this time, and shown before the stream tells of it; in milliseconds. */
const OWN_FIRST = 500;

const looks = (r: LedgerRow) => JSON.stringify([r.text, r.owner, r.due, r.state, r.putOff, r.waitsFor, r.endedOn]);

/** What happened elsewhere to the lines that are shown, in a few words; null where nothing of it is new here. */
export function changedSince(shown: readonly LedgerRow[], now: readonly LedgerRow[], gone: readonly number[]): string | null {
  const before = new Map(shown.map((r) => [r.id, r]));
  const changed = now.filter((r) => !before.has(r.id) || looks(before.get(r.id)!) !== looks(r));
  const away = shown.filter((r) => gone.includes(r.id));
  const refs = [...changed, ...away].map((r) => r.ref);
  if (refs.length === 0) return null;
  return refs.length > 3 ? `${refs.length} lines were changed elsewhere` : `${refs.join(', ')} ${changed.length === 1 && !before.has(changed[0]!.id) ? 'came in' : away.length && !changed.length ? 'was taken back elsewhere' : refs.length === 1 ? 'was changed elsewhere' : 'were changed elsewhere'}`;
}

/** Keeps the lines of the Ledger as they stand, whoever changes them and wherever. */
export function useLedgerLive(everywhere: boolean, rows: readonly LedgerRow[], setRows: Dispatch<SetStateAction<LedgerRow[]>>, tell: (words: string) => void): void {
  const now = useRef(rows);
  now.current = rows;
  const [timer, from] = [useRef(0), useRef<number | null>(null)];
  const ask = async () => {
    const since = from.current;
    from.current = null;
    const out = await get<{ rows: LedgerRow[]; gone: number[] }>(`/api/ledger?since=${since}${everywhere ? '&projects=all' : ''}`).catch(() => null);
    if (!out) return;
    const words = changedSince(now.current, out.rows, out.gone);
    const by = new Map(out.rows.map((r) => [r.id, r]));
    setRows((all) => [...all.filter((r) => !out.gone.includes(r.id)).map((r) => by.get(r.id) ?? r), ...out.rows.filter((r) => !all.some((x) => x.id === r.id))]);
    if (words) tell(words);
  };
  useStream('/api/ledger-live', (_stamp, before) => {
    from.current = Math.min(from.current ?? Number(before), Number(before));
    clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void ask(), OWN_FIRST);
  });
}
